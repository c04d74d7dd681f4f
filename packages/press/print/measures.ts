import { lineOf } from '@ukiyo/core/markup';
import type { GridRow } from '@ukiyo/core/tables';

const unitsInMillimetres: Record<string, number> = {
  mm: 1,
  cm: 10,
  in: 25.4,
  pt: 25.4 / 72,
  pc: 25.4 / 6,
  px: 25.4 / 96,
  em: 3.4,
  '': 25.4 / 96,
};

/** A DITA or CALS length in millimetres; a bare number is pixels. */
export function millimetres(length: string | undefined): number | undefined {
  const match = /^\s*(\d+(?:\.\d+)?)\s*(mm|cm|in|pt|pc|px|em|)\s*$/u.exec(length ?? '');
  const value = match ? Number(match[1]) * unitsInMillimetres[match[2]!]! : 0;
  return value > 0 ? Math.round(value * 100) / 100 : undefined;
}

/**
 * Widths as written. Where some are shares, a column without one has one share (CALS, OASIS TM
 * 9502:1995, `colwidth`); where none are, columns share after the amount of text, so that one of
 * numbers stays narrow.
 */
export function columnTracks(
  widths: readonly (string | undefined)[],
  rows: readonly GridRow[],
): { fr?: number; mm?: number }[] {
  const amount = widths.map((_, column) => {
    const lengths = rows.flatMap((row) =>
      row.cells
        .filter(
          (one) =>
            one.column === column &&
            one.columnSpan === 1 &&
            one.element.attributes['rotate'] !== '1',
        )
        .map((one) => lineOf(one.element).length),
    );
    return Math.min(14, Math.max(3, Math.sqrt(Math.max(4, ...lengths)) * 1.6));
  });
  const hasShares = widths.some((width) => width?.includes('*'));
  return widths.map((width, column) => {
    const share = /^(\d+(?:\.\d+)?)?\*$/u.exec(width ?? '');
    if (share) return { fr: Number(share[1] ?? 1) || 1 };
    const length = millimetres(width);
    if (length !== undefined) return { mm: length };
    return { fr: hasShares ? 1 : Math.round(amount[column]! * 100) / 100 };
  });
}
