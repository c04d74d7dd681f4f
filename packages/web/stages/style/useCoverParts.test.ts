import { coverGrid, shippedPlans, type PagePlan } from '@ukiyo/core/styles';
import { describe, expect, it } from 'vitest';
import { coverParts } from './useCoverParts.ts';

const plan = shippedPlans['a4-margin']!;
const { add, set, remove, move } = coverParts('front');
const through = (...changes: readonly ((plan: PagePlan) => PagePlan)[]): PagePlan =>
  changes.reduce((now, change) => change(now), plan);
const names = ({ coverParts: { front } }: PagePlan): string[] =>
  front.map(({ shows }) => shows.field);

describe('parts of a cover', () => {
  it('are put on top of the others, with a full-width ground and a styled title', () => {
    const made = through(
      add({ field: 'ground', colour: 'accent' }),
      add({ field: 'title' }),
      add({ field: 'date' }),
    );
    expect(names(made)).toEqual(['ground', 'title', 'date']);
    expect(made.coverParts.front.map(({ columns, style }) => [columns, style])).toEqual([
      [coverGrid, 'cover-facts'],
      [coverGrid - 2, 'cover-title'],
      [coverGrid - 2, 'cover-facts'],
    ]);
    expect(made.coverParts.back).toEqual([]);
  });
  it('stay on the grid, however far they are pulled', () => {
    for (const part of [
      { column: -4, row: 99 },
      { column: 11, columns: 12 },
      { columns: 0, rows: -3 },
      { row: 3, rows: 400 },
    ]) {
      const [one] = through(add({ field: 'title' }), set(0, part)).coverParts.front;
      expect(one!.column).toBeGreaterThanOrEqual(0);
      expect(one!.row).toBeGreaterThanOrEqual(0);
      expect(one!.columns).toBeGreaterThanOrEqual(1);
      expect(one!.rows).toBeGreaterThanOrEqual(1);
      expect(one!.column + one!.columns).toBeLessThanOrEqual(coverGrid);
      expect(one!.row + one!.rows).toBeLessThanOrEqual(coverGrid);
    }
  });
  it('are moved over and under each other, and taken off', () => {
    const three = [add({ field: 'title' }), add({ field: 'date' }), add({ field: 'rights' })];
    expect(names(through(...three, move(0, 1)))).toEqual(['date', 'title', 'rights']);
    expect(names(through(...three, move(2, 9)))).toEqual(['title', 'date', 'rights']);
    expect(names(through(...three, move(7, 1)))).toEqual(['title', 'date', 'rights']);
    expect(names(through(...three, remove(1)))).toEqual(['title', 'rights']);
  });
});
