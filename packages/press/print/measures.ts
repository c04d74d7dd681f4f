import { lineOf } from '@ukiyo/core/markup';
import type { GridRow } from '@ukiyo/core/tables';
import { millimetres } from '../shared/index.ts';

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
