import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { tolerantSerializer } from './serializing.ts';

const Row = z.object({ id: z.string(), width: z.number() });
function serialized(schema: z.ZodType, data: unknown): { answer: unknown; reports: number } {
  let reports = 0;
  const compile = tolerantSerializer(() => void (reports += 1));
  const serialize = compile({ schema, method: 'GET', url: '/rows', httpStatus: '200' });
  return { answer: JSON.parse(serialize(data)), reports };
}
const good = { id: 'a', width: 1 };
const bad = { id: 'b', width: Number.POSITIVE_INFINITY };

describe('answers', () => {
  it('leaves out the rows of a list that cannot be written, wherever the list is', () => {
    expect(serialized(z.array(Row), [good, bad, good, { id: 3 }])).toEqual({
      answer: [good, good],
      reports: 1,
    });
    const Page = z.object({ total: z.number(), pages: z.array(z.object({ rows: z.array(Row) })) });
    const data = { total: 2, pages: [{ rows: [bad] }, { rows: [good, bad] }] };
    expect(serialized(Page, data)).toEqual({
      answer: { total: 2, pages: [{ rows: [] }, { rows: [good] }] },
      reports: 1,
    });
  });
  it('fails where what is wrong is not an entry of a list', () => {
    expect(() => serialized(Row, bad)).toThrow();
    expect(() =>
      serialized(z.object({ total: z.number(), rows: z.array(Row) }), { total: 'x', rows: [bad] }),
    ).toThrow();
  });
  it('reports nothing where everything is right', () => {
    expect(serialized(z.array(Row), [good])).toEqual({ answer: [good], reports: 0 });
  });
});
