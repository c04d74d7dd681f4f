import type { Place, Publication } from '@ukiyo/core/compose';
import type { Problem } from '@ukiyo/core/problems';
import { wordsFor } from '@ukiyo/core/words';
import { zipSync, type Zippable } from 'fflate';
import type { AssetSource } from '../shared/assets.ts';
import { dayOf } from '../shared/text.ts';
import type { SiteContext } from '../site/context.ts';
import { asXml, join, raw, tag, text, type Html } from '../site/html.ts';
import { sheetRules, usualSite, type SiteOptions } from '../site/index.ts';
import { assetsShown } from '../site/media.ts';
import { directionOf } from '../site/page.ts';
import { layOutPages } from '../site/pages.ts';
import { articleOf } from '../site/placing.ts';
import { readersOf } from '../site/readers.ts';

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

/** A day that books have that say none: what is the same is made of the same bytes. */
const someDay = '2000-01-01';
/** The first day that zip files can tell. */
const alwaysTheSame = new Date(1980, 0, 1);

const endings: Readonly<Record<string, string>> = {
  xhtml: 'application/xhtml+xml',
  css: 'text/css',
};

/**
 * Publication → an e-book (EPUB 3.3, W3C). Problems: `image.unreadable` (the image is left out).
 */
export function epub(
  publication: Publication,
  source: AssetSource,
  options: EpubOptions,
): {
  readonly bytes: Uint8Array;
  readonly problems: readonly Problem[];
  readonly pageCount: number;
} {
  const { sheet, look } = usualSite(options);
  const { facts, locale } = publication;
  const words = wordsFor(locale);
  const pages = layOutPages(publication, {}, 'xhtml');
  const { shown, problems } = assetsShown(publication.assets, source);
  const site: SiteContext = {
    publication,
    pages,
    assets: { find: (id) => shown.get(id) },
    words,
    sheet,
    look,
    isSite: false,
    address: '',
    readers: readersOf(publication),
  };
  const direction = directionOf(locale);

  const document = (title: string, ...body: readonly Html[]): string => {
    const head = tag(
      'head',
      {},
      tag('title', {}, text(title)),
      tag('link', { rel: 'stylesheet', type: 'text/css', href: 'book.css' }),
    );
    const html = tag(
      'html',
      {
        xmlns: 'http://www.w3.org/1999/xhtml',
        'xmlns:epub': 'http://www.idpf.org/2007/ops',
        lang: locale,
        'xml:lang': locale,
        dir: direction,
      },
      head,
      tag('body', {}, ...body),
    );
    return `<?xml version="1.0" encoding="UTF-8"?>\n<!DOCTYPE html>\n${asXml(html)}\n`;
  };
  const contents = (places: readonly Place[]): Html => {
    const listed = places.filter(
      (place) => place.inContents && pages.href(place.anchor) !== undefined,
    );
    return tag(
      'ol',
      {},
      ...listed.map((place) =>
        tag(
          'li',
          {},
          tag('a', { href: pages.href(place.anchor) }, text(place.label)),
          ...(place.children.some(
            (child) => child.inContents && pages.href(child.anchor) !== undefined,
          )
            ? [contents(place.children)]
            : []),
        ),
      ),
    );
  };
  const navigation = tag(
    'nav',
    { 'epub:type': 'toc', id: 'toc' },
    tag('h1', {}, text(words.contents)),
    contents(publication.places),
  );
  const titlePage = tag(
    'section',
    { class: 'title-page', 'epub:type': 'titlepage' },
    tag('h1', {}, text(facts.title)),
    ...(facts.subtitle === '' ? [] : [tag('p', {}, text(facts.subtitle))]),
    tag(
      'p',
      {},
      text(
        [facts.rights, facts.edition, facts.bookNumber].filter((part) => part !== '').join(' · '),
      ),
    ),
  );

  const texts = new Map<string, string>([
    ['book.css', `${bookRules}\n${withoutLists(sheetRules(sheet, locale))}`],
    ['nav.xhtml', document(words.contents, navigation)],
    ['title.xhtml', document(facts.title, titlePage)],
  ]);
  for (const place of pages.order) {
    const { article, related, footnotes } = articleOf(place, site);
    texts.set(pages.href(place.anchor)!, document(place.label, article, related, footnotes));
    options.onPage?.(texts.size - 3, pages.order.length);
  }

  const files: Zippable = {};
  const put = (path: string, content: string | Uint8Array): void =>
    void (files[`EPUB/${path}`] =
      typeof content === 'string' ? new TextEncoder().encode(content) : content);
  for (const [path, content] of texts) put(path, content);
  for (const [id, { href }] of shown) put(href, source(id)!.bytes);
  put('package.opf', packageDocument(publication, options.id, [...texts], [...shown.values()]));
  const container =
    '<?xml version="1.0" encoding="UTF-8"?>\n' +
    '<container version="1.0" xmlns="urn:oasis:names:tc:opendocument:xmlns:container">' +
    '<rootfiles>' +
    '<rootfile full-path="EPUB/package.opf" media-type="application/oebps-package+xml"/>' +
    '</rootfiles></container>\n';
  // The first file says what it is, and is not compressed (EPUB Open Container Format 3.3, 4.3).
  const bytes = zipSync(
    {
      mimetype: [new TextEncoder().encode('application/epub+zip'), { level: 0 }],
      'META-INF/container.xml': new TextEncoder().encode(container),
      ...files,
    },
    { mtime: alwaysTheSame, level: 6 },
  );
  return { bytes, problems, pageCount: pages.order.length };
}

function packageDocument(
  { facts, locale }: Publication,
  id: string,
  texts: readonly (readonly [path: string, content: string])[],
  assets: readonly { readonly href: string; readonly mediaType: string }[],
): string {
  const inXml = (content: string): Html => text(content);
  const day = dayOf(facts.date) ? facts.date : someDay;
  const meta = join([
    tag('dc:identifier', { id: 'book' }, inXml(`urn:uuid:${id}`)),
    tag('dc:title', {}, inXml(facts.title || '–')),
    tag('dc:language', {}, inXml(locale)),
    ...facts.authors.map((author) => tag('dc:creator', {}, inXml(author))),
    ...(facts.rights === '' ? [] : [tag('dc:rights', {}, inXml(facts.rights))]),
    ...(facts.description === '' ? [] : [tag('dc:description', {}, inXml(facts.description))]),
    tag('dc:date', {}, inXml(day)),
    raw(`<meta property="dcterms:modified">${day}T00:00:00Z</meta>`),
  ]);
  const idOf = (path: string): string => `f-${path.replace(/[^A-Za-z0-9.-]/gu, '-')}`;
  const item = (path: string, mediaType: string, properties: readonly string[]): Html =>
    raw(
      tag('item', {
        id: idOf(path),
        href: path,
        'media-type': mediaType,
        properties: properties.join(' ') || undefined,
      }).replace('></item>', '/>'),
    );
  const propertiesOf = (path: string, content: string): string[] => [
    ...(path === 'nav.xhtml' ? ['nav'] : []),
    ...(/ (?:src|poster)="https?:/u.test(content) ? ['remote-resources'] : []),
  ];
  const manifest = join([
    ...texts.map(([path, content]) =>
      item(path, endings[path.split('.').at(-1)!]!, propertiesOf(path, content)),
    ),
    ...assets.map(({ href, mediaType }) => item(href, mediaType, [])),
  ]);
  const spine = join(
    [
      'title.xhtml',
      'nav.xhtml',
      ...texts
        .map(([path]) => path)
        .filter((path) => path.endsWith('.xhtml') && !['title.xhtml', 'nav.xhtml'].includes(path)),
    ].map((path) => raw(`<itemref idref="${idOf(path)}"/>`)),
  );
  const direction = directionOf(locale) === 'rtl' ? ' page-progression-direction="rtl"' : '';
  return (
    '<?xml version="1.0" encoding="UTF-8"?>\n' +
    '<package xmlns="http://www.idpf.org/2007/opf" version="3.0" unique-identifier="book"' +
    ` xml:lang="${locale}">` +
    `<metadata xmlns:dc="http://purl.org/dc/elements/1.1/">${meta}</metadata>` +
    `<manifest>${manifest}</manifest>` +
    `<spine${direction}>${spine}</spine>` +
    '</package>\n'
  );
}
