/**
 * Facets, lenses and the filtering of content.
 * In: profiling attributes of an element and a lens; out: whether the element is kept, and why not. Reads and writes DITAVAL and subject-scheme maps.
 */
export { readDitaval, writeDitaval } from './ditaval.ts';
export { isSubjectScheme, readSubjectScheme, writeSubjectScheme } from './subject-scheme.ts';
export { valuesOn, withValues } from './setting.ts';
export { allValues, checkFacetValues, moveInList, replaceInList } from './values.ts';
export { tagOf, tagsOf, type FacetTag } from './tags.ts';
export { replaceInLens, replaceValue, valuesUsed, withOtherValue, type ValueUse } from './renaming.ts';
export {
  actionOn,
  facetValuesOf,
  judge,
  lensKey,
  pigments,
  withDecision,
  type Decision,
  type Pigment,
  type Facet,
  type FacetValue,
  type Lens,
  type LensAction,
  type LensRule,
  type Verdict,
} from './lens.ts';
