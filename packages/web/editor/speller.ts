import type { Dictionary } from '@ukiyo/contracts';
import nspell from 'nspell';

const mostSuggested = 6;

/**
 * Knows the words of one language, in the spelling of any of its regions, and those of the team.
 */
export function createSpeller() {
  const allowed: string[] = [];
  let closed: Dictionary[] = [];
  let open: ReturnType<typeof nspell>[] = [];
  /**
   * A dictionary takes a fifth of a second to open: the next one is opened for a word that is in
   * none before it.
   */
  function* spellers() {
    yield* open;
    for (let next = closed.shift(); next; next = closed.shift()) {
      const speller = nspell(next.aff, next.dic);
      for (const word of allowed) speller.add(word);
      open.push(speller);
      yield speller;
    }
  }
  function isKnown(word: string): boolean {
    for (const speller of spellers()) if (speller.correct(word)) return true;
    return false;
  }
  return {
    open(dictionaries: readonly Dictionary[]): void {
      closed = [...dictionaries];
      open = [];
    },
    /** Makes words right. */
    allow(words: readonly string[]): void {
      allowed.push(...words);
      for (const word of words) for (const speller of open) speller.add(word);
    },
    /** Those of the words that are in no list. */
    check: (words: readonly string[]): string[] => words.filter((word) => !isKnown(word)),
    suggest: (word: string): string[] =>
      [
        ...new Set(
          [...spellers()].flatMap((speller) => speller.suggest(word).slice(0, mostSuggested)),
        ),
      ].slice(0, mostSuggested),
    /** How many dictionaries were opened. */
    opened: (): number => open.length,
  };
}
