import { walk, type Element } from '../markup/index.ts';
import type { Path } from '../problems/index.ts';

export interface FoundElement {
  readonly element: Element;
  readonly path: Path;
}

const indexes = new WeakMap<Element, ReadonlyMap<string, FoundElement>>();

/** The elements of a tree by id; of several with one id the first. Remembered as long as the tree lives. */
export function idsOf(root: Element): ReadonlyMap<string, FoundElement> {
  const known = indexes.get(root);
  if (known) return known;
  const index = new Map<string, FoundElement>();
  walk(root, (element, path) => {
    const id = element.attributes['id'];
    if (id !== undefined && !index.has(id)) index.set(id, { element, path: [...path] });
  });
  indexes.set(root, index);
  return index;
}

/** The element a reference names within an item: its root when it names none. */
export function elementOf(root: Element, id: string | undefined): FoundElement | undefined {
  return id === undefined ? { element: root, path: [] } : idsOf(root).get(id);
}
