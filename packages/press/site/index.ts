/**
 * Publication → the files of a help site.
 * Static pages that need no server and also work from a folder; contents, index and search come as scripts with data.
 */
import type { IndexEntry, Place, Publication } from '@ukiyo/core/compose';
import { problem, type Problem } from '@ukiyo/core/problems';
import { noteRules, screenRules, type StyleSheet } from '@ukiyo/core/styles';
import { wordsFor, type Words } from '@ukiyo/core/words';
import { usualDesign } from '../print/design.ts';
import { assetFileName, isImage, type AssetSource } from '../shared/assets.ts';
import { topicRenderer } from './content.ts';
import { join, raw, tag, text, type Html } from './html.ts';
import type { SiteAssets } from './media.ts';
import { breadcrumb, placeCards, pageFrame, relatedLinks, wayOn, type PageParts } from './page.ts';
import { layOutPages, type Pages } from './pages.ts';
import { ownSelector, siteSelectors } from './selectors.ts';
import { siteRuntime } from './runtime.ts';
import { dataScript, searchIndexScript } from './searching.ts';

export interface SiteOptions {
  /** Whose screen values the pages wear. */
  readonly sheet?: StyleSheet;
  /** Told after every page: how many are done, of how many. */
  readonly onPage?: (done: number, total: number) => void;
}

export interface SiteResult {
  /** Path below the site's folder and content, one after the other, so that the whole site is never in memory at once. */
  readonly files: Iterable<readonly [path: string, content: string | Uint8Array]>;
  /** Complete once all files have been taken. */
  readonly problems: readonly Problem[];
  readonly pageCount: number;
}

/** Makes the files of a help site. Problems: `image.unreadable` (the image is left out). */
export function siteFiles(publication: Publication, source: AssetSource, options: SiteOptions = {}): SiteResult {
  const words = wordsFor(publication.locale);
  const sheet = options.sheet ?? usualDesign.sheet;
  const pages = layOutPages(publication);
  const problems: Problem[] = [];
  const shown = new Map<string, { href: string; width?: number; height?: number; mediaType: string }>();
  for (const id of publication.assets) {
    const asset = source(id);
    if (!asset) continue;
    const isMedia = /^(video|audio)\//u.test(asset.mediaType);
    if (!isMedia && !isImage(asset)) {
      problems.push(problem('error', 'image.unreadable', `“${asset.name}” is not an image that can be shown. It is left out.`));
      continue;
    }
    const { width, height } = asset;
    shown.set(id, { href: `assets/${assetFileName(asset)}`, mediaType: asset.mediaType, ...(width === undefined ? {} : { width }), ...(height === undefined ? {} : { height }) });
  }
  const assets: SiteAssets = { find: (id) => shown.get(id) };

  const wholePage = pageFrame(publication, words);

  function* files(): Generator<readonly [string, string | Uint8Array]> {
    yield* siteRuntime();
    yield ['sheet.css', sheetRules(sheet, publication.locale)];
    for (const [id, { href }] of shown) {
      const asset = source(id);
      if (asset) yield [href, asset.bytes];
    }
    yield ['contents-data.js', dataScript('contents', JSON.stringify(contentsData(publication.places, pages)))];
    yield ['words-data.js', dataScript('words', JSON.stringify(wordsData(publication, pages, words)))];
    yield ['search-index.js', searchIndexScript(publication, pages)];
    yield ['index.html', wholePage(homePage(publication, pages))];
    yield ['contents.html', wholePage(contentsPage(publication, pages, words))];
    let done = 0;
    for (const place of pages.order) {
      yield [pages.href(place.anchor)!, wholePage(placePage(place, done, publication, pages, assets, words, sheet))];
      done += 1;
      options.onPage?.(done, pages.order.length);
    }
  }
  return { files: files(), problems, pageCount: pages.order.length };
}

/** What a style sheet says of screens. */
function sheetRules(sheet: StyleSheet, locale: string): string {
  const own = Object.keys(sheet.styles).filter((id) => sheet.styles[id]!.wornBy !== undefined);
  const selectors = { ...siteSelectors, ...Object.fromEntries(own.map((id) => [id, ownSelector(id)])) };
  return `${noteRules(sheet, (kind) => (kind === 'note' ? '.note' : `.note.${kind}`))}\n${screenRules(sheet, selectors, locale)}\n`;
}

function placePage(place: Place, index: number, publication: Publication, pages: Pages, assets: SiteAssets, words: Words, sheet: StyleSheet): PageParts {
  const renderer = topicRenderer(publication, pages, assets, words, sheet);
  const heading = (one: Place): Html => join([...(one.number === undefined ? [] : [tag('span', { class: 'number' }, text(one.number)), raw(' ')]), text(one.label)]);
  const joined = (above: Place, level: number): Html =>
    join(
      above.children
        .filter((one) => isOn(one, place, pages))
        .map((one) => tag('section', { class: 'joined', id: one.anchor }, one.hasHeading ? tag(`h${level}`, {}, heading(one)) : raw(''), body(one, level))),
    );
  const body = (one: Place, level: number): Html => join([one.content ? renderer.render(one.content, Math.min(6, level + 1)) : raw(''), joined(one, Math.min(6, level + 1))]);
  const article = tag('article', {}, tag('h1', {}, heading(place)), body(place, 1));
  const together = withJoined(place, place, pages);
  const children = together.flatMap((one) => one.children.filter((child) => child.inContents && !isOn(child, place, pages)));
  const { footnotes } = renderer;
  const main = join([
    breadcrumb(place, pages, words),
    article,
    ...(footnotes.length === 0 ? [] : [tag('section', { class: 'footnotes', 'aria-label': words.footnotes }, tag('ol', {}, ...footnotes.map((note, at) => tag('li', { id: `fn-${at + 1}` }, note))))]),
    ...(children.length === 0 ? [] : [tag('section', { class: 'inside' }, tag('h2', {}, text(words.inThisSection)), placeCards(children, pages))]),
    relatedLinks(together, publication, pages, words),
    wayOn(index, pages, words),
  ]);
  return { title: place.label, description: place.shortDescription, main };
}

/** Whether a place stands on the page of another. */
const isOn = (one: Place, page: Place, pages: Pages): boolean => one !== page && pages.href(one.anchor)?.split('#')[0] === pages.href(page.anchor);

/** A place and all that stand on its page, in reading order. */
const withJoined = (place: Place, page: Place, pages: Pages): Place[] => [place, ...place.children.filter((one) => isOn(one, page, pages)).flatMap((one) => withJoined(one, page, pages))];

function homePage(publication: Publication, pages: Pages): PageParts {
  const { facts } = publication;
  const top = publication.places.filter((place) => place.inContents && pages.order.includes(place));
  const main = tag(
    'div',
    { class: 'home' },
    tag('h1', {}, text(facts.title)),
    ...(facts.subtitle === '' ? [] : [tag('p', { class: 'subtitle' }, text(facts.subtitle))]),
    ...(facts.description === '' ? [] : [tag('p', { class: 'lead' }, text(facts.description))]),
    placeCards(top, pages),
  );
  return { title: facts.title, description: facts.description, main };
}

function contentsPage(publication: Publication, pages: Pages, words: Words): PageParts {
  const list = (places: readonly Place[]): Html =>
    tag(
      'ul',
      {},
      ...places
        .filter((place) => place.inContents && pages.href(place.anchor) !== undefined)
        .map((place) => tag('li', {}, tag('a', { href: pages.href(place.anchor) }, text(place.label)), ...(place.children.some((child) => child.inContents) ? [list(place.children)] : []))),
    );
  return { title: words.contents, description: '', main: tag('div', { class: 'all-contents' }, tag('h1', {}, text(words.contents)), list(publication.places)) };
}

interface ContentsData {
  readonly h: string;
  readonly t: string;
  readonly n?: string;
  readonly c?: readonly ContentsData[];
}

function contentsData(places: readonly Place[], pages: Pages): ContentsData[] {
  return places
    .filter((place) => place.inContents && pages.href(place.anchor) !== undefined)
    .map((place) => {
      const inner = contentsData(place.children, pages);
      return { h: pages.href(place.anchor)!, t: place.label, ...(place.number === undefined ? {} : { n: place.number }), ...(inner.length === 0 ? {} : { c: inner }) };
    });
}

interface WordData {
  readonly t: string;
  readonly d: number;
  readonly h: readonly (readonly [string, string])[];
  readonly s?: string;
}

function wordsData(publication: Publication, pages: Pages, words: Words): WordData[] {
  const titleOf = (anchor: string): string => {
    const place = publication.targets[anchor]?.place ?? anchor.split('--')[0]!;
    return publication.targets[place]?.title ?? place;
  };
  const hrefOf = (anchor: string): string | undefined => {
    const page = pages.href(anchor);
    if (page !== undefined) return page;
    const place = anchor.split('--')[0]!;
    const file = pages.href(place);
    return file === undefined ? undefined : `${file}#${anchor}`;
  };
  const flatten = (entries: readonly IndexEntry[], depth: number): WordData[] =>
    entries.flatMap((entry) => {
      const sees = [...(entry.see.length > 0 ? [`${words.see} ${entry.see.join('; ')}`] : []), ...(entry.seeAlso.length > 0 ? [`${words.seeAlso} ${entry.seeAlso.join('; ')}`] : [])];
      const links = entry.locators.flatMap(({ anchor }): [string, string][] => {
        const href = hrefOf(anchor);
        return href === undefined ? [] : [[href, titleOf(anchor)]];
      });
      return [{ t: entry.term, d: depth, h: links, ...(sees.length === 0 ? {} : { s: sees.join('; ') }) }, ...flatten(entry.entries, depth + 1)];
    });
  return publication.index.flatMap((group) => flatten(group.entries, 0));
}
