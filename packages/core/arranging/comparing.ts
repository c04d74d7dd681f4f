import { diffArrays } from 'diff';
import { facetValuesOf } from '../facets/index.ts';
import type { Element } from '../markup/index.ts';
import { flattenMap, type MapEntry } from './arrange.ts';

/** One line of two maps beside each other. */
export interface ComparedEntry {
  readonly one?: MapEntry;
  readonly other?: MapEntry;
  /** In which way they differ; `moved`: the other has it too, elsewhere. */
  readonly how: 'same' | 'only-one' | 'only-other' | 'moved' | 'changed';
}

const keyOf = ({ href, title, element }: MapEntry): string =>
  href === '' ? `${element.name} ${title}` : href;
const entrySignature = ({ depth, title, element: { name, attributes } }: MapEntry): string =>
  JSON.stringify([
    depth,
    title,
    name,
    [...facetValuesOf(attributes)],
    attributes['toc'] ?? '',
    attributes['linking'] ?? '',
  ]);

/**
 * Compares two maps entry by entry: entries that are the same, that only one map has, or that have
 * another position, depth or audience.
 */
export function compareMaps(one: Element, other: Element): ComparedEntry[] {
  const [left, right] = [flattenMap(one), flattenMap(other)];
  const [inLeft, inRight] = [new Set(left.map(keyOf)), new Set(right.map(keyOf))];
  let at = 0;
  let against = 0;
  return diffArrays(left.map(keyOf), right.map(keyOf)).flatMap(({ added, removed, value }) =>
    value.map((key): ComparedEntry => {
      if (removed) return { one: left[at++]!, how: inRight.has(key) ? 'moved' : 'only-one' };
      if (added) return { other: right[against++]!, how: inLeft.has(key) ? 'moved' : 'only-other' };
      const pair = { one: left[at++]!, other: right[against++]! };
      return {
        ...pair,
        how: entrySignature(pair.one) === entrySignature(pair.other) ? 'same' : 'changed',
      };
    }),
  );
}
