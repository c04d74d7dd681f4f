import type { Path } from '../problems/index.ts';
import { isElement, joinTexts, walk, type Element, type Node } from './element.ts';

/** The node at a path, or undefined where the path leads nowhere. */
export function nodeAt(root: Element, path: Path): Node | undefined {
  let node: Node | undefined = root;
  for (const index of path) {
    if (!isElement(node)) return undefined;
    node = node.children[index];
  }
  return node;
}

/** The elements from the root down to the path, root first. */
export function lineage(root: Element, path: Path): Element[] {
  const line: Element[] = [root];
  for (const index of path) {
    const next = line.at(-1)?.children[index];
    if (!isElement(next)) break;
    line.push(next);
  }
  return line;
}

/**
 * A new root in which the node at `path` is replaced by `nodes` (none removes it); everything else
 * is shared.
 */
export function replaceAt(root: Element, path: Path, nodes: readonly Node[]): Element {
  const [index, ...rest] = path;
  if (index === undefined) {
    const [only] = nodes;
    return isElement(only) ? only : root;
  }
  const child = root.children[index];
  const replacement =
    rest.length === 0
      ? nodes
      : isElement(child)
        ? [replaceAt(child, rest, nodes)]
        : child === undefined
          ? []
          : [child];
  return {
    ...root,
    children: joinTexts([
      ...root.children.slice(0, index),
      ...replacement,
      ...root.children.slice(index + 1),
    ]),
  };
}

/**
 * A new root with `nodes` put before the child `path.at(-1)` of the element at the rest of the
 * path.
 */
export function insertAt(root: Element, path: Path, nodes: readonly Node[]): Element {
  const parentPath = path.slice(0, -1);
  const index = path.at(-1) ?? 0;
  const parent = nodeAt(root, parentPath);
  if (!isElement(parent)) return root;
  const children = joinTexts([
    ...parent.children.slice(0, index),
    ...nodes,
    ...parent.children.slice(index),
  ]);
  return replaceAt(root, parentPath, [{ ...parent, children }]);
}

/** The first element with that `id`, with its path. */
export function findId(root: Element, id: string): { element: Element; path: Path } | undefined {
  let found: { element: Element; path: Path } | undefined;
  walk(root, (candidate, path) => {
    if (found) return false;
    if (candidate.attributes['id'] === id) found = { element: candidate, path: [...path] };
    return undefined;
  });
  return found;
}
