import type { Case, Expected, PrintExpected } from './case.ts';
import type { Page } from './reading.ts';
import { textOf } from './reading.ts';
import type { Published } from './road.ts';

const topicsOf = ({ pages }: Published): readonly Page[] =>
  pages.filter(({ heading }) => heading !== '');

/** The words of all that is expected, from those of the whole case and those of one output. */
function wordsOf(...all: readonly (Expected | undefined)[]) {
  return {
    shows: all.flatMap((one) => one?.shows ?? []),
    hides: all.flatMap((one) => one?.hides ?? []),
    contents: all.findLast((one) => one?.contents)?.contents,
  };
}

/** The first words that do not come after those before them. */
function firstMissing(text: string, words: readonly string[]): string | undefined {
  let from = 0;
  return words.find((one) => {
    const at = text.indexOf(one, from);
    from = at + one.length;
    return at < 0;
  });
}

/** How the texts of the elements that a selector finds differ from what is expected. */
function elementFaults(
  where: string,
  roots: readonly Element[],
  has: PrintExpected['has'] = {},
): string[] {
  return Object.entries(has).flatMap(([selector, wanted]) => {
    const found = roots.flatMap((root) => [...root.querySelectorAll(selector)].map(textOf));
    const isRight =
      typeof wanted === 'number'
        ? found.length === wanted
        : JSON.stringify(found) === JSON.stringify([wanted].flat());
    return isRight ? [] : [`${where}: ${selector} is ${JSON.stringify(found)}`];
  });
}

interface ContentsEntry {
  readonly t: string;
  readonly c?: readonly ContentsEntry[];
}
/** What a script of a site leaves for the others. */
const dataIn = (site: Published['site'], path: string): unknown =>
  JSON.parse(/=(\{.*\}|\[.*\]);\n$/su.exec(String(site.file(path)))![1]!);

function siteContents(site: Published['site']): string[] {
  const lines = (entries: readonly ContentsEntry[], depth: number): string[] =>
    entries.flatMap(({ t, c = [] }) => [`${'  '.repeat(depth)}${t}`, ...lines(c, depth + 1)]);
  return lines(dataIn(site, 'contents-data.js') as ContentsEntry[], 0);
}

/** Every link in the topics. */
const linksIn = (pages: readonly Page[]) =>
  pages.flatMap(({ path: from, content }) =>
    [...content.querySelectorAll('a[href]')].map((link) => {
      const href = link.getAttribute('href')!;
      return { from, href, words: textOf(link) };
    }),
  );

/** `words → where` of every link in the topics. */
function siteLinks(pages: readonly Page[]): string[] {
  const byPath = new Map(pages.map((page) => [page.path, page]));
  return linksIn(pages).map(({ from, href, words }) => {
    const [path, fragment] = href.split('#');
    const page = byPath.get(path === '' ? from : path!);
    const inside = fragment === undefined ? '' : ` # ${fragment}`;
    return `${words} → ${page ? `${page.heading}${inside}` : href}`;
  });
}

interface SearchIndex {
  readonly index: {
    readonly documentIds: Readonly<Record<string, string>>;
    readonly index: readonly (readonly [string, Readonly<Record<string, object>>])[];
  };
}
/** The headings of pages in whose words one begins so. */
function foundBy(word: string, { site }: Published, pages: readonly Page[]): string[] {
  const { index } = dataIn(site, 'search-index.js') as SearchIndex;
  const paths = index.index
    .filter(([term]) => term.startsWith(word))
    .flatMap(([, fields]) => Object.values(fields).flatMap((documents) => Object.keys(documents)))
    .map((id) => index.documentIds[id]!.split('#')[0]);
  return pages.filter(({ path }) => paths.includes(path)).map(({ heading }) => heading);
}

function contentsFault(where: string, found: readonly string[], wanted?: readonly string[]) {
  return wanted === undefined || JSON.stringify(found) === JSON.stringify(wanted)
    ? []
    : [`${where}: the contents are ${JSON.stringify(found)}`];
}

function siteFaults(of: Case, published: Published): string[] {
  const { site } = of;
  const { shows, hides, contents } = wordsOf(of, site);
  const topics = topicsOf(published);
  const text = topics.map(({ content }) => textOf(content)).join(' ');
  const missing = firstMissing(text, shows);
  const everything = [
    ...published.pages.map(({ html }) => html),
    ...['contents-data.js', 'words-data.js', 'search-index.js'].map((path) =>
      String(published.site.file(path)),
    ),
  ].join('\n');
  const links = siteLinks(topics);
  const leads = linksIn(topics).map(({ words, href }) => `${words} → ${href}`);
  const known = topics.flatMap((one) => one.known);
  const roots = topics.map(({ content }) => content);
  return [
    ...(missing === undefined ? [] : [`site: “${missing}” is not shown where it should: ${text}`]),
    ...hides.filter((one) => everything.includes(one)).map((one) => `site: “${one}” is shown`),
    ...contentsFault('site', siteContents(published.site), contents),
    ...(site?.links && JSON.stringify(site.links) !== JSON.stringify(links)
      ? [`site: the links are ${JSON.stringify(links)}`]
      : []),
    ...(site?.leads && JSON.stringify(site.leads) !== JSON.stringify(leads)
      ? [`site: the links lead to ${JSON.stringify(leads)}`]
      : []),
    ...elementFaults('site', roots, site?.has),
    ...(site?.knows && JSON.stringify(site.knows) !== JSON.stringify(known)
      ? [`site: the heads know ${JSON.stringify(known)}`]
      : []),
    ...Object.entries(site?.finds ?? {}).flatMap(([word, wanted]) => {
      const found = foundBy(word, published, topics);
      return JSON.stringify(found) === JSON.stringify(wanted)
        ? []
        : [`site: “${word}” finds ${JSON.stringify(found)}`];
    }),
  ];
}

function printFaults(of: Case, { manual }: Published): string[] {
  const { shows, hides, contents } = wordsOf(of, of.print);
  const text = textOf(manual.structure);
  const missing = firstMissing(text, shows);
  const isSearched = hides.length > 0 || contents !== undefined;
  const bookmarks = isSearched ? manual.bookmarks : [];
  const everything = [text, manual.structure.outerHTML, ...bookmarks].join('\n');
  return [
    ...(missing === undefined ? [] : [`print: “${missing}” is not shown where it should: ${text}`]),
    ...hides.filter((one) => everything.includes(one)).map((one) => `print: “${one}” is shown`),
    ...contentsFault('print', bookmarks, contents),
    ...elementFaults('print', [manual.structure], of.print?.has),
  ];
}

/** Everything in which what was published is not what the standard asks for. */
export function faultsOf(of: Case, published: Published): string[] {
  const wanted = [...(of.problems ?? [])].sort();
  return [
    ...siteFaults(of, published),
    ...printFaults(of, published),
    ...(JSON.stringify(published.problems) === JSON.stringify(wanted)
      ? []
      : [`the problems are ${JSON.stringify(published.problems)}`]),
  ];
}
