import { profilingAttributes } from '../grammar/index.ts';
import type { ClashLook, MarkLook } from './looks.ts';
import type { Attributes } from '../markup/index.ts';

/** Colours of equal lightness that stay apart for colour-blind eyes; never the only sign. */
export const pigments = [
  'teal',
  'rust',
  'wisteria',
  'moss',
  'plum',
  'pine',
  'slate',
  'amber',
] as const;
export type Pigment = (typeof pigments)[number];

export interface FacetValue {
  readonly name: string;
  readonly label: string;
  /**
   * One to three characters that stand for it beside the text; the initials of its label where it
   * has none.
   */
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
  /** How it looks, for what is marked. */
  readonly look?: MarkLook;
}

/** Decisions on facet values. Values that no rule names are kept. */
export interface Lens {
  readonly name: string;
  readonly rules: readonly LensRule[];
  readonly clash?: ClashLook;
}

export interface Verdict {
  readonly kept: boolean;
  /** How it looks, where it is marked. */
  readonly marked?: MarkLook;
  /** The facet for which the element was dropped. */
  readonly facet?: string;
  readonly values?: readonly string[];
}

/** Values of an attribute, or of a group in it. */
export interface FacetGroup {
  readonly facet: string;
  /** The attribute in which a group stands. */
  readonly holder?: string;
  readonly values: readonly string[];
}

const split = (text: string): string[] => text.split(/\s+/u).filter((value) => value !== '');

/**
 * The facet values of an element: one entry for each profiling attribute, and for each group within
 * one, as in `props="country(velmark kisara) release(4.2)"` (DITA 1.3, 2.4.3.2).
 */
export function facetGroupsOf(attributes: Attributes): FacetGroup[] {
  const found: FacetGroup[] = [];
  for (const name of profilingAttributes) {
    const text = attributes[name];
    if (text === undefined) continue;
    if (!text.includes('(')) {
      found.push({ facet: name, values: split(text) });
      continue;
    }
    found.push({ facet: name, values: split(text.replace(/[^\s()]+\([^)]*\)/gu, ' ')) });
    for (const [, group, values] of text.matchAll(/([^\s()]+)\(([^)]*)\)/gu))
      found.push({ facet: group!, holder: name, values: split(values!) });
  }
  return found.filter(({ values }) => values.length > 0);
}

/** The facet values of an element, by facet. @see facetGroupsOf */
export function facetValuesOf(attributes: Attributes): Map<string, string[]> {
  const found = new Map<string, string[]>();
  for (const { facet, values } of facetGroupsOf(attributes))
    found.set(facet, [...(found.get(facet) ?? []), ...values]);
  return found;
}
