/**
 * Publication → the files of a help site.
 * Static pages that need no server and also work from a folder; contents, index and search come as scripts with data.
 */
import type { Publication } from '@ukiyo/core/compose';
import { problem, type Problem } from '@ukiyo/core/problems';
import { noteRules, screenRules, type StyleSheet } from '@ukiyo/core/styles';
import { wordsFor } from '@ukiyo/core/words';
import { usualDesign } from '../print/design.ts';
import { assetFileName, isImage, type AssetSource } from '../shared/assets.ts';
import type { SiteContext } from './context.ts';
import { countedData } from './counting.ts';
import { contentsData, wordsData } from './data.ts';
import type { SiteAssets } from './media.ts';
import { pageFrame } from './page.ts';
import { layOutPages } from './pages.ts';
import { contentsPage, homePage, placePage } from './placing.ts';
import { readersData, readersOf, type ReaderChoice } from './readers.ts';
import { siteRuntime } from './runtime.ts';
import { dataScript, searchIndexScript } from './searching.ts';
import { ownSelector, siteSelectors } from './selectors.ts';

export type { ReaderChoice } from './readers.ts';

export interface SiteOptions {
  /** Whose screen values the pages wear. */
  readonly sheet?: StyleSheet;
  /** What its readers may set, in this order, of the facets that the publication leaves open. */
  readonly choices?: readonly ReaderChoice[];
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
  const { sheet = usualDesign.sheet, choices = [] } = options;
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

  const site: SiteContext = { publication, pages, assets, words: wordsFor(publication.locale), sheet, readers: readersOf(publication) };
  const hasChoices = choices.some(({ facet }) => publication.open.some(({ name }) => name === facet));
  const wholePage = pageFrame(site, hasChoices);

  function* files(): Generator<readonly [string, string | Uint8Array]> {
    for (const [path, content] of siteRuntime()) if (path !== 'readers.js' || hasChoices) yield [path, content];
    yield ['sheet.css', sheetRules(sheet, publication.locale)];
    for (const [id, { href }] of shown) {
      const asset = source(id);
      if (asset) yield [href, asset.bytes];
    }
    yield ['contents-data.js', dataScript('contents', JSON.stringify(contentsData(publication.places, site)))];
    yield ['words-data.js', dataScript('words', JSON.stringify(wordsData(site)))];
    yield ['search-index.js', searchIndexScript(site)];
    yield ['index.html', wholePage(homePage(site))];
    yield ['contents.html', wholePage(contentsPage(site))];
    let done = 0;
    for (const place of pages.order) {
      yield [pages.href(place.anchor)!, wholePage(placePage(place, done, site))];
      done += 1;
      options.onPage?.(done, pages.order.length);
    }
    // Last: by now every condition has its number.
    if (hasChoices) {
      yield ['counted-data.js', dataScript('counted', JSON.stringify(countedData(site)))];
      yield ['readers-data.js', dataScript('readers', JSON.stringify(readersData(publication, choices, site.readers)))];
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
