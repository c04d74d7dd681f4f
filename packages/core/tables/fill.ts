import { isElement, type Element, type Node } from '../markup/index.ts';
import type { Path } from '../problems/index.ts';
import { changeTable } from './change.ts';
import { gridOf, type GridRow } from './grid.ts';

const rowsOf = (table: Element): readonly GridRow[] => [
  ...gridOf(table).head,
  ...gridOf(table).body,
];

/**
 * What cells hold, row by row, as taken from a table. A cell that reaches over others leaves those
 * empty.
 */
export function contentsOf(table: Element): Node[][][] {
  const { columns } = gridOf(table);
  return rowsOf(table).map(({ cells }) =>
    columns.map((_, column) => [
      ...(cells.find((cell) => cell.column === column)?.element.children ?? []),
    ]),
  );
}

function withChildren(parent: Element, path: Path, children: readonly Node[]): Element {
  const [index, ...rest] = path;
  if (index === undefined) return { ...parent, children };
  return {
    ...parent,
    children: parent.children.map((child, at) =>
      at === index && isElement(child) ? withChildren(child, rest, children) : child,
    ),
  };
}

/**
 * Puts contents into the cells from one cell on, rightward and down; rows and columns are added
 * where the table ends before them. Cells that begin where others reach over are passed by.
 * @param cell path of the first cell in `table`
 * @param contents what each cell is to hold, row by row
 * @returns the table and the path of the last cell that was filled; undefined where there is no
 * such cell
 */
export function fillTable(
  table: Element,
  cell: Path,
  contents: readonly (readonly (readonly Node[])[])[],
): { table: Element; cell: Path } | undefined {
  const key = cell.join();
  const top = rowsOf(table).findIndex(({ cells }) => cells.some(({ path }) => path.join() === key));
  const left = rowsOf(table)[top]?.cells.find(({ path }) => path.join() === key)?.column;
  if (left === undefined) return undefined;
  const width = Math.max(0, ...contents.map((row) => row.length));
  let filled = table;
  /** Grows as long as it can: columns that have a meaning each do not become more. */
  const grow = (
    isEnough: () => boolean,
    change: 'row-below' | 'column-after',
    lastCell: () => Path | undefined,
  ): void => {
    while (!isEnough()) {
      const at = lastCell();
      const grown = at && changeTable(filled, at, change);
      if (!grown) return;
      filled = grown.table;
    }
  };
  const lastRow = (): GridRow | undefined => rowsOf(filled).at(-1);
  grow(
    () => rowsOf(filled).length >= top + contents.length,
    'row-below',
    () => lastRow()?.cells.at(-1)?.path,
  );
  grow(
    () => gridOf(filled).columns.length >= left + width,
    'column-after',
    () =>
      lastRow()?.cells.find(
        ({ column, columnSpan }) => column + columnSpan === gridOf(filled).columns.length,
      )?.path,
  );
  let last = cell;
  contents.forEach((row, down) =>
    row.forEach((content, right) => {
      const target = rowsOf(filled)[top + down]?.cells.find(
        ({ column }) => column === left + right,
      );
      if (!target) return;
      filled = withChildren(filled, target.path, content);
      last = target.path;
    }),
  );
  return { table: filled, cell: last };
}
