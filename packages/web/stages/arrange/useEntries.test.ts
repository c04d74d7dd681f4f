import { describe, expect, it } from 'vitest';
import { placesAmongSiblings } from './useEntries.ts';

describe('entries of a map', () => {
  it('have a place among those below the same entry, also where only some are drawn', () => {
    const paths = [[0], [0, 1], [0, 2], [0, 2, 0], [3], [3, 0]];
    expect(placesAmongSiblings(paths.map((path) => ({ path })))).toEqual([
      { at: 1, of: 2 },
      { at: 1, of: 2 },
      { at: 2, of: 2 },
      { at: 1, of: 1 },
      { at: 2, of: 2 },
      { at: 1, of: 1 },
    ]);
  });
});
