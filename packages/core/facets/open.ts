import { profilingAttributes } from '../grammar/index.ts';
import type { Attributes } from '../markup/index.ts';
import { actionOn } from './deciding.ts';
import { facetValuesOf, type Facet, type FacetValue, type Lens } from './lens.ts';

/** Values by facet: those that no other is nested in. */
export type ValuesByFacet = Readonly<Record<string, readonly string[]>>;

/** A value that readers can have. */
export interface OpenValue {
  readonly name: string;
  readonly label: string;
  /** Itself, or those nested in it that no other is nested in. */
  readonly innermost: readonly string[];
  readonly values: readonly OpenValue[];
}

/** A facet on which nothing is decided when a publication is made: its readers do. */
export interface OpenFacet {
  readonly name: string;
  readonly label: string;
  /** Without those that the lens drops. */
  readonly values: readonly OpenValue[];
  /** By every value of the list, those of the innermost that readers can have. */
  readonly having: ReadonlyMap<string, readonly string[]>;
  /** Innermost values that the lens drops: no reader has them. */
  readonly closed: readonly string[];
}

/**
 * Who gets something, as far as readers decide. All that is given must hold.
 * `any`: of each facet they have one of these values at least. `all`: of each facet they have none
 * but these. `unless`: no such `all` holds. `none`: no such `any` holds. `either`: all of at least
 * one of these holds.
 */
export interface When {
  readonly any?: ValuesByFacet;
  readonly all?: ValuesByFacet;
  readonly unless?: readonly ValuesByFacet[];
  readonly none?: readonly ValuesByFacet[];
  readonly either?: readonly (readonly When[])[];
}

const innermostOf = (value: FacetValue): readonly string[] =>
  value.values && value.values.length > 0 ? value.values.flatMap(innermostOf) : [value.name];

/**
 * Facets that are left open, in the order in which they are named; those that there are not are
 * passed over.
 */
export function openFacets(
  names: readonly string[],
  facets: readonly Facet[],
  lens: Lens | undefined,
): OpenFacet[] {
  return names.flatMap((name) => {
    const facet = facets.find((one) => one.name === name);
    if (!facet) return [];
    const isClosed = (value: string): boolean =>
      lens !== undefined && actionOn(lens, name, value, facets) === 'drop';
    const having = new Map<string, readonly string[]>();
    const read = (values: readonly FacetValue[]): OpenValue[] =>
      values.flatMap((value) => {
        const innermost = innermostOf(value).filter((one) => !isClosed(one));
        having.set(value.name, innermost);
        const nested = read(value.values ?? []);
        return innermost.length === 0
          ? []
          : [{ name: value.name, label: value.label, innermost, values: nested }];
      });
    const values = read(facet.values);
    return [
      {
        name,
        label: facet.label,
        values,
        having,
        closed: facet.values.flatMap(innermostOf).filter(isClosed),
      },
    ];
  });
}

const unionOf = (values: readonly string[], { having }: OpenFacet): readonly string[] => [
  ...new Set(values.flatMap((value) => having.get(value) ?? [])),
];
export const innermostValues = ({ values }: Pick<OpenFacet, 'values'>): readonly string[] =>
  values.flatMap(({ innermost }) => innermost);

/**
 * Who gets an element by its own attributes; undefined where that is every reader, as far as the
 * open facets go.
 */
export function whenOf(attributes: Attributes, open: readonly OpenFacet[]): When | undefined {
  if (open.length === 0 || !profilingAttributes.some((name) => attributes[name] !== undefined))
    return undefined;
  const written = facetValuesOf(attributes);
  const any = open.flatMap((facet): [string, readonly string[]][] => {
    const values = written.get(facet.name);
    // A value in no list cannot be chosen, and cannot be decided against.
    if (!values || values.some((value) => !facet.having.has(value))) return [];
    const having = unionOf(values, facet);
    return having.length === innermostValues(facet).length ? [] : [[facet.name, having]];
  });
  return any.length === 0 ? undefined : { any: Object.fromEntries(any) };
}

/**
 * Whether something suits all who look: the facets of which that depends on what readers choose,
 * with what they may have at most.
 */
export function allOf(attributes: Attributes, open: readonly OpenFacet[]): ValuesByFacet {
  const written = facetValuesOf(attributes);
  return Object.fromEntries(
    open.flatMap((facet): [string, readonly string[]][] => {
      const values = written.get(facet.name);
      if (!values) return [];
      const having = unionOf(values, facet);
      return having.length === innermostValues(facet).length
        ? []
        : [[facet.name, [...having, ...facet.closed]]];
    }),
  );
}

/**
 * Whether readers who have these values get something.
 * @param chosen of facets that it does not name, readers have every value
 */
export function matches(
  { any = {}, all, unless = [], none = [], either }: When,
  chosen: ValuesByFacet,
): boolean {
  const allHolds = (values: ValuesByFacet): boolean =>
    Object.entries(values).every(
      ([facet, most]) => chosen[facet]?.every((value) => most.includes(value)) ?? false,
    );
  const anyHolds = (some: ValuesByFacet): boolean =>
    Object.entries(some).every(
      ([facet, values]) =>
        chosen[facet]?.some((value) => values.includes(value)) ?? values.length > 0,
    );
  const eitherHolds = either?.some((way) => way.every((when) => matches(when, chosen))) ?? true;
  return (
    anyHolds(any) &&
    (all === undefined || allHolds(all)) &&
    !unless.some(allHolds) &&
    !none.some(anyHolds) &&
    eitherHolds
  );
}

/** The lens of those who have these values: what it drops is what they do not get. */
export function lensOfChosen(chosen: ValuesByFacet, facets: readonly Facet[]): Lens {
  const rules = Object.entries(chosen).flatMap(([name, values]) => {
    const dropped = (list: readonly FacetValue[]): string[] =>
      list.flatMap((value) => [
        ...(innermostOf(value).some((one) => values.includes(one)) ? [] : [value.name]),
        ...dropped(value.values ?? []),
      ]);
    return dropped(facets.find((facet) => facet.name === name)?.values ?? []).map((value) => ({
      facet: name,
      value,
      action: 'drop' as const,
    }));
  });
  return { name: '', rules };
}
