import type { Place, Publication } from '@ukiyo/core/compose';
import type { Problem } from '@ukiyo/core/problems';
import { isAttachment } from '@ukiyo/core/media';
import { wordsFor } from '@ukiyo/core/words';
import { zipSync, type Zippable } from 'fflate';
import { elementsIn, serializeXml, tag, text, type Html } from '../html/index.ts';
import { dayOf, directionOf, withDrawings, type AssetSource } from '../shared/index.ts';
import {
  listedIn,
  articleOf,
  assetsShown,
  layOutPages,
  siteReaders,
  type HtmlContext,
} from '../topics/index.ts';
import { sheetRules, usualSite, type SiteOptions } from '../site/index.ts';

export interface EpubOptions extends SiteOptions {
  /** Of the edition: the book is the same one however often it is built. */
  readonly id: string;
}

/** What e-readers draw themselves they draw as their readers like it; these rules say the rest. */
const bookRules =
  'body { margin: 0 5%; line-height: 1.5; } h1, h2, h3, h4, h5, h6 { line-height: 1.2; ' +
  'text-align: start; } img { max-width: 100%; height: auto; } figure { margin: 1.2em 0; } ' +
  'figcaption, caption { font-size: 0.9em; text-align: start; } table { width: 100%; ' +
  'border-collapse: collapse; font-size: 0.9em; } th, td { padding: 0.3em 0.8em 0.3em 0; ' +
  'text-align: start; vertical-align: top; border-bottom: 1px solid #ccc; } pre { white-space: ' +
  'pre-wrap; font-size: 0.85em; } .note { margin: 1.2em 0; padding: 0.5em 0; border-top: 1px ' +
  'solid #888; border-bottom: 1px solid #888; } .note-word { font-weight: bold; margin: 0; } ' +
  '.note-mark { display: none; } .lead { font-style: italic; } .plain, .cards { list-style: ' +
  'none; padding: 0; } .title-page { text-align: center; margin-top: 25%; }';

/** E-readers know no lists of selectors in a selector: one for each instead. */
const withoutLists = (css: string): string =>
  css.replace(
    /(^|[{}])([^{}@]*)(?=\{)/gu,
    (_all, before: string, selectors: string) =>
      `${before}${apart(selectors).flatMap(plainly).join(',')}`,
  );
/** The parts between commas that stand in no brackets. */
const apart = (list: string): string[] => list.split(/,(?![^(]*\))/u);
function plainly(selector: string): string[] {
  const found = /^(.*?):(?:is|where)\(([^()]*)\)(.*)$/su.exec(selector);
  return found
    ? found[2]!.split(',').flatMap((one) => plainly(`${found[1]}${one.trim()}${found[3]}`))
    : [selector];
}

/** The date of books without one: the same content gives the same bytes. */
const dateOfUndated = '2000-01-01';
/** The earliest date of the zip format. */
const zipDate = new Date(1980, 0, 1);

const endings: Readonly<Record<string, string>> = {
  xhtml: 'application/xhtml+xml',
  css: 'text/css',
};

/** A text of the book, and what its package document says of it. */
interface BookFile {
  readonly path: string;
  readonly content: string;
  /** Properties of its item in the manifest (EPUB 3.3, D.2). */
  readonly properties: readonly string[];
}

/**
 * Publication → an e-book (EPUB 3.3, W3C).
 * @returns problems `image.unreadable` (the image is left out)
 */
export function epub(
  publication: Publication,
  library: AssetSource,
  options: EpubOptions,
): {
  readonly bytes: Uint8Array;
  readonly problems: readonly Problem[];
  readonly pageCount: number;
} {
  const { locale } = publication;
  const source = withDrawings(publication, library);
  const { shown: all, problems } = assetsShown(publication.assets, source);
  const shown = new Map([...all].filter(([, { mediaType }]) => !isAttachment(mediaType)));
  const site: HtmlContext = {
    publication,
    pages: layOutPages(publication, {}, 'xhtml'),
    assets: { find: (id) => all.get(id) },
    words: wordsFor(locale),
    ...usualSite(options),
    isSite: false,
    address: '',
    readers: siteReaders(publication),
  };
  const texts = textsOf(site, options);
  const files: Zippable = {};
  for (const { path, content } of texts) files[`EPUB/${path}`] = bytesOf(content);
  for (const [id, { href }] of shown) files[`EPUB/${href}`] = source(id)!.bytes;
  files['EPUB/package.opf'] = bytesOf(
    packageDocument(publication, options.id, texts, [...shown.values()]),
  );
  return {
    bytes: packed(files),
    problems,
    pageCount: site.pages.order.length,
  };
}

const bytesOf = (content: string): Uint8Array => new TextEncoder().encode(content);

const container =
  '<?xml version="1.0" encoding="UTF-8"?>\n' +
  '<container version="1.0" xmlns="urn:oasis:names:tc:opendocument:xmlns:container">' +
  '<rootfiles>' +
  '<rootfile full-path="EPUB/package.opf" media-type="application/oebps-package+xml"/>' +
  '</rootfiles></container>\n';

/** The first file says what it is, and is not compressed (EPUB Open Container Format 3.3, 4.3). */
const packed = (files: Zippable): Uint8Array =>
  zipSync(
    {
      mimetype: [bytesOf('application/epub+zip'), { level: 0 }],
      'META-INF/container.xml': bytesOf(container),
      ...files,
    },
    { mtime: zipDate, level: 6 },
  );

/** Everything that is text in a book. */
function textsOf(site: HtmlContext, { onPage }: EpubOptions): readonly BookFile[] {
  const { publication, pages, words, sheet } = site;
  const { facts, locale } = publication;
  const texts = [
    bookText('nav.xhtml', words.contents, site, navigation(site)),
    bookText('title.xhtml', facts.title, site, titlePage(site)),
    ...pages.order.map((place, at) => {
      const { article, related, footnotes } = articleOf(place, site);
      onPage?.(at + 1, pages.order.length);
      return bookText(pages.href(place.anchor)!, place.label, site, [article, related, footnotes]);
    }),
  ];
  const rules = `${bookRules}\n${withoutLists(sheetRules(sheet, locale))}`;
  return [{ path: 'book.css', content: rules, properties: [] }, ...texts];
}

function bookText(
  path: string,
  title: string,
  { publication: { locale } }: HtmlContext,
  body: Html,
): BookFile {
  const page = tag(
    'html',
    {
      xmlns: 'http://www.w3.org/1999/xhtml',
      'xmlns:epub': 'http://www.idpf.org/2007/ops',
      lang: locale,
      'xml:lang': locale,
      dir: directionOf(locale),
    },
    tag(
      'head',
      {},
      tag('title', {}, text(title)),
      tag('link', { rel: 'stylesheet', type: 'text/css', href: 'book.css' }),
    ),
    tag('body', {}, body),
  );
  const isRemote = [...elementsIn(body)].some(({ properties: { src, poster } }) =>
    [src, poster].some((address) => /^https?:/u.test(String(address))),
  );
  const hasMath = [...elementsIn(body)].some(({ tagName }) => tagName === 'math');
  return {
    path,
    content: `<?xml version="1.0" encoding="UTF-8"?>\n<!DOCTYPE html>\n${serializeXml(page)}\n`,
    properties: [
      ...(path === 'nav.xhtml' ? ['nav'] : []),
      ...(isRemote ? ['remote-resources'] : []),
      ...(hasMath ? ['mathml'] : []),
    ],
  };
}

const navigation = (site: HtmlContext): Html =>
  tag(
    'nav',
    { 'epub:type': 'toc', id: 'toc' },
    tag('h1', {}, text(site.words.contents)),
    contents(site.publication.places, site),
  );

function contents(places: readonly Place[], site: HtmlContext): Html {
  const { pages } = site;
  return tag(
    'ol',
    {},
    ...listedIn(places, pages).map(({ anchor, label, children }) =>
      tag(
        'li',
        {},
        tag('a', { href: pages.href(anchor) }, text(label)),
        listedIn(children, pages).length > 0 ? contents(children, site) : [],
      ),
    ),
  );
}

function titlePage({ publication: { facts } }: HtmlContext): Html {
  const rights = [facts.rights, facts.edition, facts.bookNumber];
  return tag(
    'section',
    { class: 'title-page', 'epub:type': 'titlepage' },
    tag('h1', {}, text(facts.title)),
    facts.subtitle === '' ? [] : tag('p', {}, text(facts.subtitle)),
    tag('p', {}, text(rights.filter((part) => part !== '').join(' · '))),
  );
}

const itemId = (path: string): string => `f-${path.replace(/[^A-Za-z0-9.-]/gu, '-')}`;

/** What is in the book and in which order it is read (EPUB 3.3, 5). */
function packageDocument(
  { facts, locale }: Publication,
  id: string,
  texts: readonly BookFile[],
  assets: readonly { readonly href: string; readonly mediaType: string }[],
): string {
  const day = dayOf(facts.date) ? facts.date : dateOfUndated;
  const metadata = tag(
    'metadata',
    { 'xmlns:dc': 'http://purl.org/dc/elements/1.1/' },
    tag('dc:identifier', { id: 'book' }, text(`urn:uuid:${id}`)),
    tag('dc:title', {}, text(facts.title || '–')),
    tag('dc:language', {}, text(locale)),
    ...facts.authors.map((author) => tag('dc:creator', {}, text(author))),
    facts.rights === '' ? [] : tag('dc:rights', {}, text(facts.rights)),
    facts.description === '' ? [] : tag('dc:description', {}, text(facts.description)),
    tag('dc:date', {}, text(day)),
    tag('meta', { property: 'dcterms:modified' }, text(`${day}T00:00:00Z`)),
  );
  const item = (path: string, mediaType: string, properties: readonly string[] = []): Html =>
    tag('item', {
      id: itemId(path),
      href: path,
      'media-type': mediaType,
      properties: properties.join(' ') || undefined,
    });
  const manifest = tag(
    'manifest',
    {},
    ...texts.map(({ path, properties }) =>
      item(path, endings[path.split('.').at(-1)!]!, properties),
    ),
    ...assets.map(({ href, mediaType }) => item(href, mediaType)),
  );
  const pages = texts.map(({ path }) => path).filter((path) => path.endsWith('.xhtml'));
  const order = ['title.xhtml', 'nav.xhtml', ...pages.slice(2)];
  const spine = tag(
    'spine',
    { 'page-progression-direction': directionOf(locale) === 'rtl' ? 'rtl' : undefined },
    ...order.map((path) => tag('itemref', { idref: itemId(path) })),
  );
  const book = tag(
    'package',
    {
      xmlns: 'http://www.idpf.org/2007/opf',
      version: '3.0',
      'unique-identifier': 'book',
      'xml:lang': locale,
    },
    metadata,
    manifest,
    spine,
  );
  return `<?xml version="1.0" encoding="UTF-8"?>\n${serializeXml(book)}\n`;
}
