import type { Attributes, Element } from '../markup/index.ts';

/**
 * A table taken apart so that it can be changed; cells know where they stand, and nothing is
 * written back yet.
 */
export interface Cell {
  element: Element;
  column: number;
  columnSpan: number;
  rowSpan: number;
}
export interface Row {
  readonly element: Element;
  cells: Cell[];
}
/** Rows that cells may join: heads never join the body. */
export interface Section {
  readonly rows: Row[];
}
export interface Plan {
  readonly table: Element;
  columns: { spec: Attributes; share?: string }[];
  readonly sections: readonly Section[];
}

/** A cell with where it is. */
export interface PlaceOfCell {
  readonly section: Section;
  readonly row: Row;
  readonly index: number;
  readonly cell: Cell;
}
