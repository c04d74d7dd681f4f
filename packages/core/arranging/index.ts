/**
 * Changing the order and depth of a map.
 * In: a map's tree and the path of an entry; out: a new tree with the entry's new path, or nothing
 * where the change would not be valid.
 */
export {
  asBook,
  bookLists,
  hasMatter,
  isBook,
  listPlace,
  mapFact,
  mapFacts,
  withList,
  withMapFact,
  withMatter,
  type MapFact,
  type Matter,
} from './book.ts';
export { compareMaps, type ComparedEntry } from './comparing.ts';
export {
  branchLenses,
  changeEntry,
  cutOut,
  inclusionOf,
  isOnePage,
  isWithoutHeading,
  mapElement,
  peerScope,
  rolesAt,
  standsOnPageAbove,
  withBranchLenses,
  withHeading,
  withInclusion,
  withOnePage,
  withPeerScope,
  type Inclusion,
} from './entry.ts';
export { entryTitle, withEntryTitle } from './entry-title.ts';
export { changeEach, moveMany, outermost, removeMany, type ArrangedMany } from './many.ts';
export { relationsOf, withRelations, type RelationGrid } from './relations.ts';
export {
  droppedEntries,
  flattenMap,
  indent,
  insertEntry,
  move,
  moveDown,
  moveUp,
  outdent,
  removeEntry,
  toggleEntryValue,
  type Arranged,
  type MapEntry,
} from './arrange.ts';
