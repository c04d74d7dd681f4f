/**
 * Changing the order and depth of a map.
 * In: a map's tree and the path of an entry; out: a new tree with the entry's new path, or nothing where the change would not be valid.
 */
export { droppedEntries, flattenMap, indent, insertEntry, move, moveDown, moveUp, outdent, removeEntry, toggleEntryValue, type Arranged, type MapEntry } from './arrange.ts';
