import { checkFacetValues, type Facet } from '../facets/index.ts';
import { validate } from '../grammar/index.ts';
import type { Element } from '../markup/index.ts';
import type { Problem } from '../problems/index.ts';

/** Everything that is wrong with one text by itself, whatever publication it is in: beside the page, in the library's counts and in a build alike. */
export function checkItem(root: Element, facets: readonly Facet[] = []): Problem[] {
  return [...validate(root), ...checkFacetValues(root, facets)];
}
