import { isElement, type Element, type Node } from '../markup/index.ts';
import { referenceAttributesOf } from './address.ts';

/**
 * A tree in which every reference is what `change` makes of it; parts without references are shared
 * with the old tree.
 */
export function rewriteReferences(
  root: Element,
  change: (value: string, attribute: string, element: Element) => string,
): Element {
  const visit = (element: Element): Element => {
    let { attributes } = element;
    for (const attribute of referenceAttributesOf(element)) {
      const value = attributes[attribute];
      if (value === undefined || value === '') continue;
      const changed = change(value, attribute, element);
      if (changed !== value) attributes = { ...attributes, [attribute]: changed };
    }
    let children: Node[] | undefined;
    element.children.forEach((child, index) => {
      if (!isElement(child)) return;
      const visited = visit(child);
      if (visited === child) return;
      children ??= [...element.children];
      children[index] = visited;
    });
    return attributes === element.attributes && !children
      ? element
      : { ...element, attributes, children: children ?? element.children };
  };
  return visit(root);
}
