import { textOf, type Element, type Node } from '@ukiyo/core/markup';
import type { Grid, GridCell, GridRow } from '@ukiyo/core/tables';
import type { CellEdges, TableCell, TableGrid, TableRow } from './block.ts';

/** @param blocksOf what a cell contains */
export function tableGrid(
  { columns, head, body, problems }: Grid,
  blocksOf: (nodes: readonly Node[]) => TableCell['blocks'],
): TableGrid {
  const all = [...head, ...body];
  const edges = edgesOf(all, head.length);
  const padding = paddingOf(body);
  const rowsOf = (rows: readonly GridRow[], first: number): readonly TableRow[] => {
    const gaps = gapsOf(rows, columns.length);
    return rows.map(({ element, cells }, at) => ({
      element,
      gaps: gaps[at]!,
      cells: cells.map((cell) => ({
        ...cell,
        edges: edges(first + at, cell.column),
        blocks: blocksOf(padding(cell)),
      })),
    }));
  };
  return { columns, head: rowsOf(head, 0), body: rowsOf(body, head.length), problems };
}

/** In each row of a section, the columns that no cell covers. */
function gapsOf(rows: readonly GridRow[], width: number): readonly (readonly number[])[] {
  const covered = rows.map(() => new Set<number>());
  rows.forEach(({ cells }, at) => {
    for (const { column, columnSpan, rowSpan } of cells)
      for (let row = at; row < Math.min(at + rowSpan, rows.length); row += 1)
        for (let offset = 0; offset < columnSpan; offset += 1) covered[row]!.add(column + offset);
  });
  return covered.map((taken) =>
    Array.from({ length: width }, (_, column) => column).filter((column) => !taken.has(column)),
  );
}

/**
 * The rules of a cell that the cells above and before it ask for or refuse: below and after them
 * (CALS, `rowsep` and `colsep`). Those around the table belong to its frame.
 * @param heads how many of the rows are heads, from which no cell reaches into the body
 */
function edgesOf(
  rows: readonly GridRow[],
  heads: number,
): (row: number, column: number) => CellEdges {
  const below = new Map<string, boolean>();
  const after = new Map<string, boolean>();
  rows.forEach(({ cells }, at) => {
    for (const { column, columnSpan, rowSpan, rules } of cells) {
      const end = Math.min(at + rowSpan, at < heads ? heads : rows.length);
      if (rules.below !== undefined)
        for (let offset = 0; offset < columnSpan; offset += 1)
          below.set(`${end} ${column + offset}`, rules.below);
      if (rules.after !== undefined)
        for (let row = at; row < end; row += 1)
          after.set(`${row} ${column + columnSpan}`, rules.after);
    }
  });
  return (row, column) => {
    const [above, before] = [below.get(`${row} ${column}`), after.get(`${row} ${column}`)];
    return {
      ...(above === undefined ? {} : { above }),
      ...(before === undefined ? {} : { before }),
    };
  };
}

const figureSpace = '\u2007';
const punctuationSpace = '\u2008';

/**
 * Cells that line up on a sign get spaces as wide as figures on both sides, so that as many stand
 * before and after the sign in all cells of the column (Unicode Standard, 6.2, space characters).
 */
function paddingOf(rows: readonly GridRow[]): (cell: GridCell) => readonly Node[] {
  const widest = new Map<number, { before: number; after: number }>();
  for (const cell of rows.flatMap(({ cells }) => cells)) {
    const parts = partsAround(cell);
    if (!parts) continue;
    const known = widest.get(cell.column) ?? { before: 0, after: 0 };
    widest.set(cell.column, {
      before: Math.max(known.before, parts.before),
      after: Math.max(known.after, parts.after),
    });
  }
  return (cell) => {
    const { children } = cell.element;
    const parts = cell.heads ? undefined : partsAround(cell);
    const most = widest.get(cell.column);
    if (!parts || !most) return children;
    const missing = most.after - parts.after;
    const end = parts.hasSign || most.after === 0 ? '' : punctuationSpace;
    return [
      figureSpace.repeat(most.before - parts.before),
      ...children,
      end + figureSpace.repeat(missing),
    ].filter((one) => one !== '');
  };
}

/** How many characters stand before and after the sign on which a cell is aligned. */
function partsAround({ char, element }: { readonly char?: GridCell['char']; element: Element }) {
  if (!char) return undefined;
  const words = textOf(element).trim();
  const at = words.indexOf(char.sign);
  const before = Array.from(at < 0 ? words : words.slice(0, at)).length;
  const after = at < 0 ? 0 : Array.from(words.slice(at + char.sign.length)).length;
  return { before, after, hasSign: at >= 0 };
}

/** Outer edges of a table that have a rule. */
export interface FramedEdges {
  readonly top: boolean;
  readonly bottom: boolean;
  readonly sides: boolean;
}
const frames: Readonly<Record<string, string>> = {
  all: 'top bottom sides',
  top: 'top',
  bottom: 'bottom',
  topbot: 'top bottom',
  sides: 'sides',
  none: '',
};
/** @param frame CALS, `frame`; undefined where it says nothing that is known */
export function framedEdges(frame: string | undefined): FramedEdges | undefined {
  const edges = frames[frame ?? '']?.split(' ');
  return (
    edges && {
      top: edges.includes('top'),
      bottom: edges.includes('bottom'),
      sides: edges.includes('sides'),
    }
  );
}

/** To which side the words of a cell go; those that line up on a sign, to where the sign stands. */
export function sideOf({ align, char }: Pick<GridCell, 'align' | 'char'>): string | undefined {
  if (!char) return align;
  return char.offset < 34 ? 'left' : char.offset > 66 ? 'right' : 'center';
}
