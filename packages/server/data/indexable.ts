/**
 * What an index of PostgreSQL can take: a row of a B-tree has at most some 2,700 bytes (nbtree.h,
 * BTMaxItemSize), and a text to be searched at most a megabyte of lexemes (textsearch,
 * “Limitations”). Content can have longer values; they are kept in the text, but not found by what
 * is derived from it.
 */
const longestValue = 500;
const longestTitle = 300;
/** In the worst case, of one letter a word, each byte of text is some three of lexemes. */
const longestSearched = 200_000;

/** Whether a value, such as the target of a link, is short enough to be found by. */
export const isIndexable = (value: string): boolean => Buffer.byteLength(value) <= longestValue;

/** A title as lists show it and are ordered by it. */
export const listedTitle = (title: string): string =>
  title.length <= longestTitle ? title : `${cut(title, longestTitle - 1)}…`;

/** The words of a text that are searched: of a very long one the first. */
export function searchedText(text: string): string {
  if (Buffer.byteLength(text) <= longestSearched) return text;
  return cut(Buffer.from(text).subarray(0, longestSearched).toString('utf8'), longestSearched);
}

/** The first characters, without half a pair of surrogates at the end. */
const cut = (text: string, length: number): string =>
  text.slice(0, length).replace(/\p{Surrogate}$/u, '');
