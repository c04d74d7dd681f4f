import type { Options } from 'minisearch';
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

/** Scripts that put no space between words. */
const unparted = /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Thai}\p{Script=Khmer}\p{Script=Lao}\p{Script=Myanmar}]/u;

/** All of those scripts stand above this, and looking for a range is much faster than looking for properties. */
const farCharacter = /[\u0E00-\uFFFF]/;

/** The words of a text in lower case, by the rules of its language (Unicode UAX #29 through `Intl.Segmenter`). */
export function wordsOf(text: string, locale: string): string[] {
  // Where words are parted by spaces this gives the same and is some thirty times faster.
  if (!farCharacter.test(text) || !unparted.test(text)) return text.toLocaleLowerCase(locale).match(/[\p{L}\p{N}]+(?:[.’'][\p{L}\p{N}]+)*/gu) ?? [];
  const segments = new Intl.Segmenter(locale, { granularity: 'word' }).segment(text);
  return [...segments].filter((segment) => segment.isWordLike).map((segment) => segment.segment.toLocaleLowerCase(locale));
}

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
    tokenize: (text) => wordsOf(text, locale),
    processTerm: (term) => stem(term),
    searchOptions: { boost: { title: 5, lead: 2 }, prefix: (term) => term.length > 2, fuzzy: (term) => (term.length > 5 ? 0.15 : false), combineWith: 'AND' },
  };
}
