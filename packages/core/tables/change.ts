import {
  childElements,
  childNamed,
  element,
  isElement,
  textOf,
  withAttribute,
  type Element,
  type Node,
} from '../markup/index.ts';
import type { Path } from '../problems/index.ts';
import { gridOf } from './grid.ts';
import type { Cell, Plan, PlaceOfCell, Row, Section } from './plan.ts';
import { moveColumn, moveRow, rowToBody, rowToHead, sortRows, widen } from './moves.ts';

/** What can be done to a table at one of its cells. */
export type TableChange =
  | 'row-above'
  | 'row-below'
  | 'row-up'
  | 'row-down'
  | 'row-to-head'
  | 'row-to-body'
  | 'row-remove'
  | 'column-before'
  | 'column-after'
  | 'column-left'
  | 'column-right'
  | 'column-wider'
  | 'column-narrower'
  | 'column-remove'
  | 'merge-across'
  | 'merge-down'
  | 'merge-left'
  | 'merge-up'
  | 'split'
  | 'split-last'
  | 'sort-up'
  | 'sort-down';

const positional = ['colname', 'namest', 'nameend', 'spanname', 'morerows'];
const isCals = (table: Element): boolean => table.name === 'tgroup';
/** Their columns have a meaning each, so only rows come and go. */
const hasFixedColumns = (table: Element): boolean =>
  table.name === 'properties' || table.name === 'choicetable';

/**
 * Changes a `tgroup` (CALS) or simple table at one cell. Spans and column specifications are kept
 * right, and every row has a cell for each column.
 * @param cell path of the cell in `table`
 * @returns the new table and where the cell that one goes on in now is; undefined where the change
 * cannot be made
 */
export function changeTable(
  table: Element,
  cell: Path,
  change: TableChange,
): { table: Element; cell: Path } | undefined {
  const plan = planOf(table);
  const place = plan.sections
    .flatMap((section) =>
      section.rows.flatMap((row, index) =>
        row.cells.map((one) => ({ section, row, index, cell: one })),
      ),
    )
    .find((one) => one.cell.element === elementAt(table, cell));
  if (!place) return undefined;
  const focus = changes[change](plan, place);
  return focus && written(plan, focus);
}

const changes: Readonly<Record<TableChange, (plan: Plan, place: PlaceOfCell) => Cell | undefined>> =
  {
    'row-above': (plan, place) => addRow(plan, place, place.index),
    'row-below': (plan, place) => addRow(plan, place, place.index + place.cell.rowSpan),
    'row-remove': removeRow,
    'column-before': (plan, { cell }) => addColumn(plan, cell, cell.column),
    'column-after': (plan, { cell }) => addColumn(plan, cell, cell.column + cell.columnSpan),
    'column-remove': (plan, { row, cell }) => removeColumn(plan, row, cell),
    'row-up': (_plan, place) => moveRow(place, -1),
    'row-down': (_plan, place) => moveRow(place, 1),
    'row-to-head': rowToHead,
    'row-to-body': rowToBody,
    'column-left': (plan, { cell }) => moveColumn(plan, cell, -1),
    'column-right': (plan, { cell }) => moveColumn(plan, cell, 1),
    'column-wider': (plan, { cell }) => widen(plan, cell, 1),
    'column-narrower': (plan, { cell }) => widen(plan, cell, -1),
    'sort-up': (plan, place) => sortRows(plan, place, 1),
    'sort-down': (plan, place) => sortRows(plan, place, -1),
    'merge-left': (plan, { section, row, index, cell }) => {
      const before = row.cells.find(
        (one) => one.column + one.columnSpan === cell.column && one.rowSpan === cell.rowSpan,
      );
      return before && changes['merge-across'](plan, { section, row, index, cell: before });
    },
    'merge-up': (plan, { section, index, cell }) => {
      const above = section.rows
        .slice(0, index)
        .findIndex(({ cells }, at) =>
          cells.some((one) => one.column === cell.column && at + one.rowSpan === index),
        );
      const row = section.rows[above];
      const over = row?.cells.find(
        (one) => one.column === cell.column && above + one.rowSpan === index,
      );
      return row && over && changes['merge-down'](plan, { section, row, index: above, cell: over });
    },
    'merge-across': (plan, { row, cell }) => {
      const next = row.cells.find(
        (one) => one.column === cell.column + cell.columnSpan && one.rowSpan === cell.rowSpan,
      );
      if (!isCals(plan.table) || !next) return undefined;
      cell.columnSpan += next.columnSpan;
      return join(cell, next, row);
    },
    'merge-down': (plan, { section, index, cell }) => {
      const row = section.rows[index + cell.rowSpan];
      const next = row?.cells.find(
        (one) => one.column === cell.column && one.columnSpan === cell.columnSpan,
      );
      if (!isCals(plan.table) || !row || !next) return undefined;
      // A row must keep a cell of its own (CALS: at least one entry).
      if (row.cells.length < 2) return undefined;
      cell.rowSpan += next.rowSpan;
      return join(cell, next, row);
    },
    split: (_plan, { cell }) => {
      if (cell.columnSpan === 1 && cell.rowSpan === 1) return undefined;
      cell.columnSpan = 1;
      cell.rowSpan = 1;
      return cell;
    },
    // The words go to the last of the cells, in its last row.
    'split-last': (plan, { section, row, index, cell }) => {
      if (cell.columnSpan === 1 && cell.rowSpan === 1) return undefined;
      const last = section.rows[index + cell.rowSpan - 1]!;
      const moved: Cell = {
        element: cell.element,
        column: cell.column + cell.columnSpan - 1,
        columnSpan: 1,
        rowSpan: 1,
      };
      const left: Cell = { ...emptyLike(row, cell.column), column: cell.column };
      if (last === row && moved.column === left.column) return undefined;
      row.cells.splice(row.cells.indexOf(cell), 1, left);
      last.cells.push(moved);
      return moved;
    },
  };

/** Every change there is. */
export const tableChanges = Object.keys(changes) as TableChange[];

function elementAt(root: Element, path: Path): Element | undefined {
  let at: Node | undefined = root;
  for (const index of path) at = isElement(at) ? at.children[index] : undefined;
  return isElement(at) ? at : undefined;
}

function planOf(table: Element): Plan {
  const { columns, head, body } = gridOf(table);
  const specs = childElements(table).filter(({ name }) => name === 'colspec');
  const rowsOf = (rows: typeof body): Section => ({
    rows: rows
      .filter((row) => row.element !== table)
      .map((row) => ({
        element: row.element,
        cells: row.cells.map(({ element: own, column, columnSpan, rowSpan }) => ({
          element: own,
          column,
          columnSpan,
          rowSpan,
        })),
      })),
  });
  return {
    table,
    columns: columns.map((column, index) => ({
      spec: { colname: column.name, ...specs[index]?.attributes },
      ...(column.width === undefined ? {} : { share: column.width }),
    })),
    sections: [rowsOf(head), rowsOf(body)],
  };
}

/** An empty cell like those beside it. */
const emptyLike = (row: Row, column: number): Cell => ({
  element: element(
    row.cells.find((one) => one.column === column)?.element.name ??
      row.cells[0]?.element.name ??
      'entry',
  ),
  column,
  columnSpan: 1,
  rowSpan: 1,
});

/**
 * Adds a row like the one of a cell.
 * @returns the cell of the new row in the same column, or the next one
 */
function addRow(plan: Plan, beside: PlaceOfCell, at: number): Cell | undefined {
  const {
    section,
    row: like,
    cell: { column },
  } = beside;
  if (
    like.element.name === 'sthead' ||
    like.element.name === 'prophead' ||
    like.element.name === 'chhead'
  )
    return undefined;
  const covered = new Set<number>();
  section.rows.forEach((row, index) => {
    for (const cell of row.cells) {
      if (index >= at || index + cell.rowSpan <= at) continue;
      cell.rowSpan += 1;
      for (let over = cell.column; over < cell.column + cell.columnSpan; over += 1)
        covered.add(over);
    }
  });
  const cells = plan.columns
    .map((_, over) => over)
    .filter((over) => !covered.has(over))
    .map((over) => emptyLike(like, over));
  if (cells.length === 0) return undefined;
  section.rows.splice(at, 0, { element: element(like.element.name), cells });
  return cells.find((cell) => cell.column >= column) ?? cells[0];
}

function removeRow(plan: Plan, { section, row, index, cell }: PlaceOfCell): Cell | undefined {
  // The head may go as a whole; a table without a body is none.
  const isHead = ['sthead', 'prophead', 'chhead'].includes(row.element.name);
  if (section.rows.length < 2 && !isHead) return undefined;
  const next = section.rows[index + 1];
  section.rows.slice(0, index).forEach((above, aboveIndex) => {
    for (const one of above.cells) if (aboveIndex + one.rowSpan > index) one.rowSpan -= 1;
  });
  for (const one of row.cells.filter(({ rowSpan }) => rowSpan > 1)) {
    one.rowSpan -= 1;
    next?.cells.push(one);
  }
  section.rows.splice(index, 1);
  const after =
    section.rows[Math.min(index, section.rows.length - 1)] ??
    plan.sections.flatMap(({ rows }) => rows)[0];
  return after?.cells.find((one) => one.column >= cell.column) ?? after?.cells[0];
}

function addColumn(plan: Plan, beside: Cell, at: number): Cell | undefined {
  if (hasFixedColumns(plan.table)) return undefined;
  const names = new Set(plan.columns.map(({ spec }) => spec['colname']));
  let number = plan.columns.length + 1;
  while (names.has(`col${number}`)) number += 1;
  const like = plan.columns[Math.min(at, plan.columns.length - 1)]!;
  const width = like.spec['colwidth'];
  plan.columns.splice(at, 0, {
    spec: { colname: `col${number}`, ...(width === undefined ? {} : { colwidth: width }) },
    ...(like.share === undefined ? {} : { share: like.share }),
  });
  let focus: Cell | undefined;
  for (const { rows } of plan.sections)
    for (const row of rows) {
      const before = [...row.cells];
      for (const cell of before) {
        if (cell.column >= at) cell.column += 1;
        else if (cell.column + cell.columnSpan > at) cell.columnSpan += 1;
      }
      if (!before.includes(beside)) continue;
      focus = { ...emptyLike(row, -1), column: at };
      row.cells.push(focus);
    }
  return focus;
}

function removeColumn(plan: Plan, row: Row, cell: Cell): Cell | undefined {
  if (hasFixedColumns(plan.table) || plan.columns.length < 2) return undefined;
  const at = cell.column;
  for (const { rows } of plan.sections)
    for (const one of rows) {
      one.cells = one.cells.filter(({ column, columnSpan }) => column !== at || columnSpan > 1);
      for (const left of one.cells) {
        if (left.column > at) left.column -= 1;
        else if (left.column + left.columnSpan > at) left.columnSpan -= 1;
      }
    }
  plan.columns.splice(at, 1);
  return row.cells.find(({ column }) => column >= at) ?? row.cells.at(-1);
}

/** The words of the second cell follow those of the first, apart from them. */
function join(cell: Cell, gone: Cell, row: Row): Cell {
  row.cells.splice(row.cells.indexOf(gone), 1);
  const isEmpty = (one: Element): boolean =>
    textOf(one).trim() === '' && childElements(one).length === 0;
  if (isEmpty(gone.element)) return cell;
  const apart = (one: Element): readonly Node[] =>
    one.children.some((child) => isElement(child) && child.name === 'p')
      ? one.children
      : [element('p', {}, one.children)];
  cell.element = {
    ...cell.element,
    children: isEmpty(cell.element)
      ? gone.element.children
      : [...apart(cell.element), ...apart(gone.element)],
  };
  return cell;
}

/** Fills what no cell covers with empty ones, so that every row reaches from edge to edge. */
function fill(plan: Plan, { rows }: Section): void {
  const taken: number[] = [];
  rows.forEach((row, index) => {
    row.cells.sort((a, b) => a.column - b.column);
    const own = new Set(
      row.cells.flatMap(({ column, columnSpan }) =>
        Array.from({ length: columnSpan }, (_, offset) => column + offset),
      ),
    );
    for (let column = 0; column < plan.columns.length; column += 1)
      if (!own.has(column) && (taken[column] ?? 0) <= index) row.cells.push(emptyLike(row, column));
    row.cells.sort((a, b) => a.column - b.column);
    for (const { column, columnSpan, rowSpan } of row.cells)
      for (let over = column; over < column + columnSpan; over += 1) taken[over] = index + rowSpan;
  });
}

/** A row that only cells from above pass through is no row: CALS wants an entry in each. */
function dropHollowRows({ rows }: Section): void {
  for (let index = rows.length - 1; index >= 0; index -= 1) {
    if (rows[index]!.cells.length > 0) continue;
    rows.slice(0, index).forEach((above, aboveIndex) => {
      for (const cell of above.cells) if (aboveIndex + cell.rowSpan > index) cell.rowSpan -= 1;
    });
    rows.splice(index, 1);
  }
}

function written(plan: Plan, focus: Cell): { table: Element; cell: Path } | undefined {
  const { table, columns } = plan;
  const made = new Map<Element, Element>();
  let focused: Element | undefined;
  for (const section of plan.sections) {
    if (!hasFixedColumns(table)) {
      fill(plan, section);
      dropHollowRows(section);
    }
    for (const row of section.rows) {
      const cells = row.cells.map((cell) => {
        const one = isCals(table) ? placed(cell, columns) : cell.element;
        if (cell === focus) focused = one;
        return one;
      });
      made.set(row.element, { ...row.element, children: cells });
    }
  }
  const rowsOf = (section: Section): Element[] => section.rows.map((row) => made.get(row.element)!);
  const [head, body] = plan.sections as [Section, Section];
  const result = isCals(table)
    ? calsTable(plan, rowsOf(head), rowsOf(body))
    : simpleTable(plan, [...rowsOf(head), ...rowsOf(body)]);
  const path = focused && pathTo(result, focused);
  return path && { table: result, cell: path };
}

function placed(
  { element: entry, column, columnSpan, rowSpan }: Cell,
  columns: Plan['columns'],
): Element {
  const kept = Object.fromEntries(
    Object.entries(entry.attributes).filter(([name]) => !positional.includes(name)),
  );
  const name = (at: number): string => columns[at]?.spec['colname'] ?? `col${at + 1}`;
  const across =
    columnSpan > 1 ? { namest: name(column), nameend: name(column + columnSpan - 1) } : {};
  return {
    ...entry,
    attributes: { ...kept, ...across, ...(rowSpan > 1 ? { morerows: String(rowSpan - 1) } : {}) },
  };
}

function calsTable(
  { table, columns }: Plan,
  head: readonly Element[],
  body: readonly Element[],
): Element {
  const part = (name: string, rows: readonly Element[]): Element[] =>
    rows.length === 0
      ? []
      : [{ name, attributes: childNamed(table, name)?.attributes ?? {}, children: rows }];
  const specs = columns.map(({ spec }) => {
    const { colnum: _number, ...rest } = spec;
    return element('colspec', rest);
  });
  return {
    ...withAttribute(table, 'cols', String(columns.length)),
    children: [...specs, ...part('thead', head), ...part('tbody', body)],
  };
}

function simpleTable({ table, columns }: Plan, rows: readonly Element[]): Element {
  const others = table.children.filter((child) => isElement(child) && child.name === 'title');
  const shares = columns.map(({ share }) => share);
  const sized =
    table.attributes['relcolwidth'] === undefined || shares.some((share) => share === undefined)
      ? table
      : withAttribute(table, 'relcolwidth', shares.join(' '));
  return { ...sized, children: [...others, ...rows] };
}

function pathTo(root: Element, wanted: Element): Path | undefined {
  for (const [index, child] of root.children.entries()) {
    if (child === wanted) return [index];
    const inside = isElement(child) ? pathTo(child, wanted) : undefined;
    if (inside) return [index, ...inside];
  }
  return undefined;
}
