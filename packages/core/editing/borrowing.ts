import { Fragment, type Node as EditorNode } from 'prosemirror-model';
import { NodeSelection, Selection, type EditorState, type Transaction } from 'prosemirror-state';
import { isA, labelOf } from '../grammar/index.ts';
import type { Attributes, Element } from '../markup/index.ts';
import type { Path } from '../problems/index.ts';
import { choiceOf, labelOfNode, type Choice } from './choice.ts';
import { openElements, type OpenElement } from './details.ts';
import { blockTypes } from './fitting.ts';
import { blockToElement, fromEditor } from './from-editor.ts';
import { special } from './names.ts';
import { blockFrom } from './to-editor.ts';

const typeOf = (element: string) => blockTypes.find(({ spec }) => spec.element === element);

interface Place {
  readonly from: number;
  readonly to: number;
  readonly depth: number;
}

/**
 * Where an element can be put after the block at the caret, nearest first; an empty line that may
 * go is replaced.
 */
function placeFor({ selection: { $from } }: EditorState, element: string): Place | undefined {
  const type = typeOf(element);
  if (!type) return undefined;
  const isEmptyLine = $from.parent.isTextblock && $from.parent.content.size === 0;
  for (let depth = $from.depth - 1; depth > 0; depth -= 1) {
    const parent = $from.node(depth);
    const index = $from.indexAfter(depth);
    const end = $from.after(depth + 1);
    if (isEmptyLine && depth === $from.depth - 1 && parent.canReplaceWith(index - 1, index, type))
      return { from: $from.before(depth + 1), to: end, depth };
    if (parent.canReplaceWith(index, index, type)) return { from: end, to: end, depth };
  }
  return undefined;
}

/** Whether a borrowed element can be put in at the caret. */
export const canBorrow = (state: EditorState, element: string): boolean =>
  placeFor(state, element) !== undefined && typeOf(element)!.createAndFill() !== null;

/**
 * The ids of the elements around the place into which a borrowed element would go: what shows one
 * of these would show itself.
 */
export function idsAround(state: EditorState, element: string): string[] {
  const place = placeFor(state, element);
  const { $from } = state.selection;
  return Array.from(
    { length: place?.depth ?? 0 },
    (_, at) => ($from.node(at + 1).attrs['attributes'] as Attributes | undefined)?.['id'],
  ).filter((id) => id !== undefined);
}

/** Puts in an element that shows what is borrowed; undefined where it cannot stand. */
export function borrowAt(
  state: EditorState,
  element: string,
  attributes: Attributes,
): Transaction | undefined {
  const place = placeFor(state, element);
  const made = typeOf(element)?.createAndFill({ attributes });
  if (!place || !made) return undefined;
  const tr = state.tr.replaceWith(place.from, place.to, made);
  return tr.setSelection(NodeSelection.create(tr.doc, place.from)).scrollIntoView();
}

/** The innermost open element that shows what is borrowed. */
export const borrowedAt = (state: EditorState): OpenElement | undefined =>
  openElements(state).findLast(({ attributes }) => attributes['conref'] !== undefined);

/** Puts content of its own in the place of an element that borrows. */
export function replaceElement(
  state: EditorState,
  position: number,
  elements: readonly Element[],
): Transaction {
  const node = state.doc.nodeAt(position);
  if (!node) return state.tr;
  const tr = state.tr.replaceWith(
    position,
    position + node.nodeSize,
    Fragment.from(elements.map(blockFrom)),
  );
  return tr.setSelection(Selection.near(tr.doc.resolve(position + 1), 1)).scrollIntoView();
}

/** Blocks beside each other that can be shared as one passage. */
export interface Shareable {
  readonly elements: readonly Element[];
  /** Names of the elements between the body of the topic and these. */
  readonly ancestors: readonly string[];
  /** Where they stand in the document. */
  readonly from: number;
  readonly to: number;
  readonly label: string;
}

/** Children of a node, from the first to the last, and where its content begins. */
interface Siblings {
  readonly parent: EditorNode;
  readonly start: number;
  readonly first: number;
  readonly last: number;
}

function shareableIn(
  { parent, start, first, last }: Siblings,
  ancestors: readonly string[],
): Shareable | undefined {
  const nodes = Array.from({ length: last - first + 1 }, (_, at) => parent.child(first + at));
  if (
    nodes.some(
      (node) =>
        node.type.name === special.line ||
        !typeOf(node.type.spec.element ?? '') ||
        (node.attrs['attributes'] as Attributes)['conref'] !== undefined,
    )
  )
    return undefined;
  let from = start;
  for (let index = 0; index < first; index += 1) from += parent.child(index).nodeSize;
  const to = from + nodes.reduce((size, node) => size + node.nodeSize, 0);
  return {
    elements: nodes.map((node) => blockToElement(node)),
    ancestors,
    from,
    to,
    label: nodes.length === 1 ? labelOfNode(nodes[0]!) : `${nodes.length} elements`,
  };
}

/**
 * What of the selection can be shared: the selected blocks, or the one that the caret is in, the
 * nearest that can stand by itself.
 */
export function shareableAt({ selection }: EditorState): Shareable | undefined {
  const { $from, $to } = selection;
  const nameAt = (depth: number): string => $from.node(depth).type.spec.element ?? '';
  const bodyDepth = Array.from({ length: $from.depth + 1 }, (_, depth) => depth).find((depth) =>
    isA(nameAt(depth), 'body'),
  );
  if (bodyDepth === undefined) return undefined;
  for (
    let depth = Math.min($from.sharedDepth($to.pos), $from.depth - 1);
    depth >= bodyDepth;
    depth -= 1
  ) {
    const parent = $from.node(depth);
    const ancestors = Array.from({ length: depth - bodyDepth }, (_, at) =>
      nameAt(bodyDepth + 1 + at),
    );
    const last = Math.max(
      $from.index(depth),
      Math.min($to.index(depth), parent.childCount - 1) -
        ($to.parentOffset === 0 && $to.depth === depth ? 1 : 0),
    );
    const found = shareableIn(
      { parent, start: $from.start(depth), first: $from.index(depth), last },
      ancestors,
    );
    if (found) return found;
  }
  return undefined;
}

/**
 * Puts an element that borrows into the place of what was shared; the id of the first stays, so
 * that what leads to it still does.
 */
export function shareFrom(
  state: EditorState,
  { from, to, elements }: Shareable,
  borrowed: Attributes,
): Transaction {
  const [first] = elements;
  const id = first?.attributes['id'];
  const made =
    first &&
    typeOf(first.name)?.createAndFill({
      attributes: { ...(id === undefined ? {} : { id }), ...borrowed },
    });
  if (!made) return state.tr;
  const tr = state.tr.replaceWith(from, to, made);
  return tr.setSelection(NodeSelection.create(tr.doc, from)).scrollIntoView();
}

/** Where an element of the page stands in the text. */
export function pathOf(document: EditorNode, position: number): Path | undefined {
  let found: Path | undefined;
  fromEditor(document, (path, at) => {
    if (at === position) found ??= [...path];
  });
  return found;
}

/** What can be borrowed, shared, or made its own here. */
export function borrowingChoices(state: EditorState, hasCopied: boolean): Choice[] {
  const depth = state.selection.$from.depth;
  const shareable = shareableAt(state);
  const borrowed = borrowedAt(state);
  const choice = (
    element: string,
    asks: Choice['asks'],
    place: string,
    { label, help }: Pick<Choice, 'label' | 'help'>,
  ): Choice => ({
    ...choiceOf({ kind: 'share', element, place, within: depth }, ({ tr }) => tr),
    label,
    help,
    ...(asks ? { asks } : {}),
  });
  return [
    choice('borrow', 'passage', 'from another topic', {
      label: 'Borrow a passage …',
      help: 'Shows here what has its home in another topic, chosen in a preview of it.',
    }),
    ...(hasCopied
      ? [
          choice('borrow-copied', 'copied', 'what was copied', {
            label: 'Paste as borrowed',
            help: 'Shows here what was copied last, and keeps its home.',
          }),
        ]
      : []),
    ...(shareable
      ? [
          choice('share', 'lender', shareable.label, {
            label: 'Share …',
            help: 'Moves this to a topic that lends it, and borrows it back.',
          }),
        ]
      : []),
    ...(borrowed
      ? [
          choice('own', 'copy', labelOf(borrowed.element), {
            label: 'Make it local',
            help: 'A copy of its own, which then goes its own way.',
          }),
        ]
      : []),
  ];
}
