import type { PlaceRole } from './publication.ts';

/** Counts places as a book does: parts in capital Roman numerals, chapters through all parts, appendices by letter, sections within. */
export interface Counters {
  part: number;
  chapter: number;
  appendix: number;
}

const deepestNumbered = 3;

function roman(value: number): string {
  const signs: [number, string][] = [
    [1000, 'M'],
    [900, 'CM'],
    [500, 'D'],
    [400, 'CD'],
    [100, 'C'],
    [90, 'XC'],
    [50, 'L'],
    [40, 'XL'],
    [10, 'X'],
    [9, 'IX'],
    [5, 'V'],
    [4, 'IV'],
    [1, 'I'],
  ];
  let rest = value;
  let text = '';
  for (const [size, sign] of signs) for (; rest >= size; rest -= size) text += sign;
  return text;
}

/** 1 → A, 26 → Z, 27 → AA. */
function letters(value: number): string {
  return value <= 26 ? String.fromCharCode(64 + value) : letters(Math.floor((value - 1) / 26)) + letters(((value - 1) % 26) + 1);
}

/**
 * The number of a place.
 * @param parent the number of the place above, if it has one
 * @param ordinal 1 for the first numbered section under its parent
 */
export function numberOf(role: PlaceRole, level: number, parent: string | undefined, ordinal: number, counters: Counters): string | undefined {
  switch (role) {
    case 'part':
      return roman((counters.part += 1));
    case 'chapter':
      return `${(counters.chapter += 1)}`;
    case 'appendix':
      return letters((counters.appendix += 1));
    case 'section':
      return parent === undefined || level > deepestNumbered ? undefined : `${parent}.${ordinal}`;
    default:
      return undefined;
  }
}
