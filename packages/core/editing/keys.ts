import {
  baseKeymap,
  chainCommands,
  exitCode,
  newlineInCode,
  splitBlock,
  toggleMark,
} from 'prosemirror-commands';
import { Selection, TextSelection, type Command } from 'prosemirror-state';
import { canSplit } from 'prosemirror-transform';
import { itemDepth, nestItem, nextItem, unnestItem } from './items.ts';
import {
  moveElementDown,
  moveElementIn,
  moveElementOut,
  moveElementUp,
  removeElement,
} from './moving.ts';
import { editorSchema } from './schema.ts';
import { goToCell } from './cells.ts';

/** Enter in a line that cannot be split, such as a title, goes on to the next line of text. */
const nextLine: Command = (state, dispatch) => {
  const { $from } = state.selection;
  if (!$from.parent.isTextblock || canSplit(state.doc, $from.pos)) return false;
  const next = TextSelection.findFrom(state.doc.resolve($from.after()), 1, true);
  if (!next) return false;
  dispatch?.(state.tr.setSelection(next).scrollIntoView());
  return true;
};

/** An empty paragraph at the end of a block steps out of it, when something can go on after it. */
const stepOut: Command = (state, dispatch) => {
  const { $from, empty } = state.selection;
  if (!empty || !$from.parent.isTextblock || $from.parent.content.size > 0 || $from.depth < 3)
    return false;
  const container = $from.node(-1);
  if ($from.index(-1) !== container.childCount - 1 || container.childCount < 2) return false;
  const outer = $from.node(-2);
  const after = $from.indexAfter(-2);
  const paragraph = editorSchema.nodes['p']!;
  if (
    !outer.canReplaceWith(after, after, paragraph) ||
    !container.canReplace(container.childCount - 1, container.childCount)
  )
    return false;
  if (dispatch) {
    const tr = state.tr.delete($from.before(), $from.after());
    const at = tr.mapping.map($from.after(-1));
    tr.insert(at, paragraph.create()).setSelection(Selection.near(tr.doc.resolve(at + 1), 1));
    dispatch(tr.scrollIntoView());
  }
  return true;
};

/** A paragraph split in two: both stay what they are where that is valid. */
const splitLine: Command = (state, dispatch) => {
  const { $from } = state.selection;
  if (!$from.parent.isTextblock || !canSplit(state.doc, $from.pos)) return false;
  return splitBlock(state, dispatch);
};

const enter = chainCommands(newlineInCode, nextItem, stepOut, nextLine, splitLine);

/**
 * In a list or a table the key belongs to it, also where nothing can be done; elsewhere it leads on
 * to the next control.
 */
const within =
  (command: Command): Command =>
  (state, dispatch) =>
    command(state, dispatch) || itemDepth(state.selection.$from) !== undefined;

/**
 * The general commands for deleting and joining throw where a strict content model cannot take the
 * result: then they do nothing.
 */
const refusing =
  (command: Command): Command =>
  (state, dispatch) => {
    try {
      return command(state, dispatch);
    } catch (error) {
      if (error instanceof Error && error.name === 'TransformError') return true;
      throw error;
    }
  };

/**
 * What the keys of the writer's page do to the text; undoing, saving and the palette belong to the
 * page.
 */
export const editingKeys: Readonly<Record<string, Command>> = {
  ...Object.fromEntries(
    Object.entries(baseKeymap).map(([key, command]) => [key, refusing(command)]),
  ),
  'Mod-b': toggleMark(editorSchema.marks['b']!),
  'Mod-i': toggleMark(editorSchema.marks['i']!),
  'Mod-u': toggleMark(editorSchema.marks['u']!),
  'Shift-Enter': exitCode,
  Enter: enter,
  Tab: chainCommands(goToCell(1), within(nestItem)),
  'Shift-Tab': chainCommands(goToCell(-1), within(unnestItem)),
  'Alt-ArrowUp': moveElementUp,
  'Alt-ArrowDown': moveElementDown,
  'Alt-ArrowLeft': moveElementOut,
  'Alt-ArrowRight': moveElementIn,
  'Mod-Shift-Backspace': removeElement,
};
