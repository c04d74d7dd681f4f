/**
 * Publication → the files of a help site.
 * Static pages that need no server and also work from a folder; contents, index and search come as
 * scripts with data.
 */
import type { Publication } from '@ukiyo/core/compose';
import { escapeText } from '@ukiyo/core/markup';
import { problem, type Problem } from '@ukiyo/core/problems';
import {
  checkLook,
  lookRules,
  noteRules,
  ownRules,
  screenRules,
  shippedLooks,
  type SiteLook,
  type StyleSheet,
} from '@ukiyo/core/styles';
import { wordsFor } from '@ukiyo/core/words';
import { usualDesign } from '../print/design.ts';
import type { AssetSource } from '../shared/assets.ts';
import type { Synonyms } from '../shared/terms.ts';
import { contextScript, contextTargets } from './context-help.ts';
import type { Sibling, SiteContext } from './context.ts';
import { countedData } from './counting.ts';
import { contentsData, wordsData } from './data.ts';
import { assetsShown, type SiteAssets } from './media.ts';
import { addressOf, isWebAddress, pageFrame } from './page.ts';
import { contextScriptFile, glossaryFile, helpFile } from './files.ts';
import { glossaryPage } from './glossary.ts';
import type { SiteMemory } from './memory.ts';
import { layOutPages, type Filing } from './pages.ts';
import { contentsPage, helpPage, homePage, missingPage, placePage } from './placing.ts';
import { readersData, readersOf, type ReaderChoice } from './readers.ts';
import { siteRuntime } from './runtime.ts';
import { dataScript, searchIndexScript } from './searching.ts';
import { ownSelector, siteSelectors } from './selectors.ts';

export type { ReaderChoice } from './readers.ts';

export interface SiteOptions extends Filing {
  /** Whose screen values the pages wear. */
  readonly sheet?: StyleSheet;
  readonly look?: SiteLook;
  /** Where it is found on the web. */
  readonly address?: string;
  /** What its readers may set, in this order, of the facets that the publication leaves open. */
  readonly choices?: readonly ReaderChoice[];
  /** The topic that is its home page. */
  readonly start?: string;
  /** Words that mean the same to who searches. */
  readonly synonyms?: Synonyms;
  /** The same site in other languages. */
  readonly siblings?: readonly Sibling[];
  /** Gives back topics of earlier builds. */
  readonly memory?: SiteMemory;
  /** The item whose elements say where they stand in its text. */
  readonly traced?: string;
  /** Told after every page: how many are done, of how many. */
  readonly onPage?: (done: number, total: number) => void;
}

/** What pages wear where nobody has said. */
export const usualSite = ({
  sheet = usualDesign.sheet,
  look = shippedLooks['harbour']!,
}: SiteOptions): { readonly sheet: StyleSheet; readonly look: SiteLook } => ({ sheet, look });

export interface SiteResult {
  /** Every file of the site, below its folder, in the order in which they are made. */
  readonly paths: readonly string[];
  /** One file; undefined where there is none. */
  file(path: string): string | Uint8Array | undefined;
  /** All of them, one after the other, so that the whole site is never in memory at once. */
  readonly files: Iterable<readonly [path: string, content: string | Uint8Array]>;
  readonly problems: readonly Problem[];
  readonly pageCount: number;
}

/**
 * Makes the files of a help site. Problems: `image.unreadable` (the image is left out), those of
 * the look.
 */
export function siteFiles(
  publication: Publication,
  source: AssetSource,
  options: SiteOptions = {},
): SiteResult {
  const { address = '', choices = [] } = options;
  const { sheet, look } = usualSite(options);
  const pages = layOutPages(publication, options);
  const { shown, problems: ofAssets } = assetsShown(publication.assets, source, [
    look.logo?.asset,
    look.favicon,
  ]);
  const problems: Problem[] = [...checkLook(look), ...ofAssets];
  const assets: SiteAssets = { find: (id) => shown.get(id) };
  const { traced } = options;
  const start =
    options.start === undefined
      ? undefined
      : pages.shown.find(
          ({ origin, anchor }) => origin.item === options.start || anchor === options.start,
        );
  if (options.start !== undefined && !start)
    problems.push(
      problem(
        'warning',
        'edition.start',
        'The topic that is to be the home page is not in this publication.',
        { item: options.start },
      ),
    );
  const plain: SiteContext = {
    ...(traced === undefined ? {} : { traced }),
    publication,
    pages,
    assets,
    words: wordsFor(publication.locale),
    sheet,
    look,
    isSite: true,
    address,
    readers: readersOf(publication),
    siblings: options.siblings ?? [],
    ...(start ? { start } : {}),
  };
  const site = options.memory ? { ...plain, kept: options.memory.topicsOf(plain) } : plain;
  const targets = contextTargets(site);
  const hasChoices = choices.some(({ facet }) =>
    publication.open.some(({ name }) => name === facet),
  );
  const wholePage = pageFrame(site, hasChoices);

  const made = new Map<string, () => string | Uint8Array>();
  for (const [path, content] of siteRuntime())
    if (path !== 'readers.js' || hasChoices) made.set(path, () => content);
  made.set('look.css', () => lookRules(look));
  const own = ownRules(look);
  if (own !== undefined && own !== '') made.set('own.css', () => own);
  made.set('sheet.css', () => sheetRules(sheet, publication.locale));
  for (const [id, { href }] of shown) made.set(href, () => source(id)?.bytes ?? '');
  made.set('contents-data.js', () =>
    dataScript('contents', JSON.stringify(contentsData(publication.places, site))),
  );
  made.set('words-data.js', () => dataScript('words', JSON.stringify(wordsData(site))));
  made.set('search-index.js', () => searchIndexScript(site, options.synonyms));
  if (hasChoices) {
    made.set('counted-data.js', () => dataScript('counted', JSON.stringify(countedData(site))));
    made.set('readers-data.js', () =>
      dataScript('readers', JSON.stringify(readersData(publication, choices, site.readers))),
    );
  }
  made.set('index.html', () => wholePage(homePage(site)));
  made.set('contents.html', () => wholePage(contentsPage(site)));
  made.set('404.html', () => wholePage(missingPage(site)));
  if (publication.glossary.length > 0) made.set(glossaryFile, () => wholePage(glossaryPage(site)));
  if (Object.keys(targets).length > 0) {
    made.set(helpFile, () => wholePage(helpPage(site)));
    made.set(contextScriptFile, () => contextScript(targets));
    made.set('context-help.json', () => `${JSON.stringify(targets, null, 1)}\n`);
  }
  if (isWebAddress(address))
    made.set('sitemap.xml', () =>
      siteMap(address, ['index.html', ...pages.order.map(({ anchor }) => pages.href(anchor)!)]),
    );
  const ofPlaces = new Map(
    pages.order.map((place, at) => [
      pages.href(place.anchor)!,
      () => wholePage(placePage(place, at, site)),
    ]),
  );
  for (const [path, make] of ofPlaces) made.set(path, make);

  function* files(): Generator<readonly [string, string | Uint8Array]> {
    let done = 0;
    for (const [path, make] of made) {
      yield [path, make()];
      if (!ofPlaces.has(path)) continue;
      done += 1;
      options.onPage?.(done, ofPlaces.size);
    }
  }
  return {
    paths: [...made.keys()],
    file: (path) => made.get(path)?.(),
    files: files(),
    problems,
    pageCount: pages.order.length,
  };
}

/** The pages for search engines (sitemaps.org, protocol 0.9). */
function siteMap(address: string, paths: readonly string[]): string {
  const urls = paths.map((path) => `<url><loc>${escapeText(addressOf(address, path))}</loc></url>`);
  return (
    '<?xml version="1.0" encoding="UTF-8"?>\n' +
    `<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">${urls.join('')}</urlset>\n`
  );
}

/** What a style sheet says of screens. */
export function sheetRules(sheet: StyleSheet, locale: string): string {
  const own = Object.keys(sheet.styles).filter((id) => sheet.styles[id]!.wornBy !== undefined);
  const selectors = {
    ...siteSelectors,
    ...Object.fromEntries(own.map((id) => [id, ownSelector(id)])),
  };
  return (
    `${noteRules(sheet, (kind) => (kind === 'note' ? '.note' : `.note.${kind}`))}\n` +
    `${screenRules(sheet, selectors, locale)}\n`
  );
}
