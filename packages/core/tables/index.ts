/**
 * The geometry of tables of every kind.
 * In: a `table`'s `tgroup`, a `simpletable`, `properties` or `choicetable` element; out: a grid in which each cell knows where it stands
 * and how far it reaches, always drawable, with problems for spans that cannot be. Nothing in a cell is ever lost.
 */
export { gridOf, type Grid, type GridCell, type GridColumn, type GridRow } from './grid.ts';
