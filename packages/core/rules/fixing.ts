import { withOtherValue } from '../facets/index.ts';
import { emptyElement } from '../grammar/index.ts';
import {
  element,
  insertAt,
  isElement,
  nodeAt,
  replaceAt,
  withAttribute,
  type Element,
  type Node,
} from '../markup/index.ts';
import type { Path, Problem, TreeEdit } from '../problems/index.ts';
import { wordingIn } from './wording.ts';

/**
 * The tree after an edit; undefined when another element than the edit expects stands at its path
 * by now.
 */
export function applyEdit(root: Element, edit: TreeEdit): Element | undefined {
  const found = nodeAt(root, edit.path);
  if (!isElement(found) || found.name !== edit.element) return undefined;
  const put = (nodes: readonly Node[]): Element | undefined =>
    edit.path.length === 0 && nodes.length !== 1 ? undefined : replaceAt(root, edit.path, nodes);
  switch (edit.kind) {
    case 'attribute':
      return put([withAttribute(found, edit.name, undefined)]);
    case 'remove':
      return put([]);
    case 'unwrap':
      return put(found.children);
    case 'insert':
      return insertAt(root, [...edit.path, edit.index], [emptyElement(edit.name)]);
    case 'value':
      return put([
        { ...found, attributes: withOtherValue(found.attributes, edit.facet, edit.from, edit.to) },
      ]);
    case 'words':
      return put([
        element(
          found.name,
          found.attributes,
          found.children.map((child) =>
            typeof child === 'string' ? reworded(child, edit.from, edit.to) : child,
          ),
        ),
      ]);
  }
}

/** A first letter that was large stays large. */
function reworded(text: string, from: string, to: string): string {
  return text.replace(wordingIn(from), (found) =>
    /^\p{Lu}/u.test(found) ? `${to.charAt(0).toUpperCase()}${to.slice(1)}` : to,
  );
}

/** Later places first, so that what is changed leaves the paths of the others as they are. */
function laterFirst(a: Path, b: Path): number {
  for (let at = 0; at < Math.max(a.length, b.length); at += 1) {
    const difference = (b[at] ?? -1) - (a[at] ?? -1);
    if (difference !== 0) return difference;
  }
  return 0;
}

/** The tree with every problem put right that has a fix, and how many were. */
export function applyFixes(
  root: Element,
  problems: readonly Problem[],
): { root: Element; count: number } {
  const edits = problems
    .flatMap(({ fix }) => (fix ? [fix.edit] : []))
    .sort((a, b) => laterFirst(a.path, b.path));
  let count = 0;
  let now = root;
  for (const edit of edits) {
    const changed = applyEdit(now, edit);
    if (!changed) continue;
    now = changed;
    count += 1;
  }
  return { root: now, count };
}
