import type { Element } from '@ukiyo/core/markup';
import type { TableCell, TableGrid, TableRow } from '../blocks/index.ts';
import type { Typesetting } from './context.ts';
import type { Inline, PrintCell, PrintTable } from './document.ts';
import { itemBlocks } from './lists.ts';
import { columnTracks } from './measures.ts';

/** What leads to a table or figure, its number and its title. */
export interface TableCaption {
  readonly at: readonly string[];
  readonly num?: string;
  readonly cap?: readonly Inline[];
}

/** One grid of a table. */
interface GridPart {
  /** The table, which carries the attributes. */
  readonly element: Element;
  readonly grid: TableGrid;
}

/** One grid of a table; footnotes in it stand under it. Problems: those of its grid. */
export function gridTable(
  typesetting: Typesetting,
  { element, grid }: GridPart,
  caption: TableCaption,
): PrintTable {
  const { problems, marked, notesIn } = typesetting;
  problems.push(...grid.problems);
  const cellOf = (cell: TableCell, row: TableRow): PrintCell => ({
    c: marked(row.element, itemBlocks(typesetting, cell)),
    cs: cell.columnSpan,
    rs: cell.rowSpan,
    x: cell.column,
    head: cell.heads,
    ...(cell.align === undefined ? {} : { al: cell.align }),
    ...(cell.valign === undefined ? {} : { va: cell.valign }),
    ...(cell.element.attributes['rotate'] === '1' ? { turned: true } : {}),
  });
  const { made: rows, notes } = notesIn(() => ({
    head: grid.head.map((row) => row.cells.map((cell) => cellOf(cell, row))),
    rows: grid.body.map((row) => ({
      cells: row.cells.map((cell) => cellOf(cell, row)),
      ruled: row.ruled,
    })),
  }));
  const { orient, pgwide } = element.attributes;
  const widths = grid.columns.map((column) => column.width);
  return {
    t: 'table',
    ...caption,
    cols: columnTracks(widths, [...grid.head, ...grid.body]),
    ...rows,
    ...(notes.length === 0 ? {} : { notes }),
    ...(orient === 'land'
      ? { stands: 'turned' as const }
      : pgwide === '1'
        ? { stands: 'both' as const }
        : {}),
  };
}
