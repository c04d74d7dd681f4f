import type { Place, ResolvedElement } from '@ukiyo/core/compose';
import type { When } from '@ukiyo/core/facets';
import { readableText } from '@ukiyo/core/library';
import { isElement, type Node } from '@ukiyo/core/markup';
import {
  printable,
  searchFields,
  searchWords,
  stemmer,
  type SearchDocument,
  type Synonyms,
} from '../shared/index.ts';
import {
  formsOf,
  whenOfPlace,
  type SiteReaders,
  type ReaderWords,
  type HtmlContext,
} from '../topics/index.ts';

/**
 * The search index of a site, as the script file that a page loads when its reader first searches.
 */
export function searchIndexScript(
  { publication, pages, readers }: HtmlContext,
  synonyms: Synonyms = [],
): string {
  /** What stands without a heading is found under that of the place above. */
  const headed = (place: Place): Place => {
    const above = place.hasHeading ? undefined : pages.parentOf.get(place.anchor);
    return above ? headed(above) : place;
  };
  const stem = stemmer(publication.locale);
  const only: Record<string, SearchedBySome> = {};
  const documents = pages.shown
    .filter(({ content, isSearched }) => content && isSearched !== false)
    .map((place): IndexedDocument => {
      const id = pages.href(place.anchor)!;
      const titled = headed(place);
      // Most sites are the same for every reader: their topics are walked once.
      if (publication.open.length === 0)
        return {
          id,
          title: printable(spaced(readers.searchTitleOf(titled))),
          lead: printable(place.shortDescription),
          text: withKeywords(place),
        };
      const parts = formsOf(place).flatMap(({ form, when }) =>
        form.content ? partsOf(form.content, when) : [],
      );
      const said = { t: readers.searchTitleOf(titled), l: readers.leadOf(place) };
      const whose = readers.numbersOf(whenOfPlace(place));
      if (whose.length > 0 || parts.length > 1)
        only[id] = {
          ...said,
          w: whose,
          terms: termsOfSome(
            parts,
            (words) => searchWords(words, publication.locale).map(stem),
            readers,
          ),
        };
      return {
        id,
        title: printable(spaced(said.t)),
        lead: printable(spaced(said.l)),
        text: printable([...parts.map(({ words }) => words), ...keywordsOf(place)].join(' ')),
      };
    });
  const forSome = Object.keys(only).length === 0 ? '' : `,"only":${JSON.stringify(only)}`;
  const same = synonyms.length === 0 ? '' : `,"synonyms":${JSON.stringify(synonyms)}`;
  const { locale } = publication;
  const index = searchIndex(documents, locale);
  return dataScript(
    'search',
    `{"locale":${JSON.stringify(locale)}${forSome}${same},"index":${index}}`,
  );
}

const keywordsOf = ({ metadata }: Place): readonly string[] => metadata?.keyword ?? [];

/** The words of a place, and those by which it is to be found besides. */
function withKeywords(place: Place): ResolvedElement | string {
  const keywords = keywordsOf(place);
  const content = place.content!;
  return keywords.length === 0
    ? content
    : printable([readableText(content), ...keywords].join(' '));
}

/** All that anybody reads there; what is for some stands apart. */
export const spaced = (said: ReaderWords): string =>
  typeof said === 'string'
    ? said
    : said.map((part) => (typeof part === 'string' ? part : ` ${part[0]} `)).join('');

/** What is found by some readers only, in one document. */
export interface SearchedBySome {
  /** What it is called, and its short description. */
  readonly t: ReaderWords;
  readonly l: ReaderWords;
  /** The readers who can find it, as numbers of conditions. */
  readonly w: readonly number[];
  /** Terms that not all of those find, each with the several ways to be one who does. */
  readonly terms: Readonly<Record<string, readonly (readonly number[])[]>>;
}

/** Words with what decides on them. */
interface Part {
  readonly words: string;
  readonly when: readonly When[];
}

/**
 * The words of an element, apart from those inside it that are for some readers only, which come
 * after.
 */
function partsOf(element: ResolvedElement, outer: readonly When[]): Part[] {
  const inner: Part[] = [];
  const plain = (one: ResolvedElement): ResolvedElement => {
    let isWhole = true;
    const children = one.children.flatMap((child): Node[] => {
      if (!isElement(child)) return [child];
      const { when } = child as ResolvedElement;
      if (when) inner.push(...partsOf(child as ResolvedElement, [...outer, ...when]));
      const kept = when ? undefined : plain(child as ResolvedElement);
      isWhole &&= kept === child;
      return kept ? [kept] : [];
    });
    return isWhole ? one : { ...one, children };
  };
  const own = readableText(plain(element));
  return [{ words: own, when: outer }, ...inner];
}

function termsOfSome(
  parts: readonly Part[],
  termsIn: (words: string) => readonly string[],
  readers: SiteReaders,
): SearchedBySome['terms'] {
  const forAll = new Set(
    parts.filter(({ when }) => when.length === 0).flatMap(({ words }) => termsIn(words)),
  );
  const terms: Record<string, (readonly number[])[]> = Object.create(null) as Record<
    string,
    (readonly number[])[]
  >;
  for (const { words, when } of parts)
    for (const term of new Set(when.length === 0 ? [] : termsIn(words)))
      if (!forAll.has(term)) (terms[term] ??= []).push(readers.numbersOf(when));
  return terms;
}

/** In which documents a term stands, ascending, and how often in each; by field. */
type Postings = { readonly documents: number[]; readonly counts: number[] }[];

/**
 * A document, or with an element for its text: the words of one are counted once for as long as it
 * is there.
 */
type IndexedDocument = Omit<SearchDocument, 'text'> & { readonly text: string | ResolvedElement };

/** How often each term stands in a text, and how many different words it has. */
interface Tally {
  readonly terms: ReadonlyMap<string, number>;
  readonly different: number;
}
const tallies = new WeakMap<ResolvedElement, { readonly locale: string; readonly tally: Tally }>();

function tallyOf(text: string, locale: string, stem: (word: string) => string): Tally {
  const forms = new Map<string, number>();
  for (const word of searchWords(text, locale)) forms.set(word, (forms.get(word) ?? 0) + 1);
  const terms = new Map<string, number>();
  for (const [word, count] of forms) {
    const term = stem(word);
    if (term !== '') terms.set(term, (terms.get(term) ?? 0) + count);
  }
  return { terms, different: forms.size };
}

/**
 * The index that MiniSearch writes as JSON when the documents are added to it one by one, made by
 * plain counting in a fifth of the time: its own building keeps a tree for searching, which here
 * only the reader's browser needs.
 */
export function searchIndex(documents: readonly IndexedDocument[], locale: string): string {
  const stem = stemmer(locale);
  const counted = (text: string | ResolvedElement): Tally => {
    if (typeof text === 'string') return tallyOf(text, locale, stem);
    const known = tallies.get(text);
    if (known?.locale === locale) return known.tally;
    const tally = tallyOf(printable(readableText(text)), locale, stem);
    tallies.set(text, { locale, tally });
    return tally;
  };
  const terms = new Map<string, Postings>();
  const sums = searchFields.map(() => 0);
  const lengths = documents.map((document, at) =>
    searchFields.map((field, fieldAt) => {
      const { terms: own, different } = counted(document[field]);
      for (const [term, count] of own) {
        let postings = terms.get(term);
        if (postings === undefined)
          terms.set(term, (postings = searchFields.map(() => ({ documents: [], counts: [] }))));
        postings[fieldAt]!.documents.push(at);
        postings[fieldAt]!.counts.push(count);
      }
      sums[fieldAt]! += different;
      return different;
    }),
  );
  const head = {
    documentCount: documents.length,
    nextId: documents.length,
    documentIds: numbered(documents.map(({ id }) => id)),
    fieldIds: Object.fromEntries(searchFields.map((field, at) => [field, at])),
    fieldLength: numbered(lengths),
    averageFieldLength: sums.map((sum) => (documents.length === 0 ? 0 : sum / documents.length)),
    storedFields: numbered(documents.map(({ title, lead }) => ({ title, lead }))),
    dirtCount: 0,
    serializationVersion: 2,
  };
  const index = [...terms].map(
    ([term, postings]) => `[${JSON.stringify(term)},${writePostings(postings)}]`,
  );
  return `${JSON.stringify(head).slice(0, -1)},"index":[${index.join()}]}`;
}

/** An object with the keys 0, 1, 2 … */
const numbered = (values: readonly unknown[]): object => Object.assign({}, values);

function writePostings(postings: Postings): string {
  const fields = postings.flatMap(({ documents, counts }, field) => {
    if (documents.length === 0) return [];
    const found = documents.map((at, index) => `"${at}":${counts[index]!}`);
    return [`"${field}":{${found.join()}}`];
  });
  return `{${fields.join()}}`;
}

/**
 * JSON as it may stand in a script: `<` never appears in it, so it cannot end the script early when
 * that is put inline.
 */
export const inScript = (json: string): string =>
  json.replace(
    /[<\u2028\u2029]/g,
    (character) => `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`,
  );

/** A script that hands data, written as JSON, to the page. */
export const dataScript = (name: string, json: string): string =>
  `(window.siteData=window.siteData||{})[${JSON.stringify(name)}]=${inScript(json)};\n`;
