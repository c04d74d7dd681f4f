import { evaluateProfile, whenOf, type When } from '../facets/index.ts';
import { readReference } from '../library/index.ts';
import { childElements, type Element } from '../markup/index.ts';
import type { Branch } from './branches.ts';
import type { Reading } from './keys.ts';

/** A topic in a relationship table: whether links go from it, and to it (DITA 1.3, `linking`). */
interface RelatedTopic {
  readonly item: string;
  readonly from: boolean;
  readonly to: boolean;
  /** By its entry and all around it up to the row. */
  readonly when: readonly When[];
}

/** Topics that lead to each other, as a row of a relationship table has them. */
export interface Relation {
  readonly cells: readonly (readonly RelatedTopic[])[];
  /** By the row and its table. */
  readonly when: readonly When[];
  /** The branches in which its table stands. */
  readonly branches: readonly Branch[];
}

/**
 * The rows of a relationship table (DITA 1.3, 2.2.3.2), without what the lens drops.
 * @param item the map in which it stands
 */
export function readRelations(
  reltable: Element,
  item: string,
  branches: readonly Branch[],
  reading: Reading,
): Relation[] {
  const isKept = ({ attributes }: Element): boolean =>
    evaluateProfile(attributes, reading.lens, reading.facets).kept;
  const within = (outer: readonly When[], { attributes }: Element): readonly When[] => {
    const when = whenOf(attributes, reading.open);
    return when ? [...outer, when] : outer;
  };
  const topicsIn = (holder: Element, outer: readonly When[]): RelatedTopic[] =>
    childElements(holder)
      .filter(isKept)
      .flatMap((entry) => {
        const when = within(outer, entry);
        return [...relatedBy(entry, item, when), ...topicsIn(entry, when)];
      });
  const ofTable = within([], reltable);
  return childElements(reltable)
    .filter((row) => row.name === 'relrow' && isKept(row))
    .map((row) => ({
      cells: childElements(row).map((cell) =>
        isKept(cell) ? topicsIn(cell, within([], cell)) : [],
      ),
      when: within(ofTable, row),
      branches,
    }));
}

function relatedBy({ attributes }: Element, item: string, when: readonly When[]): RelatedTopic[] {
  const { href, linking } = attributes;
  const reference = href === undefined ? undefined : readReference(href, item);
  if (reference?.kind !== 'item' || linking === 'none') return [];
  return [
    { item: reference.id, from: linking !== 'targetonly', to: linking !== 'sourceonly', when },
  ];
}
