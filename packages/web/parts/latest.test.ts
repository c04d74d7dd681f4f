import { describe, expect, it } from 'vitest';
import { latestOnly } from './latest.ts';

/** Work that ends when it is told to. */
function workshop() {
  const started: number[] = [];
  const ends: (() => void)[] = [];
  const order = latestOnly((number: number) => {
    started.push(number);
    return new Promise<void>((resolve) => ends.push(resolve));
  });
  const end = async (): Promise<void> => {
    ends.shift()?.();
    await new Promise((resolve) => setTimeout(resolve));
  };
  return { started, order, end };
}

describe('the latest only', () => {
  it('is worked on: what was asked for meanwhile gives way to the newest', async () => {
    const { started, order, end } = workshop();
    for (const number of [1, 2, 3, 4]) order(number);
    expect(started).toEqual([1]);
    await end();
    expect(started).toEqual([1, 4]);
    await end();
    order(5);
    expect(started).toEqual([1, 4, 5]);
  });
  it('is worked on once, where nothing was asked for meanwhile', async () => {
    const { started, order, end } = workshop();
    order(1);
    await end();
    await end();
    expect(started).toEqual([1]);
  });
});
