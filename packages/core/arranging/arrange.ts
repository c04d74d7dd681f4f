import { valuesOn, withValues } from '../facets/index.ts';
import { isA, mayContain, validate } from '../grammar/index.ts';
import {
  element,
  insertAt,
  isElement,
  lineOf,
  nodeAt,
  replaceAt,
  type Element,
} from '../markup/index.ts';
import type { Path } from '../problems/index.ts';
import { entryTitle } from './entry-title.ts';

/** One line of a map as people arrange it. */
export interface MapEntry {
  readonly path: Path;
  readonly depth: number;
  readonly element: Element;
  /** The map's own title for it. */
  readonly title: string;
  /** What it names: `topic:ID`, `map:ID`; empty for headings. */
  readonly href: string;
}

export interface Arranged {
  readonly root: Element;
  /** Where the entry is now. */
  readonly path: Path;
}

const isEntry = (node: unknown): node is Element =>
  isElement(node as Element) &&
  isA((node as Element).name, 'topicref') &&
  (node as Element).name !== 'keydef' &&
  (node as Element).name !== 'ditavalref';

/** Every entry in reading order. Keys and relationship tables are not among them. */
export function flattenMap(root: Element): MapEntry[] {
  const entries: MapEntry[] = [];
  const visit = (parent: Element, path: Path, depth: number): void =>
    parent.children.forEach((child, index) => {
      if (!isEntry(child)) return;
      const own = [...path, index];
      entries.push({
        path: own,
        depth,
        element: child,
        title: lineOf(element('title', {}, entryTitle(child))),
        href: child.attributes['href'] ?? '',
      });
      visit(child, own, depth + 1);
    });
  visit(root, [], 0);
  return entries;
}

/**
 * The entry under a name that the parent may hold: a chapter deeper down becomes a topic reference,
 * and back.
 */
export function fittingName(entry: Element, parent: Element): Element | undefined {
  const names = [
    entry.name,
    ...(entry.attributes['href'] === undefined
      ? ['chapter', 'topichead']
      : ['chapter', 'topicref']),
  ];
  const name = names.find(
    (one) => mayContain(parent.name, one) && (one === entry.name || entry.name !== 'part'),
  );
  return name === undefined ? undefined : { ...entry, name };
}

const errors = (root: Element): number =>
  validate(root).filter(({ severity }) => severity === 'error').length;

/** Accepts a change unless it makes the map less valid than it was. */
export function accept(before: Element, after: Element, path: Path): Arranged | undefined {
  return errors(after) > errors(before) ? undefined : { root: after, path };
}

/**
 * Moves an entry, with all it holds, to be child `index` of the element at `parentPath`; both are
 * given as they are before the move.
 */
export function move(
  root: Element,
  from: Path,
  parentPath: Path,
  index: number,
): Arranged | undefined {
  const entry = nodeAt(root, from);
  const parent = nodeAt(root, parentPath);
  const isInside =
    parentPath.length >= from.length && from.every((step, depth) => parentPath[depth] === step);
  if (!isElement(entry) || !isElement(parent) || isInside) return undefined;
  const fitted = fittingName(entry, parent);
  if (!fitted) return undefined;
  const target = shifted([...parentPath, index], from);
  const without = replaceAt(root, from, []);
  return accept(root, insertAt(without, target, [fitted]), target);
}

/** Where a place is once the entry at `removed` is gone. */
export function shifted(place: Path, removed: Path): Path {
  const depth = removed.length - 1;
  const isBehind =
    place.length > depth &&
    removed.slice(0, depth).every((step, at) => place[at] === step) &&
    (place[depth] ?? 0) > (removed[depth] ?? 0);
  return isBehind ? place.with(depth, (place[depth] ?? 0) - 1) : place;
}

function sibling(root: Element, path: Path, direction: -1 | 1): number | undefined {
  const parent = nodeAt(root, path.slice(0, -1));
  if (!isElement(parent)) return undefined;
  for (
    let index = (path.at(-1) ?? 0) + direction;
    index >= 0 && index < parent.children.length;
    index += direction
  )
    if (isEntry(parent.children[index])) return index;
  return undefined;
}

export function moveUp(root: Element, path: Path): Arranged | undefined {
  const before = sibling(root, path, -1);
  return before === undefined ? undefined : move(root, path, path.slice(0, -1), before);
}

export function moveDown(root: Element, path: Path): Arranged | undefined {
  const after = sibling(root, path, 1);
  return after === undefined ? undefined : move(root, path, path.slice(0, -1), after + 1);
}

/** Makes the entry the last one inside the entry before it. */
export function indent(root: Element, path: Path): Arranged | undefined {
  const before = sibling(root, path, -1);
  const parentPath = before === undefined ? undefined : [...path.slice(0, -1), before];
  const parent = parentPath && nodeAt(root, parentPath);
  return parentPath && isElement(parent)
    ? move(root, path, parentPath, parent.children.length)
    : undefined;
}

/** Puts the entry behind the one it is in. */
export function outdent(root: Element, path: Path): Arranged | undefined {
  if (path.length < 2) return undefined;
  return move(root, path, path.slice(0, -2), (path.at(-2) ?? 0) + 1);
}

/** Takes an entry out, with all it holds. The topics themselves stay in the library. */
export function removeEntry(root: Element, path: Path): Arranged | undefined {
  return accept(root, replaceAt(root, path, []), path.slice(0, -1));
}

/**
 * Puts a topic or map behind the entry at `after`, or at the end of the map where there is none.
 */
export function insertEntry(
  root: Element,
  after: Path | undefined,
  href: string,
): Arranged | undefined {
  const parentPath = after?.slice(0, -1) ?? [];
  const parent = nodeAt(root, parentPath);
  if (!isElement(parent)) return undefined;
  const lastEntry = parent.children.findLastIndex(isEntry);
  const places = after ? [(after.at(-1) ?? 0) + 1] : [lastEntry + 1, parent.children.length];
  const entry = fittingName(
    element('topicref', { href, ...(href.startsWith('map:') ? { format: 'ditamap' } : {}) }),
    parent,
  );
  for (const index of entry ? places : []) {
    const path = [...parentPath, index];
    const arranged = accept(root, insertAt(root, path, [entry!]), path);
    if (arranged) return arranged;
  }
  return undefined;
}

/**
 * Sets a facet value on an entry, or takes it away: for other readers the entry and all that it
 * holds is not there.
 */
export function toggleEntryValue(
  root: Element,
  path: Path,
  facet: string,
  value: string,
): Arranged | undefined {
  const entry = nodeAt(root, path);
  if (!isEntry(entry)) return undefined;
  const values = valuesOn(entry.attributes, facet);
  const next = values.includes(value) ? values.filter((one) => one !== value) : [...values, value];
  return accept(
    root,
    replaceAt(root, path, [{ ...entry, attributes: withValues(entry.attributes, facet, next) }]),
    path,
  );
}

/**
 * Which entries a judgement on their attributes drops, with all that they hold; in the order of the
 * entries.
 */
export function droppedEntries(
  entries: readonly MapEntry[],
  isDropped: (entry: Element) => boolean,
): boolean[] {
  let within: number | undefined;
  return entries.map(({ depth, element: entry }) => {
    if (within !== undefined && depth > within) return true;
    within = isDropped(entry) ? depth : undefined;
    return within !== undefined;
  });
}
