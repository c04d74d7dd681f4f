import { profilingAttributes } from '../grammar/index.ts';
import type { Attributes } from '../markup/index.ts';

/** Colours of equal lightness that stay apart for colour-blind eyes; never the only sign. */
export const pigments = ['teal', 'rust', 'wisteria', 'moss', 'plum', 'pine', 'slate', 'amber'] as const;
export type Pigment = (typeof pigments)[number];

export interface FacetValue {
  readonly name: string;
  readonly label: string;
  /** One to three characters that stand for it beside the text; the initials of its label where it has none. */
  readonly letters?: string;
  /** By its place in the list where it has none. */
  readonly pigment?: Pigment;
  readonly description?: string;
  /** Stays where it is set, and is offered no more. */
  readonly retired?: boolean;
  readonly values?: readonly FacetValue[];
}

/** One axis along which content varies, with its closed list of values. */
export interface Facet {
  /** The profiling attribute, or the group within one, that carries the values. */
  readonly name: string;
  readonly label: string;
  readonly values: readonly FacetValue[];
}

export type LensAction = 'keep' | 'drop' | 'mark';

export interface LensRule {
  /** Without a facet the rule holds for every value that no other rule names. */
  readonly facet?: string;
  /** Without a value the rule holds for every value of the facet that no other rule names. */
  readonly value?: string;
  readonly action: LensAction;
}

/** Decisions on facet values. Values that no rule names are kept. */
export interface Lens {
  readonly name: string;
  readonly rules: readonly LensRule[];
}

export interface Verdict {
  readonly kept: boolean;
  readonly marked: boolean;
  /** The facet for which the element was dropped. */
  readonly facet?: string;
  readonly values?: readonly string[];
}

/**
 * The facet values of an element, by facet: one entry for each profiling attribute, and for each group within one,
 * as in `props="country(velmark kisara) release(4.2)"` (DITA 1.3, 2.4.3.2).
 */
export function facetValuesOf(attributes: Attributes): Map<string, string[]> {
  const found = new Map<string, string[]>();
  const add = (facet: string, values: readonly string[]): void => {
    if (values.length > 0) found.set(facet, [...(found.get(facet) ?? []), ...values]);
  };
  const split = (text: string): string[] => text.split(/\s+/u).filter((value) => value !== '');
  for (const name of profilingAttributes) {
    const text = attributes[name];
    if (text === undefined) continue;
    if (!text.includes('(')) {
      add(name, split(text));
      continue;
    }
    add(name, split(text.replace(/[^\s()]+\([^)]*\)/gu, ' ')));
    for (const [, group, values] of text.matchAll(/([^\s()]+)\(([^)]*)\)/gu)) add(group!, split(values!));
  }
  return found;
}

/** For each value the values it is nested in, nearest first. */
function ancestorsIn(facet: Facet | undefined, value: string): string[] {
  const search = (values: readonly FacetValue[], above: readonly string[]): string[] | undefined => {
    for (const one of values) {
      if (one.name === value) return [...above];
      const inside = search(one.values ?? [], [one.name, ...above]);
      if (inside) return inside;
    }
    return undefined;
  };
  return (facet && search(facet.values, [])) ?? [];
}

/** The rule for what no other names: the facet's, else the lens's. */
const generalRule = (lens: Lens, facetName: string): LensRule | undefined =>
  lens.rules.find((one) => one.facet === facetName && one.value === undefined) ?? lens.rules.find((one) => one.facet === undefined);

/** A rule for the value itself goes before one for a value it is nested in, then the facet's, then the lens's default. */
function actionFor(lens: Lens, facetName: string, value: string, facets: readonly Facet[]): LensAction {
  const facet = facets.find((one) => one.name === facetName);
  for (const name of [value, ...ancestorsIn(facet, value)]) {
    const rule = lens.rules.find((one) => one.facet === facetName && one.value === name);
    if (rule) return rule.action;
  }
  return generalRule(lens, facetName)?.action ?? 'keep';
}

/** What a lens does with a value, or with those of a facet that no rule names. */
export const actionOn = (lens: Lens, facet: string, value: string | undefined, facets: readonly Facet[]): LensAction =>
  value === undefined ? (generalRule(lens, facet)?.action ?? 'keep') : actionFor(lens, facet, value, facets);

/** A rule of a lens, or none where there is no action: the value then follows what is more general. */
export interface Decision {
  readonly facet?: string | undefined;
  readonly value?: string | undefined;
  readonly action?: LensAction | undefined;
}

/** The lens with one decision made anew. */
export function withDecision<Named extends Lens>(lens: Named, { facet, value, action }: Decision): Named {
  const others = lens.rules.filter((rule) => rule.facet !== facet || rule.value !== value);
  const made: LensRule[] = action === undefined ? [] : [{ ...(facet === undefined ? {} : { facet }), ...(value === undefined ? {} : { value }), action }];
  return { ...lens, rules: [...others, ...made] };
}

const keptPlain: Verdict = { kept: true, marked: false };

/**
 * Decides on an element by its profiling attributes: it is dropped when for any facet all its values are dropped
 * (DITA 1.3, 2.4.3.3 “Filtering and flagging logic”).
 */
export function judge(attributes: Attributes, lens: Lens | undefined, facets: readonly Facet[] = []): Verdict {
  if (!lens || !profilingAttributes.some((name) => attributes[name] !== undefined)) return keptPlain;
  let marked = false;
  for (const [facet, values] of facetValuesOf(attributes)) {
    const actions = values.map((value) => actionFor(lens, facet, value, facets));
    if (actions.every((action) => action === 'drop')) return { kept: false, marked: false, facet, values };
    marked ||= actions.includes('mark');
  }
  return { kept: true, marked };
}

/** The same for lenses that decide the same; used to remember results. */
export function lensKey(lens: Lens | undefined): string {
  return lens ? JSON.stringify(lens.rules.map(({ facet, value, action }) => [facet, value, action]).sort()) : '';
}
