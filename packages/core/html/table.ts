import { childElements, element, type Attributes, type Element } from '../markup/index.ts';

const most = 60;
const spanOf = (cell: Element, name: string): number =>
  Math.min(most, Math.max(1, Math.trunc(Number(cell.attributes[name] ?? 1)) || 1));

/** The rows of a table, not those of tables inside it. */
function rowsOf(part: Element): Element[] {
  return childElements(part).flatMap((child) => {
    const name = child.name.toLowerCase();
    if (name === 'tr') return [child];
    return name === 'thead' || name === 'tbody' || name === 'tfoot' ? rowsOf(child) : [];
  });
}
const cellsOf = (row: Element): Element[] =>
  childElements(row).filter(
    ({ name }) => name.toLowerCase() === 'td' || name.toLowerCase() === 'th',
  );

/**
 * A table of HTML as one of CALS (OASIS exchange table model), with its spans.
 * @param makeCell makes an entry with the attributes that place it
 */
export function tableOfHtml(
  table: Element,
  makeCell: (cell: Element, attributes: Attributes) => Element,
): Element[] {
  const rows = rowsOf(table).filter((row) => cellsOf(row).length > 0);
  if (rows.length === 0) return [];
  /** Per column, up to (not including) which row a cell from above reaches. */
  const taken: number[] = [];
  let width = 0;
  const placed = rows.map((row, rowIndex) => {
    let column = 0;
    return cellsOf(row).map((cell) => {
      while ((taken[column] ?? 0) > rowIndex) column += 1;
      const columns = spanOf(cell, 'colspan');
      const down = Math.min(spanOf(cell, 'rowspan'), rows.length - rowIndex);
      for (let at = column; at < column + columns; at += 1) taken[at] = rowIndex + down;
      const start = column;
      column += columns;
      width = Math.max(width, column);
      return { cell, start, columns, down };
    });
  });
  const isHead = (row: Element): boolean =>
    cellsOf(row).every(({ name }) => name.toLowerCase() === 'th');
  const found = rows.findIndex((row) => !isHead(row));
  const reaching = placed
    .slice(0, Math.max(found, 0))
    .some((cells, index) => cells.some(({ down }) => index + down > found));
  const heads = found === -1 || reaching ? 0 : found;
  const written = placed.map((cells) =>
    element(
      'row',
      {},
      cells.map(({ cell, start, columns, down }) =>
        makeCell(cell, {
          ...(columns > 1 ? { namest: `col${start + 1}`, nameend: `col${start + columns}` } : {}),
          ...(down > 1 ? { morerows: String(down - 1) } : {}),
        }),
      ),
    ),
  );
  const specs = Array.from({ length: width }, (_, index) =>
    element('colspec', { colname: `col${index + 1}` }),
  );
  const head = heads > 0 ? [element('thead', {}, written.slice(0, heads))] : [];
  return [
    element('table', {}, [
      element('tgroup', { cols: String(width) }, [
        ...specs,
        ...head,
        element('tbody', {}, written.slice(heads)),
      ]),
    ]),
  ];
}
