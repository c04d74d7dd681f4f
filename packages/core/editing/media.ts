import { NodeSelection, type EditorState, type Transaction } from 'prosemirror-state';
import { follows } from '../grammar/index.ts';
import { isElement, type Element, type Node as XmlNode } from '../markup/index.ts';
import { symbolOf } from './fitting.ts';
import { childrenOf } from './items.ts';
import { special } from './names.ts';
import { editorSchema } from './schema.ts';

const closedBlock = editorSchema.nodes[special.rawBlock]!;

/**
 * Where a new video or sound can go: behind the block at the caret, in the nearest element that may
 * hold one there.
 */
export function placeForMedia(state: EditorState): number | undefined {
  const { $from } = state.selection;
  for (let depth = $from.depth - 1; depth > 0; depth -= 1) {
    const parent = $from.node(depth);
    const after = $from.indexAfter(depth);
    const symbols = childrenOf(parent).map(symbolOf).toSpliced(after, 0, 'object');
    const known = symbols.filter((symbol) => symbol !== undefined);
    if (
      parent.canReplaceWith(after, after, closedBlock) &&
      follows(parent.type.spec.element ?? '', known)
    )
      return $from.after(depth + 1);
  }
  return undefined;
}

export function addMedia(state: EditorState, object: Element | undefined): Transaction {
  const at = placeForMedia(state);
  if (at === undefined || object?.name !== 'object') return state.tr;
  const tr = state.tr.insert(at, closedBlock.create({ node: object }));
  return tr.setSelection(NodeSelection.create(tr.doc, at)).scrollIntoView();
}

/** The video, sound or other embedded content at a position. */
export function mediaAt(state: EditorState, position: number): Element | undefined {
  const node = state.doc.nodeAt(position);
  const held =
    node?.type.name === special.rawBlock || node?.type.name === special.rawInline
      ? (node.attrs['node'] as XmlNode)
      : undefined;
  return isElement(held) && held.name === 'object' ? held : undefined;
}

export function withMedia(state: EditorState, position: number, object: Element): Transaction {
  if (!mediaAt(state, position)) return state.tr;
  const tr = state.tr.setNodeAttribute(position, 'node', object);
  return tr.setSelection(NodeSelection.create(tr.doc, position));
}
