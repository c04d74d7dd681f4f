/**
 * The geometry of tables of every kind.
 * In: a `table`'s `tgroup`, a `simpletable`, `properties` or `choicetable` element; out: a grid in
 * which each cell knows where it stands and how far it reaches, always drawable, with problems for
 * spans that cannot be; and the table with a row, a column or a joined cell more or less. Nothing
 * in a cell is ever lost but by removing it.
 */
export { changeTable, tableChanges, type TableChange } from './change.ts';
export { checkTables } from './check.ts';
export { columnMeasures, measured, withColumnWidths, type Measure } from './widths.ts';
export { contentsOf, fillTable } from './fill.ts';
export {
  gridOf,
  type CellRules,
  type CharAlignment,
  type Grid,
  type GridCell,
  type GridColumn,
  type GridRow,
} from './grid.ts';
