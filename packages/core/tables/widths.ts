import { childElements, element, withAttribute, type Element } from '../markup/index.ts';
import { gridOf } from './grid.ts';

/** A width of a column: a share of what is left (`*`), or millimetres. */
export interface Measure {
  readonly unit: '*' | 'mm';
  readonly amount: number;
}

/** Millimetres in a unit of length (CALS, colwidth; CSS, 5.2); a pixel is a 96th of an inch. */
const millimetres: Readonly<Record<string, number>> = {
  mm: 1,
  cm: 10,
  in: 25.4,
  pt: 25.4 / 72,
  pi: 25.4 / 6,
  pc: 25.4 / 6,
  px: 25.4 / 96,
};

/**
 * Reads a `colwidth` (CALS: `2*`, `30mm`, or `2*+3pt`, of which the share counts); without one, a
 * share like any other.
 */
export function measured(width: string | undefined): Measure {
  const share = /^\s*(\d*(?:\.\d+)?)\*/u.exec(width ?? '');
  if (share) return { unit: '*', amount: share[1] === '' ? 1 : Number(share[1]) };
  const length = /^\s*(\d+(?:\.\d+)?)\s*([a-z]{2})?/u.exec(width ?? '');
  return length
    ? { unit: 'mm', amount: Number(length[1]) * (millimetres[length[2] ?? 'pt'] ?? 1) }
    : { unit: '*', amount: 1 };
}

/** The widths of the columns; undefined where no column says one. */
export function columnMeasures(table: Element): Measure[] | undefined {
  const { columns } = gridOf(table);
  return columns.some(({ width }) => width !== undefined)
    ? columns.map(({ width }) => measured(width))
    : undefined;
}

/**
 * The table with its columns as wide as they stand on a page.
 * @param widths in millimetres, one a column; shares stay shares, fixed widths stay fixed
 */
export function withColumnWidths(table: Element, widths: readonly number[]): Element {
  const { columns } = gridOf(table);
  const total = widths.reduce((sum, width) => sum + width, 0) || 1;
  const written = columns.map(({ width }, index) => {
    const own = widths[index] ?? 0;
    return measured(width).unit === 'mm'
      ? `${Math.round(own)}mm`
      : `${Math.max(1, Math.round((own / total) * 100))}*`;
  });
  if (table.name !== 'tgroup') return withAttribute(table, 'relcolwidth', written.join(' '));
  const specs = childElements(table).filter(({ name }) => name === 'colspec');
  const made = columns.map(({ name }, index) =>
    element('colspec', { colname: name, ...specs[index]?.attributes, colwidth: written[index]! }),
  );
  return {
    ...table,
    children: [...made, ...childElements(table).filter(({ name }) => name !== 'colspec')],
  };
}
