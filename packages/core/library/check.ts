import { checkFacetValues, type Facet } from '../facets/index.ts';
import { validate } from '../grammar/index.ts';
import { checkImageMaps } from '../imagemaps/index.ts';
import type { Element } from '../markup/index.ts';
import type { Problem } from '../problems/index.ts';
import { checkTables } from '../tables/index.ts';
import { checkCompleteness, checkHouseRules, type HouseRule } from '../rules/index.ts';

/** What the team has agreed on, against which a text is checked. */
export interface Agreed {
  readonly facets?: readonly Facet[];
  readonly rules?: readonly HouseRule[];
}

/**
 * Everything that is wrong with one text by itself, whatever publication it is in: beside the page,
 * in the library's counts and in a build alike.
 */
export function checkItem(root: Element, { facets = [], rules = [] }: Agreed = {}): Problem[] {
  return [
    ...validate(root),
    ...checkFacetValues(root, facets),
    ...checkCompleteness(root),
    ...checkImageMaps(root),
    ...checkTables(root),
    ...checkHouseRules(root, rules),
  ];
}
