import type { Proof } from '@ukiyo/contracts';
import type { Path } from '@ukiyo/core/problems';

export type ProofPlace = Proof['places'][number];

/** What stands at a height of a page, in points: the nearest that begins above it. */
export const placeAt = (
  places: readonly ProofPlace[],
  page: number,
  y: number,
): ProofPlace | undefined =>
  places.findLast((place) => place.page < page || (place.page === page && place.y <= y)) ??
  places[0];

/** Where an element, or what is nearest around it, begins. */
export function placeAround(places: readonly ProofPlace[], at: Path): ProofPlace | undefined {
  const outer = places.filter(
    ({ path }) => path.length <= at.length && path.every((index, depth) => index === at[depth]),
  );
  return outer.toSorted((a, b) => b.path.length - a.path.length)[0];
}

const isWithin = (path: Path, outer: Path): boolean =>
  path.length > outer.length && outer.every((index, depth) => index === path[depth]);

/**
 * Where what one proof says is said otherwise, or not at all, in another of the same topic; of
 * nested elements the innermost.
 */
export function differences(
  places: readonly ProofPlace[],
  others: readonly ProofPlace[],
): ProofPlace[] {
  const said = new Map(others.map(({ path, says }) => [path.join('.'), says]));
  const apart = places.filter(({ path, says }) => said.get(path.join('.')) !== says);
  return apart.filter(({ path }) => !apart.some((other) => isWithin(other.path, path)));
}
