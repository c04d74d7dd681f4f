import { expose } from 'comlink';
import nspell from 'nspell';

let speller: ReturnType<typeof nspell> | undefined;
const most = 6;

/** Knows the words of one language, and those of the team. */
const spelling = {
  open(aff: string, dic: string): void {
    speller = nspell(aff, dic);
  },
  /** Makes words right. */
  allow(words: readonly string[]): void {
    for (const word of words) speller?.add(word);
  },
  /** Those of the words that are in no list. */
  check: (words: readonly string[]): string[] => words.filter((word) => speller && !speller.correct(word)),
  suggest: (word: string): string[] => speller?.suggest(word).slice(0, most) ?? [],
};
export type Speller = typeof spelling;
expose(spelling);
