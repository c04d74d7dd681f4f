import type { ResolvedPos } from 'prosemirror-model';
import { Selection, type Command } from 'prosemirror-state';
import { isA } from '../grammar/index.ts';
import { changeTableAt } from './table-editing.ts';

const cells = ['entry', 'stentry'];
const tables = ['table', 'simpletable'];
const isOneOf = (element: string | undefined, names: readonly string[]): boolean =>
  element !== undefined && names.some((name) => isA(element, name));

function depthOf($at: ResolvedPos, names: readonly string[]): number | undefined {
  for (let depth = $at.depth; depth > 0; depth -= 1)
    if (isOneOf($at.node(depth).type.spec.element, names)) return depth;
  return undefined;
}

/**
 * Goes to the next (1) or previous (-1) cell in reading order; after the last one a new row of the
 * same shape follows.
 */
export const goToCell =
  (offset: 1 | -1): Command =>
  (state, dispatch) => {
    const { $from } = state.selection;
    const cellDepth = depthOf($from, cells);
    const tableDepth = cellDepth === undefined ? undefined : depthOf($from, tables);
    if (cellDepth === undefined || tableDepth === undefined) return false;
    const table = $from.node(tableDepth);
    const start = $from.start(tableDepth);
    const places: number[] = [];
    table.descendants((node, position) => {
      if (isOneOf(node.type.spec.element, cells)) places.push(start + position);
      return !isOneOf(node.type.spec.element, cells);
    });
    const at = places.indexOf($from.before(cellDepth)) + offset;
    const place = places[at];
    if (place === undefined) return offset > 0 && addRow(state, dispatch);
    if (dispatch) {
      const cell = state.doc.nodeAt(place)!;
      const selection = Selection.near(state.doc.resolve(place + 1), 1);
      dispatch(
        state.tr
          .setSelection(
            cell.textContent === ''
              ? selection
              : Selection.near(state.doc.resolve(place + cell.nodeSize - 1), -1),
          )
          .scrollIntoView(),
      );
    }
    return true;
  };

/** A row after the caret's, with the caret in its first cell. */
const addRow: Command = (state, dispatch) => {
  const tr = changeTableAt(state, 'row-below');
  if (!tr) return false;
  const cellDepth = depthOf(tr.selection.$from, cells);
  if (cellDepth !== undefined)
    tr.setSelection(Selection.near(tr.doc.resolve(tr.selection.$from.start(cellDepth - 1) + 1), 1));
  dispatch?.(tr.scrollIntoView());
  return true;
};
