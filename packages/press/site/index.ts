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
import { usualSheet, withDrawings, type AssetSource, type Synonyms } from '../shared/index.ts';
import { contextScript, contextTargets } from './context-help.ts';
import {
  assetsShown,
  layOutPages,
  readersData,
  siteReaders,
  type Filing,
  type ReaderChoice,
  type Sibling,
  type HtmlContext,
  type SiteMemory,
} from '../topics/index.ts';
import { countedData } from './counting.ts';
import { contentsData, wordsData } from './data.ts';
import type { PageParts } from './page.ts';
import { addressOf, isWebAddress } from './addresses.ts';
import { pageFrame } from './frame.ts';
import { contextScriptFile, glossaryFile, helpFile } from './files.ts';
import { glossaryPage } from './glossary.ts';
import { contentsPage, helpPage, homePage, missingPage, placePage } from './placing.ts';
import { proofScript, proofScriptContent, siteRuntime } from './runtime.ts';
import { dataScript, searchIndexScript } from './searching.ts';
import { ownSelector, siteSelectors } from './selectors.ts';

export type { ReaderChoice } from '../topics/index.ts';
export { languagesPage, languagesScript } from './languages.ts';
export { siteRuntime } from './runtime.ts';

export interface SiteOptions extends Filing {
  /** The style sheet that gives the pages their screen values. */
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
  /** It is looked at in a frame of the workshop, which gives it orders. */
  readonly isProof?: boolean;
  /** Told after every page: how many are done, of how many. */
  readonly onPage?: (done: number, total: number) => void;
}

/** The usual look of pages. */
export const usualSite = ({
  sheet = usualSheet,
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

/** What a site is made from, and what is wrong with that. */
interface SiteGround {
  readonly site: HtmlContext;
  readonly shown: ReturnType<typeof assetsShown>['shown'];
  readonly problems: readonly Problem[];
}

function siteGround(
  publication: Publication,
  source: AssetSource,
  options: SiteOptions,
): SiteGround {
  const { sheet, look } = usualSite(options);
  const pages = layOutPages(publication, options);
  const { shown, problems } = assetsShown(publication.assets, source, [
    look.logo?.asset,
    look.favicon,
  ]);
  const { traced, start: wanted } = options;
  const start = pages.shown.find(
    ({ origin, anchor }) => wanted !== undefined && [origin.item, anchor].includes(wanted),
  );
  const plain: HtmlContext = {
    ...(traced === undefined ? {} : { traced }),
    publication,
    pages,
    assets: { find: (id) => shown.get(id) },
    words: wordsFor(publication.locale),
    sheet,
    look,
    isSite: true,
    isProof: options.isProof === true,
    address: options.address ?? '',
    readers: siteReaders(publication),
    siblings: options.siblings ?? [],
    ...(start ? { start } : {}),
  };
  const missing =
    wanted === undefined || start
      ? []
      : [
          problem(
            'warning',
            'edition.start',
            'The topic that is to be the home page is not in this publication.',
            { item: wanted },
          ),
        ];
  return {
    site: options.memory ? { ...plain, kept: options.memory.topicsOf(plain) } : plain,
    shown,
    problems: [...checkLook(look), ...problems, ...missing],
  };
}

/** Files by their paths, each made when it is asked for. */
type Makers = Map<string, () => string | Uint8Array>;

/** Styles, scripts and images. */
function partsOf(
  { site, shown }: SiteGround,
  source: AssetSource,
  { choices = [], synonyms }: SiteOptions,
  hasChoices: boolean,
): Makers {
  const { publication, look, sheet, readers } = site;
  const made: Makers = new Map();
  for (const [path, content] of siteRuntime())
    if (path !== 'readers.js' || hasChoices) made.set(path, () => content);
  if (site.isProof === true) made.set(proofScript, proofScriptContent);
  made.set('look.css', () => lookRules(look));
  const own = ownRules(look);
  if (own !== undefined && own !== '') made.set('own.css', () => own);
  made.set('sheet.css', () => sheetRules(sheet, publication.locale));
  for (const [id, { href }] of shown) made.set(href, () => source(id)?.bytes ?? '');
  const data = (path: string, name: string, valueOf: () => unknown): void =>
    void made.set(path, () => dataScript(name, JSON.stringify(valueOf())));
  data('contents-data.js', 'contents', () => contentsData(publication.places, site));
  data('words-data.js', 'words', () => wordsData(site));
  made.set('search-index.js', () => searchIndexScript(site, synonyms));
  if (hasChoices) {
    data('counted-data.js', 'counted', () => countedData(site));
    data('readers-data.js', 'readers', () => readersData(publication, choices, readers));
  }
  return made;
}

/** Pages that are about the whole site. */
function siteWidePages(site: HtmlContext, wholePage: (parts: PageParts) => string): Makers {
  const { publication, pages, address } = site;
  const targets = contextTargets(site);
  const made: Makers = new Map([
    ['index.html', () => wholePage(homePage(site))],
    ['contents.html', () => wholePage(contentsPage(site))],
    ['404.html', () => wholePage(missingPage(site))],
  ]);
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
  return made;
}

/**
 * Makes the files of a help site.
 * @returns problems `image.unreadable` (the image is left out), `edition.start`, those of the look
 */
export function siteFiles(
  publication: Publication,
  library: AssetSource,
  options: SiteOptions = {},
): SiteResult {
  const source = withDrawings(publication, library);
  const ground = siteGround(publication, source, options);
  const { site, problems } = ground;
  const { pages } = site;
  const hasChoices = (options.choices ?? []).some(({ facet }) =>
    publication.open.some(({ name }) => name === facet),
  );
  const wholePage = pageFrame(site, hasChoices);
  const ofPlaces: Makers = new Map(
    pages.order.map((place, at) => [
      pages.href(place.anchor)!,
      () => wholePage(placePage(place, at, site)),
    ]),
  );
  const made: Makers = new Map([
    ...partsOf(ground, source, options, hasChoices),
    ...siteWidePages(site, wholePage),
    ...ofPlaces,
  ]);

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
  const own = Object.keys(sheet.styles).filter((id) => sheet.styles[id]!.appliesTo !== undefined);
  const selectors = {
    ...siteSelectors,
    ...Object.fromEntries(own.map((id) => [id, ownSelector(id)])),
  };
  return (
    `${noteRules(sheet, (kind) => `:is(.note, .hazard)${kind === 'note' ? '' : `.${kind}`}`)}\n` +
    `${screenRules(sheet, selectors, locale)}\n`
  );
}
