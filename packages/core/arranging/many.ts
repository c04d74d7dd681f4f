import {
  insertAt,
  isElement,
  nodeAt,
  replaceAt,
  type Element,
  type Node,
} from '../markup/index.ts';
import type { Path } from '../problems/index.ts';
import { accept, fittingName, removeEntry, shifted, type Arranged } from './arrange.ts';

/** Entries that are changed together. */
export interface ArrangedMany {
  readonly root: Element;
  /** Where they are now, in the order of the map. */
  readonly paths: readonly Path[];
}

const isWithin = (path: Path, outer: Path): boolean =>
  path.length > outer.length && outer.every((step, at) => path[at] === step);
const inOrder = (a: Path, b: Path): number => {
  const at = a.findIndex((step, index) => step !== b[index]);
  return at === -1 ? a.length - b.length : (a[at] ?? 0) - (b[at] ?? 0);
};

/** The entries in the order of the map, without those that go along with one that holds them. */
export function outermost(paths: readonly Path[]): Path[] {
  return [...paths].sort(inOrder).filter((path) => !paths.some((other) => isWithin(path, other)));
}

/** Where an element stands; trees are immutable, so what was not changed is the same object. */
function pathOf(root: Element, wanted: Node): Path | undefined {
  if (root === wanted) return [];
  for (const [index, child] of root.children.entries()) {
    const inner = isElement(child) ? pathOf(child, wanted) : undefined;
    if (inner) return [index, ...inner];
  }
  return undefined;
}

/**
 * Makes one change after the other to several entries; all of them, or none where one is refused.
 * @param isBackward whether the last one goes first
 */
export function changeEach(
  root: Element,
  paths: readonly Path[],
  change: (root: Element, path: Path) => Arranged | undefined,
  isBackward = false,
): ArrangedMany | undefined {
  const entries = outermost(paths).flatMap((path) => nodeAt(root, path) ?? []);
  let now = root;
  let moved: readonly Node[] = [];
  for (const entry of isBackward ? entries.toReversed() : entries) {
    const at = pathOf(now, entry);
    const arranged = at && change(now, at);
    if (!arranged) return undefined;
    now = arranged.root;
    moved = [
      ...moved,
      ...(nodeAt(now, arranged.path) === undefined ? [] : [nodeAt(now, arranged.path)!]),
    ];
  }
  return {
    root: now,
    paths: outermost(
      moved.flatMap((entry) => [pathOf(now, entry)].filter((path) => path !== undefined)),
    ),
  };
}

/**
 * Moves entries, with all they hold, to stand one after the other from child `index` of the element
 * at `parentPath` on; places are given as they are before the move.
 */
export function moveMany(
  root: Element,
  from: readonly Path[],
  parentPath: Path,
  index: number,
): ArrangedMany | undefined {
  const paths = outermost(from);
  const parent = nodeAt(root, parentPath);
  const entries = paths.map((path) => nodeAt(root, path)).filter(isElement);
  const isInside = paths.some((path) => isWithin([...parentPath, 0], path));
  if (!isElement(parent) || isInside || entries.length < paths.length) return undefined;
  const fitted = entries.flatMap((entry) => fittingName(entry, parent) ?? []);
  if (fitted.length < entries.length) return undefined;
  const last = paths.toReversed();
  const target = last.reduce<Path>(shifted, [...parentPath, index]);
  const without = last.reduce((now, path) => replaceAt(now, path, []), root);
  const arranged = accept(root, insertAt(without, target, fitted), target);
  return (
    arranged && {
      root: arranged.root,
      paths: fitted.map((_, at) => target.with(-1, target.at(-1)! + at)),
    }
  );
}

/** Takes entries out, with all they hold. */
export function removeMany(root: Element, paths: readonly Path[]): Arranged | undefined {
  const [first] = outermost(paths);
  let now = root;
  for (const path of outermost(paths).toReversed()) {
    const arranged = removeEntry(now, path);
    if (!arranged) return undefined;
    now = arranged.root;
  }
  return (
    first && { root: now, path: nodeAt(now, first) === undefined ? first.slice(0, -1) : first }
  );
}
