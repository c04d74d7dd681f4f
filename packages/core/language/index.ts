/** Scripts that put no space between words. */
const unpartedScripts = ['Han', 'Hiragana', 'Katakana', 'Thai', 'Khmer', 'Lao', 'Myanmar'];
const unparted = new RegExp(
  `[${unpartedScripts.map((script) => `\\p{Script=${script}}`).join('')}]`,
  'u',
);

/**
 * All of those scripts stand above this, and looking for a range is much faster than looking for
 * properties.
 */
const farCharacter = /[\u0E00-\uFFFF]/;

/**
 * A text as the part of a regular expression that matches nothing but it. With the flag `u` nothing
 * else may be escaped (ECMA-262, SyntaxCharacter), a hyphen neither.
 */
export const literally = (text: string): string => text.replace(/[\\^$.*+?()[\]{}|/]/gu, '\\$&');

/** The words of a text by the rules of its language (Unicode UAX #29 through `Intl.Segmenter`). */
export function wordsOf(text: string, locale?: string): string[] {
  // Where words are parted by spaces this gives the same and is some thirty times faster.
  if (!farCharacter.test(text) || !unparted.test(text))
    return text.match(/[\p{Alphabetic}\p{Nd}\p{M}]+(?:[.’'][\p{Alphabetic}\p{Nd}\p{M}]+)*/gu) ?? [];
  const segments = new Intl.Segmenter(locale, { granularity: 'word' }).segment(text);
  return [...segments].filter((segment) => segment.isWordLike).map((segment) => segment.segment);
}
