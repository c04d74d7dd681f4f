/**
 * Facets, lenses and the filtering of content.
 * In: profiling attributes of an element and a lens; out: whether the element is kept, and why not. Reads and writes DITAVAL and subject-scheme maps.
 */
export { readDitaval, writeDitaval } from './ditaval.ts';
export { isSubjectScheme, readSubjectScheme, writeSubjectScheme } from './subject-scheme.ts';
export { valuesOn, withValues } from './setting.ts';
export { allValues, checkFacetValues } from './values.ts';
export { facetValuesOf, judge, lensKey, type Facet, type FacetValue, type Lens, type LensAction, type LensRule, type Verdict } from './lens.ts';
