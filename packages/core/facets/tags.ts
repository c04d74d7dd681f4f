import type { Attributes } from '../markup/index.ts';
import { facetValuesOf, pigments, type Facet, type FacetValue, type Pigment } from './lens.ts';
import { allValues } from './values.ts';

/** How one facet value of an element is shown beside the text. */
export interface FacetTag {
  readonly facet: string;
  readonly value: string;
  /** In words: “Model: Tern Q”. */
  readonly label: string;
  readonly letters: string;
  readonly pigment: Pigment;
}

/** The initials of a label, two at most: “Tern Q” is TQ. */
const initialsOf = (label: string): string =>
  (label.match(/[\p{L}\p{N}]+/gu) ?? ['?'])
    .slice(0, 2)
    .map((word) => Array.from(word)[0]!.toUpperCase())
    .join('');

/** Values of one facet have neighbouring pigments, and facets begin apart from each other. */
function pigmentAt(facetPlace: number, valuePlace: number): Pigment {
  return pigments[(facetPlace * 3 + valuePlace) % pigments.length]!;
}

/** How a value of a facet is shown, with what it does not say itself filled in. */
export function tagOf(facets: readonly Facet[], facet: Facet, value: FacetValue): FacetTag {
  const place = allValues(facet.values).findIndex(({ name }) => name === value.name);
  return {
    facet: facet.name,
    value: value.name,
    label: `${facet.label}: ${value.label}`,
    letters: value.letters ?? initialsOf(value.label),
    pigment: value.pigment ?? pigmentAt(facets.indexOf(facet), place),
  };
}

/**
 * The facet values of an element in the order of the team's lists; those in no list come last, as
 * they are written.
 */
export function tagsOf(attributes: Attributes, facets: readonly Facet[]): FacetTag[] {
  const written = facetValuesOf(attributes);
  if (written.size === 0) return [];
  const known = facets.flatMap((facet) =>
    allValues(facet.values).flatMap((value) =>
      written.get(facet.name)?.includes(value.name) ? [tagOf(facets, facet, value)] : [],
    ),
  );
  const unknown = [...written].flatMap(([facet, values]) =>
    values
      .filter((value) => !known.some((tag) => tag.facet === facet && tag.value === value))
      .map((value): FacetTag => ({
        facet,
        value,
        label: `${facet}: ${value}`,
        letters: initialsOf(value),
        pigment: 'slate',
      })),
  );
  return [...known, ...unknown];
}
