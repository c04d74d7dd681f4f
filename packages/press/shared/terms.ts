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
  ar: 'arabic',
};

/** Letters of full and of half width are the same (Unicode UAX #15, NFKC). */
const asOne = (text: string): string =>
  /[\u0100-\uFFFF]/u.test(text) ? text.normalize('NFKC') : text;

/** The words of a text as they are looked for, in lower case. */
export const searchWords = (text: string, locale: string): string[] =>
  wordsOf(asOne(text).toLocaleLowerCase(locale), locale);

/**
 * Longer words of the katakana script are written with and without a long vowel at their end
 * (common practice).
 */
const withoutLongVowel = (word: string): string =>
  /^[\u30A1-\u30FC]{4,}$/u.test(word) && word.endsWith('ー') ? word.slice(0, -1) : word;

/** What a word and its other forms have in common (Snowball, where it knows the language). */
export function stemmer(locale: string): (word: string) => string {
  const language = locale.split('-')[0] ?? '';
  const name = stemmers[language];
  if (name === undefined) return language === 'ja' ? withoutLongVowel : (word) => word;
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
    searchOptions: {
      boost: { title: 5, lead: 2 },
      prefix: (term) => term.length > 2,
      fuzzy: (term) => (term.length > 5 ? 0.15 : false),
      combineWith: 'AND',
    },
  };
}

/** Lists of words, or of several words in a row, that mean the same to who searches. */
export type Synonyms = readonly (readonly string[])[];

/**
 * The ways to say each part of a query: its own words, and what means the same.
 * @returns for each part in order, its alternatives as words in a row
 */
export function waysToSay(query: string, locale: string, synonyms: Synonyms): string[][][] {
  const stem = stemmer(locale);
  const lists = synonyms.map((list) =>
    list.map((phrase) => searchWords(phrase, locale)).filter((words) => words.length > 0),
  );
  const words = searchWords(query, locale);
  const stems = words.map(stem);
  const isAt = (phrase: readonly string[], at: number): boolean =>
    phrase.every((word, index) => stem(word) === stems[at + index]);
  const parts: string[][][] = [];
  for (let at = 0; at < words.length;) {
    const found = lists
      .flatMap((list) =>
        list.filter((phrase) => isAt(phrase, at)).map((phrase) => ({ list, phrase })),
      )
      .toSorted((a, b) => b.phrase.length - a.phrase.length)[0];
    const length = found?.phrase.length ?? 1;
    const own = words.slice(at, at + length);
    parts.push([own, ...(found?.list ?? []).filter((phrase) => phrase !== found?.phrase)]);
    at += length;
  }
  return parts;
}

export interface Looking {
  /** Whether a hit counts, by every word of the query or by one of them. */
  readonly isFound?: (hit: SearchResult, byAll: boolean) => boolean;
  readonly synonyms?: Synonyms;
}

/**
 * What a query finds, best first: what is called so before what only speaks of it; where nothing
 * has all of its words, what has some.
 */
export function searchIn(
  engine: MiniSearch<SearchDocument>,
  query: string,
  locale: string,
  { isFound = () => true, synonyms = [] }: Looking = {},
): SearchResult[] {
  const stem = stemmer(locale);
  const joined = (text: string): string => searchWords(text, locale).map(stem).join(' ');
  const parts = waysToSay(query, locale, synonyms);
  const wholly = {
    combineWith: 'AND' as const,
    queries: parts.map((ways) => ({
      combineWith: 'OR' as const,
      queries: ways.map((words) => ({ combineWith: 'AND' as const, queries: words })),
    })),
  };
  const whole = engine.search(wholly).filter((hit) => isFound(hit, true));
  const hits =
    whole.length > 0
      ? whole
      : engine
          .search({ combineWith: 'OR', queries: parts.flat(2) })
          .filter((hit) => isFound(hit, false));
  const named = joined(query);
  const isNamed = (hit: SearchResult): number => (joined(String(hit['title'])) === named ? 0 : 1);
  return hits.toSorted((a, b) => isNamed(a) - isNamed(b));
}
