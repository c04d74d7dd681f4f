import { matches, type When } from '../facets/index.ts';
import { element, isElement, lineOf, type Node } from '../markup/index.ts';

const isForAll = (when: readonly When[] = []): boolean => when.every((one) => matches(one, {}));

/**
 * What those get who have chosen nothing: of several that stand for each other, the one for all.
 */
const forAll = (nodes: readonly Node[]): Node[] =>
  nodes.flatMap((node): Node[] => {
    if (!isElement(node)) return [node];
    return isForAll((node as { when?: readonly When[] }).when)
      ? [element(node.name, node.attributes, forAll(node.children))]
      : [];
  });

/** Of titles that stay the same from one composition to the next. */
const known = new WeakMap<readonly Node[], string>();

/**
 * Words on one line, as they stand where they cannot follow what readers choose: in names of files
 * and titles of windows.
 */
export function plainLine(nodes: readonly Node[]): string {
  const line = known.get(nodes) ?? lineOf(element('title', {}, forAll(nodes)));
  known.set(nodes, line);
  return line;
}
