import { walk, type Element } from '../markup/index.ts';
import type { Path } from '../problems/index.ts';

export interface FoundElement {
  readonly element: Element;
  readonly path: Path;
}

const indexes = new WeakMap<Element, ReadonlyMap<string, FoundElement>>();

/**
 * The elements of a tree by id; of several with one id the first. Remembered as long as the tree
 * lives.
 */
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
export function elementById(root: Element, id: string | undefined): FoundElement | undefined {
  return id === undefined ? { element: root, path: [] } : idsOf(root).get(id);
}

/**
 * An id made from a title: letters and digits of any script, not among those that are taken.
 * @param kind what it begins with where the title begins with no letter
 */
export function freeId(title: string, taken: ReadonlySet<string>, kind: string): string {
  const plain = title
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/gu, '')
    .slice(0, 60);
  const base = /^\p{L}/u.test(plain) ? plain : `${kind}-${plain}`.replace(/-$/u, '');
  let id = base;
  for (let count = 2; taken.has(id); count += 1) id = `${base}-${count}`;
  return id;
}
