import { evaluateProfile, whenOf, type When } from '../facets/index.ts';
import type { Reference } from '../library/index.ts';
import { childElements, childNamed, lineOf, type Element, type Node } from '../markup/index.ts';
import type { Branch } from './branches.ts';
import type { Reading } from './keys.ts';

/** A topic in a relationship table: whether links go from it, and to it (DITA 1.3, `linking`). */
export interface RelatedTopic {
  readonly target: Reference & { readonly kind: 'item' | 'external' };
  /** Its own words, for what is not of this publication. */
  readonly text?: string;
  readonly from: boolean;
  readonly to: boolean;
  /** By its entry and all around it up to the row. */
  readonly when: readonly When[];
}

/** Topics that lead to each other, as a row of a relationship table has them. */
export interface Relation {
  readonly cells: readonly (readonly RelatedTopic[])[];
  /** For each cell the title of its column. */
  readonly titles: readonly (readonly Node[] | undefined)[];
  /** By the row and its table. */
  readonly when: readonly When[];
  /** The branches in which its table stands. */
  readonly branches: readonly Branch[];
}

/** Where a relationship table stands. */
export interface RelationPlace {
  /** The branches around it. */
  readonly branches: readonly Branch[];
  /** What an entry leads to, by its key first; undefined where nothing is found. */
  readonly targetOf: (entry: Element) => Reference | undefined;
}

/**
 * The rows of a relationship table (DITA 1.3, 2.2.3.2), without what the lens drops. Columns say
 * how their cells are linked unless an entry says so itself.
 */
export function readRelations(
  reltable: Element,
  { branches, targetOf }: RelationPlace,
  reading: Reading,
): Relation[] {
  const isKept = ({ attributes }: Element): boolean =>
    evaluateProfile(attributes, reading.lens, reading.facets).kept;
  const within = (outer: readonly When[], { attributes }: Element): readonly When[] => {
    const when = whenOf(attributes, reading.open);
    return when ? [...outer, when] : outer;
  };
  const topicsIn = (holder: Element, outer: readonly When[], usual: string): RelatedTopic[] =>
    childElements(holder)
      .filter(isKept)
      .flatMap((entry) => {
        const when = within(outer, entry);
        const linking = entry.attributes['linking'] ?? usual;
        const related = relatedBy(targetOf(entry), linking);
        return [
          ...related.map((one) => ({ ...one, ...textOf(entry), when })),
          ...topicsIn(entry, when, linking),
        ];
      });
  const header = childNamed(reltable, 'relheader');
  const columns = header ? childElements(header) : [];
  const ofTable = within([], reltable);
  return childElements(reltable)
    .filter((row) => row.name === 'relrow' && isKept(row))
    .map((row) => ({
      cells: childElements(row).map((cell, at) => {
        const linking =
          cell.attributes['linking'] ??
          row.attributes['linking'] ??
          columns[at]?.attributes['linking'] ??
          reltable.attributes['linking'] ??
          'normal';
        return isKept(cell) ? topicsIn(cell, within([], cell), linking) : [];
      }),
      titles: columns.map((column) => childNamed(column, 'title')?.children),
      when: within(ofTable, row),
      branches,
    }));
}

function relatedBy(
  reference: Reference | undefined,
  linking: string,
): Pick<RelatedTopic, 'target' | 'from' | 'to'>[] {
  if ((reference?.kind !== 'item' && reference?.kind !== 'external') || linking === 'none')
    return [];
  return [{ target: reference, from: linking !== 'targetonly', to: linking !== 'sourceonly' }];
}

/** What an entry of a relationship table is called by itself. */
function textOf(entry: Element): Pick<RelatedTopic, 'text'> {
  const meta = childNamed(entry, 'topicmeta');
  const words = meta && (childNamed(meta, 'linktext') ?? childNamed(meta, 'navtitle'));
  const text = words ? lineOf(words) : entry.attributes['navtitle'];
  return text === undefined ? {} : { text };
}
