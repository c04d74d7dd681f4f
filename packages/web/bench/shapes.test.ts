import { mostShapes, ProofOrder, type Proof } from '@ukiyo/contracts';
import { expect, it } from 'vitest';
import { completed, has } from './shapes.ts';

const proof = (pieces: readonly string[], shapes: Record<string, string>): Proof => ({
  pages: [
    { width: 210, height: 297, pieces: pieces.map((shape) => ({ shape, at: '1 0 0 1 0 0' })) },
  ],
  shapes,
  places: [],
  placed: true,
  problems: [],
  milliseconds: 1,
  engineMilliseconds: 1,
});

it('completes a proof from the one before it, and drops what is shown no more', () => {
  const first = completed(proof(['a', 'b'], { a: '<a/>', b: '<b/>', cover: '<c/>' }), undefined);
  expect(has(undefined)).toEqual([]);
  expect(has(first)).toEqual(['a', 'b']);
  const second = completed(proof(['b', 'd', 'b'], { d: '<d/>' }), first);
  expect(second.shapes).toEqual({ b: '<b/>', d: '<d/>' });
  expect(has(second)).toEqual(['b', 'd']);
});

it('of a topic with more shapes than may be named the order is still taken', () => {
  const many = Array.from({ length: mostShapes + 5 }, (_, at) => `s${at}`);
  const long = completed(
    proof(many, Object.fromEntries(many.map((shape) => [shape, '<g/>']))),
    undefined,
  );
  expect(Object.keys(long.shapes)).toHaveLength(mostShapes + 5);
  expect(ProofOrder.safeParse({ item: 'a', has: has(long) }).success).toBe(true);
});
