import type { Attributes } from '../markup/index.ts';
import { actionOn } from './deciding.ts';
import { facetValuesOf, type Facet, type FacetValue, type Lens } from './lens.ts';
import { allValues } from './values.ts';

/**
 * A set of readers: for each facet the values that they may have, as bits of the values of its
 * space; facets that are not named leave every value open. A reader has one value of each facet.
 * Sets of this kind can be cut and taken from each other exactly, without going through the
 * combinations.
 */
export type Readers = ReadonlyMap<string, bigint>;

/** The values by which readers can differ on one facet: those that no other is nested in. */
interface Axis {
  readonly label: string;
  readonly labels: readonly string[];
  /** For each value of the list the readers that have it or one nested in it. */
  readonly having: ReadonlyMap<string, bigint>;
  readonly all: bigint;
}
export type ReaderSpace = ReadonlyMap<string, Axis>;

export const everyReader: Readers = new Map();

const innermost = (value: FacetValue): FacetValue[] =>
  value.values && value.values.length > 0 ? value.values.flatMap(innermost) : [value];

/**
 * By what readers can differ.
 * @param used values that content carries; one in no list is a value that a reader may have or not
 * have
 * @param lens readers whose content it drops are not among them
 */
export function readerSpace(
  facets: readonly Facet[],
  used: ReadonlyMap<string, ReadonlySet<string>>,
  lens?: Lens,
): ReaderSpace {
  const space = new Map<string, Axis>();
  for (const [name, carried] of used) {
    const facet = facets.find((one) => one.name === name);
    const listed = facet ? allValues(facet.values) : [];
    const known = new Set(listed.map((value) => value.name));
    const unlisted = [...carried].filter((value) => !known.has(value));
    const leaves: { name: string | undefined; label: string }[] = [
      ...(facet?.values.flatMap(innermost) ?? []),
      ...unlisted.map((value) => ({ name: value, label: value })),
      ...(unlisted.length > 0 || listed.length === 0
        ? [{ name: undefined, label: 'none of these' }]
        : []),
    ].filter(
      (leaf) =>
        !lens || leaf.name === undefined || actionOn(lens, name, leaf.name, facets) !== 'drop',
    );
    const bitOf = new Map(leaves.map((leaf, at) => [leaf.name, 1n << BigInt(at)]));
    const bits = (names: readonly string[]): bigint =>
      names.reduce((sum, one) => sum | (bitOf.get(one) ?? 0n), 0n);
    const having = new Map([
      ...listed.map(
        (value) => [value.name, bits(innermost(value).map((leaf) => leaf.name))] as const,
      ),
      ...unlisted.map((value) => [value, bits([value])] as const),
    ]);
    space.set(name, {
      label: facet?.label ?? name,
      labels: leaves.map(({ label }) => label),
      having,
      all: (1n << BigInt(leaves.length)) - 1n,
    });
  }
  return space;
}

/** Who gets an element by its own attributes. */
export function readersOf(attributes: Attributes, space: ReaderSpace): Readers {
  const written = facetValuesOf(attributes);
  if (written.size === 0) return everyReader;
  const readers = new Map<string, bigint>();
  for (const [facet, values] of written) {
    const axis = space.get(facet);
    if (axis)
      readers.set(
        facet,
        values.reduce((sum, value) => sum | (axis.having.get(value) ?? 0n), 0n),
      );
  }
  return readers;
}

export function both(a: Readers, b: Readers): Readers {
  if (a.size === 0) return b;
  if (b.size === 0) return a;
  const readers = new Map(a);
  for (const [facet, bits] of b) readers.set(facet, bits & (readers.get(facet) ?? bits));
  return readers;
}

export const isNobody = (readers: Readers, space: ReaderSpace): boolean =>
  [...readers].some(([facet, bits]) => (bits & (space.get(facet)?.all ?? 0n)) === 0n);

/** Those of `a` that are not of `b`: sets without a common reader. */
function without(a: Readers, b: Readers, space: ReaderSpace): Readers[] {
  if (isNobody(both(a, b), space)) return isNobody(a, space) ? [] : [a];
  const left: Readers[] = [];
  let rest = a;
  for (const [facet, bits] of b) {
    const all = space.get(facet)?.all ?? 0n;
    const now = rest.get(facet) ?? all;
    const outside = now & ~bits & all;
    if (outside !== 0n) left.push(new Map(rest).set(facet, outside));
    rest = new Map(rest).set(facet, now & bits);
  }
  return left.filter((one) => !isNobody(one, space));
}

/**
 * Parts readers into sets within which all get the same of what the given sets get.
 * @returns the parts, which together are the whole; or that there are more than `most`
 */
export function partition(
  readers: Readers,
  sets: readonly Readers[],
  space: ReaderSpace,
  most: number,
): Readers[] | 'too-many' {
  let parts = isNobody(readers, space) ? [] : [readers];
  for (const set of sets) {
    parts = parts.flatMap((part) => {
      const inside = both(part, set);
      return isNobody(inside, space) ? [part] : [inside, ...without(part, set, space)];
    });
    if (parts.length > most) return 'too-many';
  }
  return parts;
}

/** So many sets are told apart in one question; content of teams comes nowhere near. */
const mostSets = 4000;

/**
 * Those of `readers` whom none of `covers` reaches: none, the sets of them, or that there are too
 * many sets to tell.
 */
export function uncovered(
  readers: Readers,
  covers: readonly Readers[],
  space: ReaderSpace,
): Readers[] | 'too-many' {
  let left = isNobody(readers, space) ? [] : [readers];
  for (const cover of covers) {
    if (left.length === 0) break;
    left = left.flatMap((one) => without(one, cover, space));
    if (left.length > mostSets) return 'too-many';
  }
  return left;
}

/** Readers in words, by the facets on which they are not everybody: “Model Tern D, Power Mains”. */
export function nameReaders(readers: Readers, space: ReaderSpace): string {
  const parts = [...readers].flatMap(([facet, bits]) => {
    const axis = space.get(facet);
    if (!axis || (bits & axis.all) === axis.all) return [];
    return [
      `${axis.label} ${axis.labels.filter((_label, at) => (bits >> BigInt(at)) & 1n).join(' or ')}`,
    ];
  });
  return parts.length === 0 ? 'every reader' : parts.join(', ');
}
