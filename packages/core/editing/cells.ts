import type { ResolvedPos } from 'prosemirror-model';
import { Selection, type Command } from 'prosemirror-state';
import { isA } from '../grammar/index.ts';
import type { Attributes } from '../markup/index.ts';

const cells = ['entry', 'stentry'];
const tables = ['table', 'simpletable'];
const isOneOf = (element: string | undefined, names: readonly string[]): boolean => element !== undefined && names.some((name) => isA(element, name));

function depthOf($at: ResolvedPos, names: readonly string[]): number | undefined {
  for (let depth = $at.depth; depth > 0; depth -= 1) if (isOneOf($at.node(depth).type.spec.element, names)) return depth;
  return undefined;
}

/** Goes to the next (1) or previous (-1) cell in reading order; after the last one a new row of the same shape follows. */
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
    if (place === undefined) return offset > 0 && addRow($from, cellDepth)(state, dispatch);
    if (dispatch) {
      const cell = state.doc.nodeAt(place)!;
      const selection = Selection.near(state.doc.resolve(place + 1), 1);
      // The whole content of the cell, so that typing replaces it.
      dispatch(state.tr.setSelection(cell.textContent === '' ? selection : Selection.near(state.doc.resolve(place + cell.nodeSize - 1), -1)).scrollIntoView());
    }
    return true;
  };

/** A row after the caret's, with a cell for each column of the table. */
const addRow =
  ($from: ResolvedPos, cellDepth: number): Command =>
  (state, dispatch) => {
    const rowDepth = cellDepth - 1;
    const row = $from.node(rowDepth);
    const cell = row.child(0).type;
    const group = depthOf($from, ['tgroup']);
    const declared = group === undefined ? Number.NaN : Number(($from.node(group).attrs['attributes'] as Attributes)['cols']);
    const count = Number.isInteger(declared) && declared > 0 ? declared : row.childCount;
    const filled = Array.from({ length: count }, (_, index) => (row.maybeChild(index)?.type ?? cell).createAndFill()!);
    const fresh = row.type.create(null, filled);
    if (!row.type.validContent(fresh.content)) return false;
    if (dispatch) {
      const at = $from.after(rowDepth);
      const tr = state.tr.insert(at, fresh);
      dispatch(tr.setSelection(Selection.near(tr.doc.resolve(at + 2), 1)).scrollIntoView());
    }
    return true;
  };
