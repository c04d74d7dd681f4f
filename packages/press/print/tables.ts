import type { ResolvedElement } from '@ukiyo/core/compose';
import type { Element } from '@ukiyo/core/markup';
import { gridOf, type GridRow } from '@ukiyo/core/tables';
import type { Context } from './context.ts';
import type { Block, Inline, PrintCell, PrintTable } from './document.ts';
import { columnTracks } from './measures.ts';

export interface Caption {
  readonly at: readonly string[];
  readonly num?: string;
  readonly cap?: readonly Inline[];
}

/**
 * One grid of a table; footnotes in it stand under it. Problems: those of its grid.
 * @param content what a cell has in it
 */
export function tableOf(
  context: Context,
  element: Element,
  source: Element,
  caption: Caption,
  content: (element: Element) => Block[],
): PrintTable {
  const { problems, marked } = context;
  const grid = gridOf(source);
  const { origin } = element as ResolvedElement;
  problems.push(
    ...grid.problems.map((found) => ({
      ...found,
      where: { item: origin.item, path: origin.path },
    })),
  );
  const cell = (source: GridRow['cells'][number], row: GridRow): PrintCell => ({
    c: marked(row.element, content(source.element)),
    cs: source.columnSpan,
    rs: source.rowSpan,
    x: source.column,
    head: source.heads,
    ...(source.align === undefined ? {} : { al: source.align }),
    ...(source.valign === undefined ? {} : { va: source.valign }),
    ...(source.element.attributes['rotate'] === '1' ? { turned: true } : {}),
  });
  const { made: rows, notes } = context.notesIn(() => ({
    head: grid.head.map((row) => row.cells.map((one) => cell(one, row))),
    rows: grid.body.map((row) => ({
      cells: row.cells.map((one) => cell(one, row)),
      ruled: row.ruled,
    })),
  }));
  const { orient, pgwide } = element.attributes;
  return {
    t: 'table',
    ...caption,
    cols: columnTracks(
      grid.columns.map((column) => column.width),
      [...grid.head, ...grid.body],
    ),
    ...rows,
    ...(notes.length === 0 ? {} : { notes }),
    ...(orient === 'land'
      ? { stands: 'turned' as const }
      : pgwide === '1'
        ? { stands: 'both' as const }
        : {}),
  };
}
