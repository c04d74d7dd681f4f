import type { Element } from '@ukiyo/core/markup';
import type { Problem } from '@ukiyo/core/problems';
import { framedEdges, sideOf } from '../blocks/index.ts';
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
  const { problems, marked, notesIn, publication } = typesetting;
  // Those of the text itself have been reported with their cells.
  const isKnown = (found: Problem): boolean =>
    publication.problems.some(
      ({ code, where }) => code === found.code && where.item === found.where.item,
    );
  problems.push(...grid.problems.filter((found) => !isKnown(found)));
  const cellOf = (cell: TableCell, row: TableRow): PrintCell => ({
    c: marked(row.element, itemBlocks(typesetting, cell)),
    cs: cell.columnSpan,
    rs: cell.rowSpan,
    x: cell.column,
    head: cell.heads,
    ...(cell.align === undefined ? {} : { al: sideOf(cell) ?? cell.align }),
    ...(cell.valign === undefined ? {} : { va: cell.valign }),
    ...(cell.element.attributes['rotate'] === '1' ? { turned: true } : {}),
    ...(cell.edges.above === undefined ? {} : { top: cell.edges.above }),
    ...(cell.edges.before === undefined ? {} : { start: cell.edges.before }),
  });
  const { made: rows, notes } = notesIn(() => ({
    head: grid.head.map((row) => row.cells.map((cell) => cellOf(cell, row))),
    rows: grid.body.map((row) => row.cells.map((cell) => cellOf(cell, row))),
  }));
  const { orient, pgwide } = element.attributes;
  const frame = framedEdges(element.attributes['frame']);
  const widths = grid.columns.map((column) => column.width);
  return {
    t: 'table',
    ...caption,
    cols: columnTracks(widths, [...grid.head, ...grid.body]),
    ...rows,
    ...(notes.length === 0 ? {} : { notes }),
    ...(frame ? { frame } : {}),
    ...(orient === 'land'
      ? { stands: 'turned' as const }
      : pgwide === '1'
        ? { stands: 'both' as const }
        : {}),
  };
}
