import type { Node as EditorNode } from 'prosemirror-model';
import { NodeSelection, type EditorState, type Transaction } from 'prosemirror-state';
import { mayContain } from '../grammar/index.ts';
import {
  element,
  isElement,
  textOf,
  type Attributes,
  type Element,
  type Node as XmlNode,
} from '../markup/index.ts';
import { textElementAt } from './fitting.ts';
import { blockToElement } from './from-editor.ts';
import { special } from './names.ts';
import { editorSchema } from './schema.ts';
import { blockFrom } from './to-editor.ts';

const isImage = (node: EditorNode): boolean =>
  node.type.name === special.blockImage || node.type.name === 'image';

/** A block made of an image: the image itself, or a figure that waits for its title. */
export const blockOfImage = (name: 'image' | 'fig' | 'imagemap', href: string): EditorNode =>
  blockFrom(
    name === 'imagemap'
      ? element('imagemap', {}, [element('title'), element('image', { href })])
      : name === 'image'
        ? element('image', { href, placement: 'break' })
        : element('fig', {}, [element('title'), element('image', { href })]),
  );

export function canAddImage({ selection: { $from, $to } }: EditorState): boolean {
  const holder = textElementAt($from);
  return holder !== undefined && $from.sameParent($to) && mayContain(holder, 'image');
}

/** Puts an image into the line, behind the selection. */
export function addImage(state: EditorState, href: string): Transaction {
  const { to } = state.selection;
  const tr = state.tr.insert(to, editorSchema.nodes['image']!.create({ attributes: { href } }));
  return tr.setSelection(NodeSelection.create(tr.doc, to)).scrollIntoView();
}

/** The first image from a position on. */
export function imageFrom(document: EditorNode, position: number, end: number): number | undefined {
  let found: number | undefined;
  document.nodesBetween(position, end, (node, at) => {
    if (found === undefined && isImage(node)) found = at;
    return found === undefined;
  });
  return found;
}

const altIn = (node: EditorNode): Element | undefined =>
  (node.attrs['children'] as readonly XmlNode[]).find(
    (child): child is Element => isElement(child) && child.name === 'alt',
  );

/** What is said of an image to those who do not see it; undefined where there is no image. */
export function alternativeAt(state: EditorState, position: number): string | undefined {
  const node = state.doc.nodeAt(position);
  if (!node || !isImage(node)) return undefined;
  const alt = altIn(node);
  return alt ? textOf(alt) : ((node.attrs['attributes'] as Attributes)['alt'] ?? '');
}

export function withAlternative(state: EditorState, position: number, words: string): Transaction {
  const node = state.doc.nodeAt(position)!;
  const others = (node.attrs['children'] as readonly XmlNode[]).filter(
    (child) => child !== altIn(node),
  );
  const { alt: _old, ...attributes } = node.attrs['attributes'] as Attributes;
  const tr = state.tr.setNodeMarkup(position, undefined, {
    attributes,
    children: words === '' ? others : [element('alt', {}, [words]), ...others],
  });
  return tr.setSelection(NodeSelection.create(tr.doc, position));
}

/** @param width in millimetres; the height follows */
export function withWidth(state: EditorState, position: number, width: number): Transaction {
  const { height: _old, ...attributes } = state.doc.nodeAt(position)!.attrs[
    'attributes'
  ] as Attributes;
  const tr = state.tr.setNodeAttribute(position, 'attributes', {
    ...attributes,
    width: `${Math.round(width)}mm`,
  });
  return tr.setSelection(NodeSelection.create(tr.doc, position));
}

/** The image map around a position. */
export function imageMapAt(
  state: EditorState,
  position: number,
): { readonly position: number; readonly element: Element } | undefined {
  const $at = state.doc.resolve(position);
  for (let depth = $at.depth; depth > 0; depth -= 1)
    if ($at.node(depth).type.spec.element === 'imagemap')
      return { position: $at.before(depth), element: blockToElement($at.node(depth)) };
  return undefined;
}

/** Puts another image map in the place of the one at a position. */
export function withImageMap(state: EditorState, position: number, imagemap: Element): Transaction {
  const node = state.doc.nodeAt(position)!;
  const tr = state.tr.replaceWith(position, position + node.nodeSize, blockFrom(imagemap));
  const image = imageFrom(tr.doc, position, position + node.nodeSize);
  return image === undefined ? tr : tr.setSelection(NodeSelection.create(tr.doc, image));
}
