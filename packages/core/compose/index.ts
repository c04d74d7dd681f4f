/**
 * The one road from a library to a publication.
 * In: a map, the library it is in, a lens, variables, a locale; out: a `Publication`, with problems
 * and reasons. expand → filter → borrow → keys → number → link → collect; one file a step. Pure,
 * and quick to do again after a change.
 */
export { compose, composeMemory, type ComposeMemory, type Composition } from './compose.ts';
export { appearances, whyDropped, type Appearance } from './appearing.ts';
export { counting, type Captioned, type Counting } from './number.ts';
export { comparePages, pageTexts, wordsIn, type PageChange, type PageText } from './page-texts.ts';
export { standingOf } from './why.ts';
export { checkEveryReader, type EveryReaderInput } from './every-reader.ts';
export { expandMap, withoutHeading, type MapNode } from './expand.ts';
export { ordinalsIn, type Ordinal } from './ordinals.ts';
export type { PeerEdition } from './peers.ts';
export { withChangeBars } from './changes.ts';
export * from './publication.ts';
