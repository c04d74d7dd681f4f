import type { Dictionary } from '@ukiyo/contracts';
import { expose } from 'comlink';
import nspell from 'nspell';

let spellers: ReturnType<typeof nspell>[] = [];
const most = 6;

/** Knows the words of one language, and those of the team. */
const spelling = {
  open(dictionaries: readonly Dictionary[]): void {
    spellers = dictionaries.map(({ aff, dic }) => nspell(aff, dic));
  },
  /** Makes words right. */
  allow(words: readonly string[]): void {
    for (const word of words) for (const speller of spellers) speller.add(word);
  },
  /** Those of the words that are in no list. */
  check: (words: readonly string[]): string[] => words.filter((word) => !spellers.some((speller) => speller.correct(word))),
  suggest: (word: string): string[] => [...new Set(spellers.flatMap((speller) => speller.suggest(word).slice(0, most)))].slice(0, most),
};
export type Speller = typeof spelling;
expose(spelling);
