import {
  childElements,
  childNamed,
  isElement,
  type Attributes,
  type Element,
} from '../markup/index.ts';
import { problem, type Path, type Problem } from '../problems/index.ts';

export interface GridColumn {
  readonly name: string;
  /** As written: `2*` is a share, anything else a length. */
  readonly width?: string;
  /** Its attributes, with those of the group and the table where it has none of its own. */
  readonly attributes: Attributes;
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
  /** On which its words line up, where they are aligned so. */
  readonly char?: CharAlignment;
  /** Whether a rule stands below, and after it; undefined where nothing says so. */
  readonly rules: CellRules;
  /** A cell that heads its row or column. */
  readonly heads: boolean;
}

/** @see CALS, `char` and `charoff` */
export interface CharAlignment {
  readonly sign: string;
  /** Where the sign stands, in percent of the width of the column. */
  readonly offset: number;
}

export interface CellRules {
  readonly below?: boolean;
  readonly after?: boolean;
}

export interface GridRow {
  readonly element: Element;
  readonly cells: readonly GridCell[];
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
 * 1.3), and how it is aligned and ruled: as it says itself, else its row, its column, its group or
 * its table.
 * @param table a `tgroup` or a simple table
 * @param around the table of a `tgroup`
 * @returns a grid that can be drawn, with problems `table.span`, `table.too-many-cells` and
 * `table.unknown-column` for what had to be put right
 */
export function gridOf(table: Element, around?: Element): Grid {
  return table.name === 'tgroup'
    ? new CalsReader(table, around?.attributes ?? {}).read()
    : simpleGrid(table);
}

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
  readonly #table: Attributes;
  readonly #problems: Problem[] = [];
  /** Rows of which it is said already that they have too many cells. */
  readonly #overfull = new Set<Element>();

  /** @param table the attributes of the table */
  constructor(tgroup: Element, table: Attributes) {
    this.#tgroup = tgroup;
    this.#table = table;
    this.#columns = columnsOf(tgroup, table);
    this.#spans = new Map(
      childElements(tgroup)
        .filter(({ name }) => name === 'spanspec')
        .map(({ attributes }) => [attributes['spanname'], attributes]),
    );
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
      return { element: row, cells };
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
    { span, path, rowIndex, row }: Entry,
    cursor: number,
    isFree: (column: number) => boolean,
  ): number {
    const wanted = this.#columnNamed(span['namest'] ?? span['colname'], path);
    let column = wanted !== undefined && wanted >= cursor && isFree(wanted) ? wanted : cursor;
    while (!isFree(column)) column += 1;
    if (column >= this.#columns.length) {
      if (!this.#overfull.has(row))
        this.#report(
          'table.too-many-cells',
          `Row ${rowIndex + 1} has more cells than the table has columns.`,
          path,
        );
      this.#overfull.add(row);
      while (this.#columns.length <= column)
        this.#columns.push({
          name: `col${this.#columns.length + 1}`,
          attributes: columnAttributes(undefined, this.#tgroup, this.#table),
        });
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

  #cell({ element, path, row, span }: Entry, extent: Extent, section: Element): GridCell {
    const column = this.#columns[extent.column]!.attributes;
    const align = span['align'] ?? column['align'];
    const valign =
      element.attributes['valign'] ?? row.attributes['valign'] ?? section.attributes['valign'];
    const sign = span['char'] ?? column['char'];
    const offset = Number(span['charoff'] ?? column['charoff'] ?? 50);
    return {
      element,
      path,
      ...extent,
      ...(align === undefined ? {} : { align }),
      ...(valign === undefined ? {} : { valign }),
      ...(align === 'char' && sign
        ? { char: { sign, offset: Number.isNaN(offset) ? 50 : offset } }
        : {}),
      rules: {
        ...ruled('below', span['rowsep'] ?? row.attributes['rowsep'] ?? column['rowsep']),
        ...ruled('after', span['colsep'] ?? column['colsep']),
      },
      heads: section.name === 'thead' || headsRows(column),
    };
  }

  #report(code: string, message: string, path: Path): void {
    this.#problems.push(problem('error', code, message, { path }));
  }
}

/** More columns are a slip of the pen. */
export const mostColumns = 200;

const ruled = (edge: keyof CellRules, written: string | undefined): CellRules =>
  written === undefined ? {} : { [edge]: written !== '0' };

/** Whether the cells of a column head their rows (DITA 1.3, `rowheader`). */
const headsRows = ({ rowheader }: Attributes): boolean =>
  rowheader === 'headers' || rowheader === 'firstcol';

const inheritedByColumns = ['align', 'char', 'charoff', 'colsep', 'rowsep'];

/** What holds for the cells of a column: what it says itself, else its group or its table. */
function columnAttributes(
  spec: Element | undefined,
  tgroup: Element,
  table: Attributes,
  isFirst = false,
): Attributes {
  const around = Object.fromEntries(
    inheritedByColumns.flatMap((name) => {
      const value = tgroup.attributes[name] ?? (name.endsWith('sep') ? table[name] : undefined);
      return value === undefined ? [] : [[name, value]];
    }),
  );
  const heads = isFirst && headsRows(table) ? { rowheader: 'firstcol' } : {};
  return { ...around, ...heads, ...spec?.attributes };
}

/**
 * The columns in order; a specification without a number is that of the column after the one
 * before it (CALS, `colnum`).
 */
function columnsOf(tgroup: Element, table: Attributes): GridColumn[] {
  const specs: Element[] = [];
  let next = 0;
  for (const spec of childElements(tgroup).filter(({ name }) => name === 'colspec')) {
    const number = Number(spec.attributes['colnum']);
    if (Number.isInteger(number) && number > 0 && number <= mostColumns) next = number - 1;
    specs[next] = spec;
    next += 1;
  }
  const declared = Number(tgroup.attributes['cols']) || specs.length || 1;
  const length = Math.max(Math.min(declared, mostColumns), specs.length);
  return Array.from({ length }, (_, index) => {
    const attributes = columnAttributes(specs[index], tgroup, table, index === 0);
    const { colname, colwidth } = attributes;
    return {
      name: colname ?? `col${index + 1}`,
      ...(colwidth === undefined ? {} : { width: colwidth }),
      attributes,
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
    attributes: {},
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
          rules: {},
          heads: isHead || column + 1 === key,
        },
      ];
    });
    return { element: row, cells };
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
      rules: {},
      heads: true,
    }));
    head.push({ element: table, cells });
  }
  return { columns, head, body, problems: [] };
}
