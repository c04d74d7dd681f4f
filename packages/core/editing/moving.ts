import { Fragment, Slice, type Node as EditorNode } from 'prosemirror-model';
import {
  NodeSelection,
  Selection,
  TextSelection,
  type Command,
  type EditorState,
  type Transaction,
} from 'prosemirror-state';
import { liftTarget, ReplaceStep } from 'prosemirror-transform';
import { childrenOf, nestItem, unnestItem } from './items.ts';
import { special } from './names.ts';

const isClosed = (node: EditorNode): boolean => node.type.name === special.rawBlock;

/**
 * Named open elements that can be moved, innermost first: the selected one, or those around the
 * caret. Each is a depth of `$from`.
 */
function movable(state: EditorState): { parentDepth: number; index: number; node: EditorNode }[] {
  const { $from } = state.selection;
  const selected = state.selection instanceof NodeSelection ? state.selection.node : undefined;
  if (selected) return [{ parentDepth: $from.depth, index: $from.index(), node: selected }];
  return Array.from({ length: Math.max(0, $from.depth - 1) }, (_, up) => $from.depth - up)
    .map((depth) => ({
      parentDepth: depth - 1,
      index: $from.index(depth - 1),
      node: $from.node(depth),
    }))
    .filter(({ node }) => node.isBlock && node.type.name !== special.line);
}

/** Puts the innermost element that can go there before (-1) or after (1) its neighbour. */
const moveBy =
  (offset: -1 | 1): Command =>
  (state, dispatch) => {
    const { $from } = state.selection;
    for (const { parentDepth, index, node } of movable(state)) {
      const parent = $from.node(parentDepth);
      const neighbour = parent.maybeChild(index + offset);
      // A closed block may stand anywhere in the schema, so nothing is moved across one.
      if (!neighbour || isClosed(neighbour) || isClosed(node)) continue;
      const children = childrenOf(parent);
      children.splice(index, 1);
      children.splice(index + offset, 0, node);
      if (!parent.type.validContent(Fragment.from(children))) continue;
      if (dispatch) {
        const start = $from.posAtIndex(index, parentDepth);
        const from = offset < 0 ? start - neighbour.nodeSize : start;
        const pair = offset < 0 ? [node, neighbour] : [neighbour, node];
        const tr = state.tr.replaceWith(from, from + node.nodeSize + neighbour.nodeSize, pair);
        const moved = offset < 0 ? from : from + neighbour.nodeSize;
        const isSelected = state.selection instanceof NodeSelection;
        tr.setSelection(
          isSelected
            ? NodeSelection.create(tr.doc, moved)
            : TextSelection.near(tr.doc.resolve(moved + ($from.pos - start))),
        );
        dispatch(tr.scrollIntoView());
      }
      return true;
    }
    return false;
  };

export const moveElementUp = moveBy(-1);
export const moveElementDown = moveBy(1);

/** Takes the selected blocks out of what they are in. */
const lift: Command = (state, dispatch) => {
  const range = state.selection.$from.blockRange(state.selection.$to);
  const target = range && liftTarget(range);
  if (!range || target === null || target === undefined) return false;
  dispatch?.(state.tr.lift(range, target).scrollIntoView());
  return true;
};

/** Puts the element at the end of the one before it, when that can hold it. */
const intoPrevious: Command = (state, dispatch) => {
  const { $from } = state.selection;
  for (const { parentDepth, index, node } of movable(state)) {
    const parent = $from.node(parentDepth);
    if (index === 0) continue;
    const before = parent.child(index - 1);
    if (
      before.isTextblock ||
      before.isAtom ||
      !before.canReplace(before.childCount, before.childCount, Fragment.from(node)) ||
      !parent.canReplace(index, index + 1)
    )
      continue;
    if (dispatch) {
      const start = $from.posAtIndex(index, parentDepth);
      const tr = state.tr.delete(start, start + node.nodeSize);
      tr.insert(start - 1, node).setSelection(
        Selection.near(tr.doc.resolve(start + ($from.pos - start))),
      );
      dispatch(tr.scrollIntoView());
    }
    return true;
  }
  return false;
};

/** One step out: an item out of its list, a block out of what it is in. */
export const moveElementOut: Command = (state, dispatch) =>
  unnestItem(state, dispatch) || lift(state, dispatch);
/** One step in: an item into the one before it, a block into the element before it. */
export const moveElementIn: Command = (state, dispatch) =>
  nestItem(state, dispatch) || intoPrevious(state, dispatch);

/** Removes the innermost element around the caret that its parent can do without. */
export const removeElement: Command = (state, dispatch) => {
  const { $from } = state.selection;
  for (const { parentDepth, index, node } of movable(state)) {
    if (!$from.node(parentDepth).canReplace(index, index + 1)) continue;
    if (dispatch) {
      const start = $from.posAtIndex(index, parentDepth);
      const tr = state.tr.delete(start, start + node.nodeSize);
      dispatch(
        tr
          .setSelection(Selection.near(tr.doc.resolve(Math.min(start, tr.doc.content.size))))
          .scrollIntoView(),
      );
    }
    return true;
  }
  return false;
};

/**
 * Places around a position where the element that begins at `from` can be put by hand, innermost
 * first.
 */
export function dropPlaces(state: EditorState, from: number, at: number): number[] {
  const $at = state.doc.resolve(at);
  const places: number[] = [];
  for (let depth = $at.depth; depth >= 1; depth -= 1) {
    if ($at.node(depth).inlineContent) continue;
    const index = $at.index(depth);
    for (const to of [
      $at.posAtIndex(index, depth),
      $at.posAtIndex(Math.min(index + 1, $at.node(depth).childCount), depth),
    ])
      if (moveElementTo(state, from, to)) places.push(to);
  }
  return [...new Set(places)];
}

/**
 * Takes the element at `from` to the place `to`, between two others; undefined where it may not
 * leave or may not stand there.
 */
export function moveElementTo(
  state: EditorState,
  from: number,
  to: number,
): Transaction | undefined {
  const node = state.doc.nodeAt(from);
  if (!node || isClosed(node) || (to >= from && to <= from + node.nodeSize)) return undefined;
  const $to = state.doc.resolve(to);
  const $from = state.doc.resolve(from);
  if (
    !$from.parent.canReplace($from.index(), $from.index() + 1) ||
    $to.parent.inlineContent ||
    !$to.parent.contentMatchAt($to.index()).matchType(node.type)
  )
    return undefined;
  try {
    // Exactly these two, with nothing filled in: what is left behind has to be whole by itself.
    const tr = state.tr.step(new ReplaceStep(from, from + node.nodeSize, Slice.empty));
    const place = tr.mapping.map(to);
    tr.step(new ReplaceStep(place, place, new Slice(Fragment.from(node), 0, 0)));
    const host = tr.doc.resolve(place).parent;
    if (!host.type.validContent(host.content)) return undefined;
    return tr.setSelection(NodeSelection.create(tr.doc, place)).scrollIntoView();
  } catch (error) {
    // The general steps throw where a strict content model cannot take the result.
    if (error instanceof RangeError || (error instanceof Error && error.name === 'TransformError'))
      return undefined;
    throw error;
  }
}
