import { childElements, childNamed, isElement, type Element } from '../markup/index.ts';
import { problem, type Path, type Problem } from '../problems/index.ts';

export interface GridColumn {
  readonly name: string;
  /** As written: `2*` is a share, anything else a length. */
  readonly width?: string;
  readonly align?: string;
}

export interface GridCell {
  readonly element: Element;
  /** From the table element given to `gridOf`. */
  readonly path: Path;
  /** 0-based. */
  readonly column: number;
  readonly columnSpan: number;
  readonly rowSpan: number;
  readonly align?: string;
  readonly valign?: string;
  /** A cell that heads its row. */
  readonly heads: boolean;
}

export interface GridRow {
  readonly element: Element;
  readonly cells: readonly GridCell[];
  readonly ruled: boolean;
}

export interface Grid {
  readonly columns: readonly GridColumn[];
  readonly head: readonly GridRow[];
  readonly body: readonly GridRow[];
  readonly problems: readonly Problem[];
}

interface Found {
  readonly element: Element;
  readonly path: Path;
}

function rowsIn(parent: Element, path: Path, ...names: string[]): Found[] {
  return parent.children.flatMap((child, index) =>
    isElement(child) && names.includes(child.name)
      ? [{ element: child, path: [...path, index] }]
      : [],
  );
}

/**
 * Works out where each cell stands (CALS: OASIS exchange table model, TR 9503; simple tables: DITA
 * 1.3).
 * @returns a grid that can be drawn, with problems `table.span`, `table.too-many-cells` and
 * `table.unknown-column` for what had to be put right
 */
export function gridOf(table: Element): Grid {
  return table.name === 'tgroup' ? calsGrid(table) : simpleGrid(table);
}

function calsGrid(tgroup: Element): Grid {
  const problems: Problem[] = [];
  const specs = childElements(tgroup).filter((child) => child.name === 'colspec');
  const declared = Math.min(Number(tgroup.attributes['cols']) || specs.length || 1, 200);
  const columns: GridColumn[] = Array.from(
    { length: Math.max(declared, specs.length) },
    (_, index) => {
      const spec = specs[index]?.attributes ?? {};
      const align = spec['align'] ?? tgroup.attributes['align'];
      return {
        name: spec['colname'] ?? `col${index + 1}`,
        ...(spec['colwidth'] === undefined ? {} : { width: spec['colwidth'] }),
        ...(align === undefined ? {} : { align }),
      };
    },
  );
  const spans = new Map(
    childElements(tgroup)
      .filter((child) => child.name === 'spanspec')
      .map((spec) => [spec.attributes['spanname'], spec.attributes]),
  );
  const headsRows =
    specs[0]?.attributes['rowheader'] === 'headers' ||
    specs[0]?.attributes['rowheader'] === 'firstcol';
  const columnNamed = (name: string | undefined, where: Path): number | undefined => {
    if (name === undefined) return undefined;
    const found = columns.findIndex((column) => column.name === name);
    if (found === -1)
      problems.push(
        problem(
          'error',
          'table.unknown-column',
          `A cell names the column “${name}”, which the table does not have.`,
          { path: where },
        ),
      );
    return found === -1 ? undefined : found;
  };

  const section = (name: string): GridRow[] => {
    const index = tgroup.children.findIndex((child) => isElement(child) && child.name === name);
    const parent = tgroup.children[index];
    if (!isElement(parent)) return [];
    const rows = rowsIn(parent, [index], 'row');
    /** Per column, up to (not including) which row a cell from above still reaches. */
    const taken: number[] = [];
    return rows.map(({ element: row, path }, rowIndex) => {
      const cells: GridCell[] = [];
      let cursor = 0;
      for (const { element: entry, path: entryPath } of rowsIn(row, path, 'entry')) {
        const isFree = (column: number): boolean => (taken[column] ?? 0) <= rowIndex;
        const span =
          entry.attributes['spanname'] === undefined
            ? entry.attributes
            : { ...spans.get(entry.attributes['spanname']), ...entry.attributes };
        const wanted = columnNamed(span['namest'] ?? entry.attributes['colname'], entryPath);
        let column = wanted !== undefined && wanted >= cursor && isFree(wanted) ? wanted : cursor;
        while (!isFree(column)) column += 1;
        if (column >= columns.length) {
          problems.push(
            problem(
              'error',
              'table.too-many-cells',
              `Row ${rowIndex + 1} has more cells than the table has columns.`,
              { path: entryPath },
            ),
          );
          while (columns.length <= column) columns.push({ name: `col${columns.length + 1}` });
        }
        const end = columnNamed(span['nameend'], entryPath);
        let columnSpan = end === undefined ? 1 : end - column + 1;
        const moreRows = Number(entry.attributes['morerows'] ?? 0) || 0;
        let rowSpan = 1 + Math.max(0, moreRows);
        if (columnSpan < 1 || rowIndex + rowSpan > rows.length || moreRows < 0) {
          problems.push(
            problem(
              'error',
              'table.span',
              `A cell in row ${rowIndex + 1} reaches further than the table. It is shown as ` +
                'far as the table goes.',
              { path: entryPath },
            ),
          );
          columnSpan = Math.max(1, columnSpan);
          rowSpan = Math.min(rowSpan, rows.length - rowIndex);
        }
        const blocked = Array.from(
          { length: columnSpan },
          (_, offset) => column + offset,
        ).findIndex((at) => !isFree(at));
        if (blocked > 0) {
          problems.push(
            problem(
              'error',
              'table.span',
              `A cell in row ${rowIndex + 1} reaches into one that comes down from above.`,
              { path: entryPath },
            ),
          );
          columnSpan = blocked;
        }
        for (let at = column; at < column + columnSpan; at += 1) taken[at] = rowIndex + rowSpan;
        cursor = column + columnSpan;
        const align = entry.attributes['align'] ?? columns[column]?.align;
        const valign =
          entry.attributes['valign'] ?? row.attributes['valign'] ?? parent.attributes['valign'];
        cells.push({
          element: entry,
          path: entryPath,
          column,
          columnSpan,
          rowSpan,
          ...(align === undefined ? {} : { align }),
          ...(valign === undefined ? {} : { valign }),
          heads: name === 'thead' || (headsRows && column === 0),
        });
      }
      return {
        element: row,
        cells,
        ruled: (row.attributes['rowsep'] ?? tgroup.attributes['rowsep'] ?? '1') !== '0',
      };
    });
  };

  const head = section('thead');
  const body = section('tbody');
  return { columns, head, body, problems };
}

const headRows = ['sthead', 'prophead', 'chhead'];
const columnOfPart: Record<string, number> = {
  proptypehd: 0,
  proptype: 0,
  propvaluehd: 1,
  propvalue: 1,
  propdeschd: 2,
  propdesc: 2,
};
const defaultHeads: Record<string, readonly string[]> = { choicetable: ['Option', 'Description'] };

function simpleGrid(table: Element): Grid {
  const rows = rowsIn(table, [], 'sthead', 'strow', 'prophead', 'property', 'chhead', 'chrow');
  const used =
    table.name === 'properties'
      ? [0, 1, 2].filter((part) =>
          rows.some(({ element }) =>
            childElements(element).some((cell) => columnOfPart[cell.name] === part),
          ),
        )
      : undefined;
  const count =
    used?.length ?? Math.max(1, ...rows.map(({ element }) => childElements(element).length));
  const shares = (table.attributes['relcolwidth'] ?? '')
    .split(/\s+/u)
    .filter((share) => /^\d+(\.\d+)?\*$/u.test(share));
  const key = Number(table.attributes['keycol'] ?? (table.name === 'choicetable' ? 1 : 0));
  const columns = Array.from({ length: count }, (_, index) => ({
    name: `col${index + 1}`,
    ...(shares[index] === undefined ? {} : { width: shares[index] }),
  }));
  const grid = rows.map(({ element: row, path }): GridRow => {
    const isHead = headRows.includes(row.name);
    const cells = row.children.flatMap((cell, index): GridCell[] => {
      if (!isElement(cell)) return [];
      const part = columnOfPart[cell.name];
      const column =
        used && part !== undefined
          ? used.indexOf(part)
          : row.children.slice(0, index).filter(isElement).length;
      return [
        {
          element: cell,
          path: [...path, index],
          column,
          columnSpan: 1,
          rowSpan: 1,
          heads: isHead || column + 1 === key,
        },
      ];
    });
    return { element: row, cells, ruled: true };
  });
  const head = grid.filter((row) => headRows.includes(row.element.name));
  const body = grid.filter((row) => !headRows.includes(row.element.name));
  const heads = defaultHeads[table.name];
  if (heads && head.length === 0 && !childNamed(table, 'chhead')) {
    const cells = heads.map((text, column): GridCell => ({
      element: { name: 'stentry', attributes: {}, children: [text] },
      path: [],
      column,
      columnSpan: 1,
      rowSpan: 1,
      heads: true,
    }));
    head.push({ element: table, cells, ruled: true });
  }
  return { columns, head, body, problems: [] };
}
