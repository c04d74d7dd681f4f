/**
 * The content of a resolved topic as blocks, of which every output is rendered.
 * In: resolved elements; out: an immutable tree in which what is said in several ways in DITA is
 * said in one, captions have their numbers, tables are grids, and nothing is nested too deeply.
 */
export type * from './block.ts';
export { calledNotes } from './notes.ts';
export { normalizeBlocks, topicBlocks, type Normalizing } from './normalize.ts';
export {
  anchorsLedTo,
  relatedLinks,
  type LinkList,
  type RelatedLink,
  type RelatedLinks,
} from './related.ts';
export { framedEdges, sideOf } from './tables.ts';
