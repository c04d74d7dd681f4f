import type { Attributes } from '../markup/index.ts';
import { evaluateProfile } from './deciding.ts';
import { facetValuesOf, type Facet, type Lens } from './lens.ts';
import { allOf, type OpenFacet, type ValuesByFacet } from './open.ts';
import { readersOf, readerSpace } from './readers.ts';

/** Says nothing about readers: it suits all of them. */
const forEverybody = 0;
const notForAll = -1;

const countBits = (bits: bigint): number => bits.toString(2).replaceAll('0', '').length;

/**
 * How closely something that is for certain facet values suits those who look through a lens: -1
 * where it is not for all of them, 0 where it is for everybody, and more the more facets it names
 * and the fewer of their values.
 * @param facets the lists; a value in no list applies to no reader
 */
export function matchOf(
  attributes: Attributes,
  lens: Lens | undefined,
  facets: readonly Facet[],
): number {
  return openMatchOf(attributes, lens, facets, []).match;
}

/**
 * The same where readers decide on some facets: with what they may have at most, so that it is for
 * all of them.
 */
export function openMatchOf(
  attributes: Attributes,
  lens: Lens | undefined,
  facets: readonly Facet[],
  left: readonly OpenFacet[],
): { readonly match: number; readonly all: ValuesByFacet } {
  const all = allOf(attributes, left);
  return { match: matchWith(attributes, lens, facets, all), all };
}

/** @param depending facets that readers decide on count as covered */
function matchWith(
  attributes: Attributes,
  lens: Lens | undefined,
  facets: readonly Facet[],
  depending: ValuesByFacet,
): number {
  const named = facetValuesOf(attributes);
  if (named.size === 0) return forEverybody;
  if (!evaluateProfile(attributes, lens, facets).kept) return notForAll;
  const used = new Map([...named].map(([facet, values]) => [facet, new Set(values)]));
  const open = readerSpace(facets, used, lens);
  const readers = readersOf(attributes, open);
  for (const [facet, { all }] of open)
    if (all === 0n || (readers.get(facet) !== all && depending[facet] === undefined))
      return notForAll;
  const whole = readerSpace(facets, used);
  const shares = [...readersOf(attributes, whole)].map(
    ([facet, bits]) => countBits(bits) / countBits(whole.get(facet)!.all),
  );
  // Another facet always counts for more than fewer values of one.
  return named.size + (1 - shares.reduce((sum, share) => sum + share, 0) / shares.length) / 2;
}
