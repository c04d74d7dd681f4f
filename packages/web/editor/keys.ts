import { editorSchema as schema, special } from '@ukiyo/core/editing';
import { isA } from '@ukiyo/core/grammar';
import { baseKeymap, chainCommands, exitCode, newlineInCode, splitBlock, toggleMark } from 'prosemirror-commands';
import { redo, undo } from 'prosemirror-history';
import { keymap } from 'prosemirror-keymap';
import type { ResolvedPos } from 'prosemirror-model';
import { Selection, TextSelection, type Command, type Plugin } from 'prosemirror-state';
import { canSplit } from 'prosemirror-transform';

/** Depth of the nearest list item, step or the like around a place. */
function itemDepth($at: ResolvedPos): number | undefined {
  for (let depth = $at.depth; depth > 0; depth -= 1) {
    const element = $at.node(depth).type.spec.element;
    if (element !== undefined && (isA(element, 'li') || isA(element, 'dlentry'))) return depth;
    if (element !== undefined && ['entry', 'stentry'].some((cell) => isA(element, cell))) return undefined;
  }
  return undefined;
}

/** Enter in an item: an empty one ends the list; at the end of the item's first line a new item follows; elsewhere the line is split. */
const nextItem: Command = (state, dispatch) => {
  const { $from, empty } = state.selection;
  if (!empty || !$from.parent.isTextblock) return false;
  const depth = itemDepth($from);
  if (depth === undefined) return false;
  const item = $from.node(depth);
  const isFirstLine = $from.index(depth) === 0 && $from.depth === depth + 1;
  const isEmpty = item.textContent === '' && item.childCount === 1;
  if (isEmpty) return leaveList(state, dispatch);
  if (!isFirstLine && !($from.parent.content.size === 0 && $from.index(depth) === item.childCount - 1)) return false;
  if (!isFirstLine || ($from.parentOffset === $from.parent.content.size && item.childCount > 1)) {
    // The item holds more: a new one follows it whole; an empty last line is left behind.
    const fresh = item.type.createAndFill();
    if (!fresh) return false;
    if (dispatch) {
      const tr = state.tr.insert($from.after(depth), fresh);
      const at = $from.after(depth);
      tr.setSelection(Selection.near(tr.doc.resolve(at + 1), 1));
      if (!isFirstLine) tr.delete($from.before(), $from.after());
      dispatch(tr.scrollIntoView());
    }
    return true;
  }
  if (!canSplit(state.doc, $from.pos, 2)) return false;
  dispatch?.(state.tr.split($from.pos, 2).scrollIntoView());
  return true;
};

/** Takes an empty last item away and goes on after the list. */
const leaveList: Command = (state, dispatch) => {
  const { $from } = state.selection;
  const depth = itemDepth($from);
  if (depth === undefined) return false;
  const list = $from.node(depth - 1);
  const outer = $from.node(depth - 2);
  const after = $from.indexAfter(depth - 2);
  if ($from.index(depth - 1) !== list.childCount - 1 || list.childCount < 2) return false;
  const paragraph = [schema.nodes[special.line]!, schema.nodes['p']!].find((type) => outer.canReplaceWith(after, after, type));
  const next = paragraph?.createAndFill() ?? firstFill(outer, after);
  if (!next) return false;
  if (dispatch) {
    const tr = state.tr.delete($from.before(depth), $from.after(depth));
    const at = tr.mapping.map($from.after(depth - 1));
    tr.insert(at, next).setSelection(Selection.near(tr.doc.resolve(at + 1), 1));
    dispatch(tr.scrollIntoView());
  }
  return true;
};

/** Where no paragraph may follow, as after the steps of a task: the first part that may. */
function firstFill(parent: ResolvedPos['parent'], index: number) {
  const match = parent.contentMatchAt(index);
  for (let edge = 0; edge < match.edgeCount; edge += 1) {
    const { type } = match.edge(edge);
    const filled = type.name === special.rawBlock ? null : type.createAndFill();
    if (filled?.type.inlineContent === false && parent.canReplaceWith(index, index, type)) return filled;
  }
  return null;
}

/** Enter in a line that cannot be split, such as a title, goes on to the next line of text. */
const nextLine: Command = (state, dispatch) => {
  const { $from } = state.selection;
  if (!$from.parent.isTextblock || canSplit(state.doc, $from.pos)) return false;
  const next = TextSelection.findFrom(state.doc.resolve($from.after()), 1, true);
  if (!next) return false;
  dispatch?.(state.tr.setSelection(next).scrollIntoView());
  return true;
};

/** A paragraph split in two: both stay what they are where that is valid. */
const splitLine: Command = (state, dispatch) => {
  const { $from } = state.selection;
  if (!$from.parent.isTextblock || !canSplit(state.doc, $from.pos)) return false;
  return splitBlock(state, dispatch);
};

/** The keys of the writer's page. `openPalette` shows what can go here. */
export function editorKeys(openPalette: () => void, save: () => void): Plugin[] {
  const show: Command = () => {
    openPalette();
    return true;
  };
  const keep: Command = () => {
    save();
    return true;
  };
  return [
    keymap({
      'Mod-z': undo,
      'Mod-Shift-z': redo,
      'Mod-y': redo,
      'Ctrl-Space': show,
      'Mod-s': keep,
      'Mod-b': toggleMark(schema.marks['b']!),
      'Mod-i': toggleMark(schema.marks['i']!),
      'Shift-Enter': exitCode,
      Enter: chainCommands(newlineInCode, nextItem, nextLine, splitLine),
    }),
    keymap(baseKeymap),
  ];
}
