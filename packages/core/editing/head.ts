import type { Node as EditorNode } from 'prosemirror-model';
import { element, isElement, type Element, type Node as XmlNode } from '../markup/index.ts';
import { blockToElement } from './from-editor.ts';
import { special } from './names.ts';

/**
 * The topic of a document without its body: title, short description and facts. Cheap, also for a
 * long topic.
 */
export function headOf(document: EditorNode): Element | undefined {
  const root = document.firstChild;
  const name = root?.type.spec.element;
  if (!root || name === undefined) return undefined;
  const children: XmlNode[] = [];
  root.forEach((child) => {
    const held =
      child.type.name === special.rawBlock ? (child.attrs['node'] as XmlNode) : undefined;
    if (isElement(held)) children.push(held);
    else if (child.isTextblock || child.type.spec.element === 'abstract')
      children.push(blockToElement(child));
  });
  return element(name, root.attrs['attributes'] as Element['attributes'], children);
}
