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

const calsGrid = (tgroup: Element): Grid => new CalsReader(tgroup).read();

/** An entry where it is read: its row and all that is known of it. */
interface Entry extends Found {
  readonly row: Element;
  readonly rowIndex: number;
  /** Its attributes, and those of the span that it names. */
  readonly span: Readonly<Record<string, string | undefined>>;
}

/** Columns and rows that an entry takes. */
interface Extent {
  readonly column: number;
  readonly columnSpan: number;
  readonly rowSpan: number;
}

class CalsReader {
  readonly #tgroup: Element;
  readonly #columns: GridColumn[];
  readonly #spans: ReadonlyMap<string | undefined, Element['attributes']>;
  readonly #hasRowHeads: boolean;
  readonly #problems: Problem[] = [];

  constructor(tgroup: Element) {
    this.#tgroup = tgroup;
    const specs = childElements(tgroup).filter(({ name }) => name === 'colspec');
    this.#columns = columnsOf(tgroup, specs);
    this.#spans = new Map(
      childElements(tgroup)
        .filter(({ name }) => name === 'spanspec')
        .map(({ attributes }) => [attributes['spanname'], attributes]),
    );
    this.#hasRowHeads = ['headers', 'firstcol'].includes(specs[0]?.attributes['rowheader'] ?? '');
  }

  read(): Grid {
    const [head, body] = [this.#section('thead'), this.#section('tbody')];
    return { columns: this.#columns, head, body, problems: this.#problems };
  }

  #section(name: 'thead' | 'tbody'): readonly GridRow[] {
    const index = this.#tgroup.children.findIndex(
      (child) => isElement(child) && child.name === name,
    );
    const section = this.#tgroup.children[index];
    if (!isElement(section)) return [];
    const rows = rowsIn(section, [index], 'row');
    /** Per column, up to (not including) which row a cell from above still reaches. */
    const taken: number[] = [];
    return rows.map(({ element: row, path }, rowIndex) => {
      let cursor = 0;
      const cells = rowsIn(row, path, 'entry').map((found): GridCell => {
        const span = { ...this.#spans.get(found.element.attributes['spanname']) };
        const entry = { ...found, row, rowIndex, span: { ...span, ...found.element.attributes } };
        const extent = this.#extentOf(entry, cursor, taken, rows.length);
        const { column, columnSpan, rowSpan } = extent;
        for (let at = column; at < column + columnSpan; at += 1) taken[at] = rowIndex + rowSpan;
        cursor = column + columnSpan;
        return this.#cell(entry, extent, section);
      });
      const rule = row.attributes['rowsep'] ?? this.#tgroup.attributes['rowsep'] ?? '1';
      return { element: row, cells, ruled: rule !== '0' };
    });
  }

  /**
   * @param cursor the first column that an entry before it has not taken
   * @param taken see above
   * @param rowCount rows of the section
   */
  #extentOf(entry: Entry, cursor: number, taken: readonly number[], rowCount: number): Extent {
    const { rowIndex, span, path } = entry;
    const isFree = (column: number): boolean => (taken[column] ?? 0) <= rowIndex;
    const column = this.#columnOf(entry, cursor, isFree);
    const end = this.#columnNamed(span['nameend'], path);
    let columnSpan = end === undefined ? 1 : end - column + 1;
    const moreRows = Number(span['morerows'] ?? 0) || 0;
    let rowSpan = 1 + Math.max(0, moreRows);
    if (columnSpan < 1 || rowIndex + rowSpan > rowCount || moreRows < 0) {
      this.#report(
        'table.span',
        `A cell in row ${rowIndex + 1} reaches further than the table. It is shown as far as ` +
          'the table goes.',
        path,
      );
      columnSpan = Math.max(1, columnSpan);
      rowSpan = Math.min(rowSpan, rowCount - rowIndex);
    }
    for (let at = column + 1; at < column + columnSpan; at += 1)
      if (!isFree(at)) {
        this.#report(
          'table.span',
          `A cell in row ${rowIndex + 1} reaches into one that comes down from above.`,
          path,
        );
        columnSpan = at - column;
      }
    return { column, columnSpan, rowSpan };
  }

  /** The column that an entry names where it can stand there, else the next free one. */
  #columnOf(
    { span, path, rowIndex }: Entry,
    cursor: number,
    isFree: (column: number) => boolean,
  ): number {
    const wanted = this.#columnNamed(span['namest'] ?? span['colname'], path);
    let column = wanted !== undefined && wanted >= cursor && isFree(wanted) ? wanted : cursor;
    while (!isFree(column)) column += 1;
    if (column >= this.#columns.length) {
      this.#report(
        'table.too-many-cells',
        `Row ${rowIndex + 1} has more cells than the table has columns.`,
        path,
      );
      while (this.#columns.length <= column)
        this.#columns.push({ name: `col${this.#columns.length + 1}` });
    }
    return column;
  }

  #columnNamed(name: string | undefined, where: Path): number | undefined {
    if (name === undefined) return undefined;
    const found = this.#columns.findIndex((column) => column.name === name);
    if (found !== -1) return found;
    this.#report(
      'table.unknown-column',
      `A cell names the column “${name}”, which the table does not have.`,
      where,
    );
    return undefined;
  }

  #cell({ element, path, row }: Entry, extent: Extent, section: Element): GridCell {
    const align = element.attributes['align'] ?? this.#columns[extent.column]?.align;
    const valign =
      element.attributes['valign'] ?? row.attributes['valign'] ?? section.attributes['valign'];
    return {
      element,
      path,
      ...extent,
      ...(align === undefined ? {} : { align }),
      ...(valign === undefined ? {} : { valign }),
      heads: section.name === 'thead' || (this.#hasRowHeads && extent.column === 0),
    };
  }

  #report(code: string, message: string, path: Path): void {
    this.#problems.push(problem('error', code, message, { path }));
  }
}

/** More columns are a slip of the pen. */
const mostColumns = 200;

function columnsOf(tgroup: Element, specs: readonly Element[]): GridColumn[] {
  const declared = Number(tgroup.attributes['cols']) || specs.length || 1;
  const length = Math.max(Math.min(declared, mostColumns), specs.length);
  return Array.from({ length }, (_, index) => {
    const spec = specs[index]?.attributes ?? {};
    const align = spec['align'] ?? tgroup.attributes['align'];
    return {
      name: spec['colname'] ?? `col${index + 1}`,
      ...(spec['colwidth'] === undefined ? {} : { width: spec['colwidth'] }),
      ...(align === undefined ? {} : { align }),
    };
  });
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
