import { wordsOf } from '@ukiyo/core/language';
import type MiniSearch from 'minisearch';
import type { Options, SearchResult } from 'minisearch';
import snowball from 'snowball-stemmers';

export interface SearchDocument {
  readonly id: string;
  readonly title: string;
  readonly lead: string;
  readonly text: string;
}

const stemmers: Readonly<Record<string, string>> = {
  en: 'english',
  de: 'german',
  fr: 'french',
  es: 'spanish',
  it: 'italian',
  nl: 'dutch',
  pt: 'portuguese',
  sv: 'swedish',
  da: 'danish',
  fi: 'finnish',
  no: 'norwegian',
  hu: 'hungarian',
  ro: 'romanian',
  ru: 'russian',
  tr: 'turkish',
};

/** The words of a text as they are looked for, in lower case. */
export const searchWords = (text: string, locale: string): string[] => wordsOf(text.toLocaleLowerCase(locale), locale);

/** What a word and its other forms have in common (Snowball). */
export function stemmer(locale: string): (word: string) => string {
  const name = stemmers[locale.split('-')[0] ?? ''];
  if (name === undefined) return (word) => word;
  const one = snowball.newStemmer(name);
  const known = new Map<string, string>();
  return (word) => {
    const stem = known.get(word) ?? one.stem(word);
    known.set(word, stem);
    return stem;
  };
}

export const searchFields = ['title', 'lead', 'text'] as const;

/** The same options make the index when a site is built and search it in the reader's browser. */
export function searchOptions(locale: string): Options<SearchDocument> {
  const stem = stemmer(locale);
  return {
    fields: [...searchFields],
    storeFields: ['title', 'lead'],
    tokenize: (text) => searchWords(text, locale),
    processTerm: (term) => stem(term),
    searchOptions: { boost: { title: 5, lead: 2 }, prefix: (term) => term.length > 2, fuzzy: (term) => (term.length > 5 ? 0.15 : false), combineWith: 'AND' },
  };
}

/**
 * What a query finds, best first: what is called so before what only speaks of it; where nothing has all of its words, what has some.
 * @param isFound whether a hit counts, by every word of the query or by one of them
 */
export function searchIn(engine: MiniSearch<SearchDocument>, query: string, locale: string, isFound: (hit: SearchResult, byAll: boolean) => boolean = () => true): SearchResult[] {
  const stem = stemmer(locale);
  const wordsOf = (text: string): string => searchWords(text, locale).map(stem).join(' ');
  const whole = engine.search(query).filter((hit) => isFound(hit, true));
  const hits = whole.length > 0 ? whole : engine.search(query, { combineWith: 'OR' }).filter((hit) => isFound(hit, false));
  const named = wordsOf(query);
  const isNamed = (hit: SearchResult): number => (wordsOf(String(hit['title'])) === named ? 0 : 1);
  return hits.toSorted((a, b) => isNamed(a) - isNamed(b));
}
