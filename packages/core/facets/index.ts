/**
 * Facets, lenses and the filtering of content.
 * In: profiling attributes of an element and a lens; out: whether the element is kept, and why not.
 * Reads and writes DITAVAL and subject-scheme maps.
 */
export { readDitaval, withFlagImages, writeDitaval } from './ditaval.ts';
export {
  isSubjectScheme,
  readSubjectScheme,
  writeSubjectScheme,
  type SchemeAt,
} from './subject-scheme.ts';
export { conditionsOf, valuesOn, withValues } from './setting.ts';
export { allValues, checkFacetValues, moveInList, replaceInList } from './values.ts';
export { tagOf, tagsOf, type FacetTag } from './tags.ts';
export {
  replaceInLens,
  replaceValue,
  valuesUsed,
  withOtherValue,
  type ValueUse,
} from './renaming.ts';
export { combineLenses, lensOf, type KeptLens } from './combining.ts';
export {
  actionOn,
  evaluateProfile,
  lensKey,
  throughLens,
  withDecision,
  type Decision,
} from './deciding.ts';
export { matchOf, openMatchOf } from './matching.ts';
export {
  innermostValues,
  matches,
  lensOfChosen,
  openFacets,
  whenOf,
  type OpenFacet,
  type OpenValue,
  type ValuesByFacet,
  type When,
} from './open.ts';
export {
  letterDeclarations,
  letterLooks,
  withFlags,
  type LetterLook,
  type ClashLook,
  type MarkLook,
} from './looks.ts';
export {
  facetValuesOf,
  pigments,
  type Pigment,
  type Facet,
  type FacetValue,
  type Lens,
  type LensAction,
  type LensRule,
  type Verdict,
} from './lens.ts';
export {
  both,
  everyReader,
  isNobody,
  nameReaders,
  partition,
  readersOf,
  readerSpace,
  uncovered,
  type Readers,
  type ReaderSpace,
} from './readers.ts';
