import type { Node as EditorNode } from 'prosemirror-model';
import { Selection, type EditorState, type Transaction } from 'prosemirror-state';
import type { Element } from '../markup/index.ts';
import type { Path } from '../problems/index.ts';
import {
  changeTable,
  columnMeasures,
  fillTable,
  gridOf,
  withColumnWidths,
  type contentsOf,
  type Grid,
  type Measure,
  type TableChange,
} from '../tables/index.ts';
import { blockToElement } from './from-editor.ts';
import { blockFrom } from './to-editor.ts';

/** The elements whose children are the parts of a table. */
const tables = new Set(['tgroup', 'simpletable', 'properties', 'choicetable']);

/**
 * Puts another table in the place of the one around the caret; the caret goes on in the cell that
 * it leads to. Undefined where it cannot be done.
 */
function remakeTable(
  { tr, selection: { $from } }: EditorState,
  remake: (table: Element, cell: Path) => { table: Element; cell: Path } | undefined,
): Transaction | undefined {
  for (let depth = $from.depth; depth > 0; depth -= 1) {
    if (!tables.has($from.node(depth).type.spec.element ?? '')) continue;
    // The rows and cells below are nodes for elements one to one, closed ones too.
    const cell = [
      $from.index(depth),
      $from.index(depth + 1),
      ...(isRow($from.node(depth + 1)) ? [] : [$from.index(depth + 2)]),
    ];
    const made = remake(blockToElement($from.node(depth)), cell);
    if (!made) return undefined;
    const start = $from.before(depth);
    const node = blockFrom(made.table);
    const parent = $from.node(depth - 1);
    if (!parent.canReplaceWith($from.index(depth - 1), $from.index(depth - 1) + 1, node.type))
      return undefined;
    tr.replaceWith(start, $from.after(depth), node);
    return tr
      .setSelection(Selection.near(tr.doc.resolve(start + 1 + offsetOf(node, made.cell)), 1))
      .scrollIntoView();
  }
  return undefined;
}

export const changeTableAt = (state: EditorState, change: TableChange): Transaction | undefined =>
  remakeTable(state, (table, cell) => changeTable(table, cell, change));

/**
 * Puts the contents of a table into the cells from the caret's on; the caret goes to the end of the
 * last one.
 */
export function fillCells(
  state: EditorState,
  contents: ReturnType<typeof contentsOf>,
): Transaction | undefined {
  const tr = remakeTable(state, (table, cell) => fillTable(table, cell, contents));
  const { $from } = tr?.selection ?? {};
  return $from && tr?.setSelection(Selection.near(tr.doc.resolve($from.end($from.depth - 1)), -1));
}

const isRow = (node: EditorNode): boolean =>
  !['thead', 'tbody'].includes(node.type.spec.element ?? '');

/** Where the content of the node at a path begins, from the beginning of the content of `node`. */
function offsetOf(node: EditorNode, path: Path): number {
  let offset = 0;
  let at = node;
  for (const index of path) {
    // A table that cannot be opened at that depth: the caret stays in front of it.
    if (index >= at.childCount) return offset;
    for (let before = 0; before < index; before += 1) offset += at.child(before).nodeSize;
    offset += 1;
    at = at.child(index);
  }
  return offset;
}

const measures = new WeakMap<EditorNode, readonly Measure[] | undefined>();

/** Whether a node is what has columns. */
export const hasColumns = (node: EditorNode): boolean =>
  node.type.spec.element === 'tgroup' || node.type.spec.element === 'simpletable';

/** The widths of the columns of a table's node; undefined where none is said. */
export function measuresOf(table: EditorNode): readonly Measure[] | undefined {
  if (!measures.has(table)) measures.set(table, columnMeasures(blockToElement(table)));
  return measures.get(table);
}
export const gridOfNode = (table: EditorNode): Grid => gridOf(blockToElement(table));

/**
 * Makes the columns of the table at a position as wide as they stand on the page.
 * @param widths in millimetres, one a column
 */
export function setColumnWidths(
  state: EditorState,
  position: number,
  widths: readonly number[],
): Transaction {
  const table = state.doc.nodeAt(position)!;
  const { selection } = state;
  const node = blockFrom(withColumnWidths(blockToElement(table), widths));
  const tr = state.tr.replaceWith(position, position + table.nodeSize, node);
  // Only specifications come or change: the text is as far from the end as it was.
  const fromEnd = position + table.nodeSize - selection.head;
  if (fromEnd > 0 && selection.head > position)
    tr.setSelection(Selection.near(tr.doc.resolve(position + node.nodeSize - fromEnd)));
  return tr;
}
