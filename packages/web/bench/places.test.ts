import { describe, expect, it } from 'vitest';
import { differences, placeAround, placeAt, type ProofPlace } from './places.ts';

const place = (path: number[], page: number, y: number, says = path.join('.')): ProofPlace => ({
  path,
  page,
  y,
  says,
});
const places = [
  place([1], 1, 60, 'lead'),
  place([2], 1, 90, 'one two'),
  place([2, 0], 1, 90, 'one'),
  place([2, 1], 2, 50, 'two'),
];

describe('a place on a page', () => {
  it('is what begins nearest above, also on the page before', () => {
    expect(placeAt(places, 1, 70)?.path).toEqual([1]);
    expect(placeAt(places, 1, 500)?.path).toEqual([2, 0]);
    expect(placeAt(places, 2, 20)?.path).toEqual([2, 0]);
    expect(placeAt(places, 2, 60)?.path).toEqual([2, 1]);
  });
  it('is the first where nothing begins above, and none where nothing is known', () => {
    expect(placeAt(places, 1, 10)?.path).toEqual([1]);
    expect(placeAt([], 1, 10)).toBeUndefined();
  });
  it('of what is being written is that of the innermost element that is known', () => {
    expect(placeAround(places, [2, 1, 0, 4])?.path).toEqual([2, 1]);
    expect(placeAround(places, [2, 7])?.path).toEqual([2]);
    expect(placeAround(places, [9])).toBeUndefined();
  });
});

describe('differences of two proofs', () => {
  it('are told of the innermost elements that are said otherwise, or not at all', () => {
    const other = [
      place([1], 1, 60, 'lead'),
      place([2], 1, 90, 'one three'),
      place([2, 0], 1, 90, 'one'),
      place([2, 1], 1, 99, 'three'),
    ];
    expect(differences(places, other).map(({ path }) => path)).toEqual([[2, 1]]);
    expect(differences(places, [place([1], 3, 10, 'lead')]).map(({ path }) => path)).toEqual([
      [2, 0],
      [2, 1],
    ]);
  });
  it('are none where the same is said elsewhere on the page', () => {
    expect(
      differences(
        places,
        places.map((one) => ({ ...one, page: one.page + 4, y: 1 })),
      ),
    ).toEqual([]);
  });
});
