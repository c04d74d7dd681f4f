import { lineOf, type Element } from '../markup/index.ts';
import type { Cell, Plan, PlaceOfCell, Row, Section } from './plan.ts';
import { measured, type Measure } from './widths.ts';

/** Whether no cell reaches into or out of the rows from one to another. */
function standsAlone({ rows }: Section, from: number, to: number): boolean {
  return rows.every((row, index) =>
    row.cells.every(({ rowSpan }) =>
      index < from ? index + rowSpan <= from : index > to || rowSpan === 1,
    ),
  );
}

/**
 * Swaps the row with its neighbour; undefined where a cell holds both together, or there is none.
 */
export function moveRow(
  { section, row, index, cell }: PlaceOfCell,
  offset: -1 | 1,
): Cell | undefined {
  const other = index + offset;
  if (!section.rows[other] || !standsAlone(section, Math.min(index, other), Math.max(index, other)))
    return undefined;
  section.rows.splice(index, 1);
  section.rows.splice(other, 0, row);
  return cell;
}

/** Swaps the column with its neighbour, in head and body. */
export function moveColumn(plan: Plan, cell: Cell, offset: -1 | 1): Cell | undefined {
  const from = cell.column;
  const to = from + offset;
  if (
    plan.table.name === 'properties' ||
    plan.table.name === 'choicetable' ||
    cell.columnSpan > 1 ||
    !plan.columns[to]
  )
    return undefined;
  const cells = plan.sections.flatMap(({ rows }) => rows.flatMap((row) => row.cells));
  const covers = (one: Cell, column: number): boolean =>
    one.column <= column && column < one.column + one.columnSpan;
  if (cells.some((one) => one.columnSpan > 1 && covers(one, from) !== covers(one, to)))
    return undefined;
  for (const one of cells.filter(({ columnSpan }) => columnSpan === 1)) {
    if (one.column === from) one.column = to;
    else if (one.column === to) one.column = from;
  }
  const [moved] = plan.columns.splice(from, 1);
  plan.columns.splice(to, 0, moved!);
  return cell;
}

/** A row of a simple table bears another name in its head. */
const headNames: Readonly<Record<string, string>> = { strow: 'sthead' };
const bodyNames: Readonly<Record<string, string>> = { sthead: 'strow' };
const renamed = (row: Row, names: Readonly<Record<string, string>>): Row => ({
  ...row,
  element: { ...row.element, name: names[row.element.name] ?? row.element.name },
});

/** Makes the first row of the body the last of the head. */
export function rowToHead(
  plan: Plan,
  { section, row, index, cell }: PlaceOfCell,
): Cell | undefined {
  const [head, body] = plan.sections as [Section, Section];
  const isSimple = plan.table.name === 'simpletable';
  if (section !== body || index !== 0 || body.rows.length < 2 || !standsAlone(body, 0, 0))
    return undefined;
  if (plan.table.name !== 'tgroup' && !(isSimple && head.rows.length === 0)) return undefined;
  body.rows.shift();
  head.rows.push(renamed(row, headNames));
  return cell;
}

/** Makes the last row of the head the first of the body. */
export function rowToBody(
  plan: Plan,
  { section, row, index, cell }: PlaceOfCell,
): Cell | undefined {
  const [head, body] = plan.sections as [Section, Section];
  if (
    section !== head ||
    index !== head.rows.length - 1 ||
    !standsAlone(head, index, index) ||
    !['tgroup', 'simpletable'].includes(plan.table.name)
  )
    return undefined;
  head.rows.pop();
  body.rows.unshift(renamed(row, bodyNames));
  return cell;
}

const cellIn = ({ cells }: Row, column: number): Element | undefined =>
  cells.find((one) => one.column <= column && column < one.column + one.columnSpan)?.element;
const collator = new Intl.Collator(undefined, { numeric: true, sensitivity: 'base' });

/**
 * Puts the rows of the body in the order of the column's words; numbers count as numbers, empty
 * cells come last.
 */
export function sortRows(
  plan: Plan,
  { section, cell }: PlaceOfCell,
  direction: 1 | -1,
): Cell | undefined {
  const body = plan.sections[1];
  if (section !== body || body.rows.length < 2 || !standsAlone(body, 0, body.rows.length - 1))
    return undefined;
  const words = (row: Row): string => lineOf(cellIn(row, cell.column) ?? '');
  body.rows.sort((a, b) => {
    const [first, second] = [words(a), words(b)];
    return first === '' || second === ''
      ? Number(first === '') - Number(second === '')
      : direction * collator.compare(first, second);
  });
  return cell;
}

const step = 5;
const narrowest = 4;

/**
 * Makes a column wider or narrower: by 5 mm where its width is fixed, otherwise by 5 hundredths of
 * the table at the cost of the others.
 */
export function widen({ table, columns }: Plan, cell: Cell, direction: 1 | -1): Cell | undefined {
  if (table.name === 'choicetable' || columns.length < 2) return undefined;
  const measures = columns.map(({ spec, share }) => measured(spec['colwidth'] ?? share));
  const own = measures[cell.column]!;
  if (own.unit === 'mm')
    setWidth(columns[cell.column]!, {
      unit: 'mm',
      amount: Math.max(narrowest, own.amount + direction * step),
    });
  else {
    const total = measures.reduce((sum, { unit, amount }) => sum + (unit === '*' ? amount : 0), 0);
    const share = (amount: number): number => (amount / total) * 100;
    const wanted = share(own.amount) + direction * step;
    const rest = 100 - share(own.amount);
    if (wanted < narrowest || wanted > 100 - narrowest || rest <= 0) return undefined;
    measures.forEach(({ unit, amount }, index) => {
      if (unit === '*')
        setWidth(columns[index]!, {
          unit,
          amount: index === cell.column ? wanted : share(amount) * ((100 - wanted) / rest),
        });
    });
  }
  return cell;
}

function setWidth(column: Plan['columns'][number], { unit, amount }: Measure): void {
  const written = `${Math.round(amount * 10) / 10}${unit}`;
  column.spec = { ...column.spec, colwidth: written };
  column.share = written;
}
