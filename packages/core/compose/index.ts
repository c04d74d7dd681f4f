/**
 * The one road from a library to a publication.
 * In: a map, the library it is in, a lens, variables, a locale; out: a `Publication`, with problems
 * and reasons. expand → resolve → place → number → link → collect: each pass is a function in a
 * file of its own, from one type to the next. Pure, and quick to do again after a change.
 */
export { compose } from './compose.ts';
export type { Composition } from './composition.ts';
export { ComposeMemory } from './memory.ts';
export { appearances, whyDropped, type Appearance } from './appearing.ts';
export { Counting, isCounted, type Captioned } from './counting.ts';
export { comparePages, pageTexts, wordsIn, type PageChange, type PageText } from './page-texts.ts';
export { explainElement } from './why.ts';
export { checkEveryReader, type EveryReaderInput } from './every-reader.ts';
export { withoutHeading } from './expand/entry.ts';
export { expandMap } from './expand/map.ts';
export type { MapNode } from './expand/node.ts';
export type { Metadata } from './metadata.ts';
export { ordinalsIn, type Ordinal } from './ordinals.ts';
export type { PeerEdition } from './peers.ts';
export { withChangeBars } from './changes.ts';
export * from './publication.ts';
