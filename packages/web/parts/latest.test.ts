import { describe, expect, it } from 'vitest';
import { shallowRef } from 'vue';
import { latestOnly, loadOnce, renew } from './latest.ts';

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

describe('what is read again', () => {
  it('is taken as it was answered', async () => {
    const kept = shallowRef<readonly string[]>(['old']);
    await renew(kept, () => Promise.resolve(['old', 'new']));
    expect(kept.value).toEqual(['old', 'new']);
  });
  it('does not take back what was changed here while the answer was under way', async () => {
    const server = ['first'];
    const kept = shallowRef<readonly string[]>([]);
    let asked = 0;
    await renew(kept, () => {
      const answer = [...server];
      asked += 1;
      if (asked === 1) {
        server.push('made meanwhile');
        kept.value = ['made meanwhile'];
      }
      return Promise.resolve(answer);
    });
    expect(asked).toBe(2);
    expect(kept.value).toEqual(['first', 'made meanwhile']);
  });
  it('ends where the same is changed without a pause', async () => {
    const kept = shallowRef(0);
    await renew(kept, () => Promise.resolve(--kept.value));
    expect(kept.value).toBe(-3);
  });
  it('leaves everything as it was when nothing is answered', async () => {
    const kept = shallowRef('as it was');
    await expect(renew(kept, () => Promise.reject(new Error('no answer')))).rejects.toThrow(
      'no answer',
    );
    expect(kept.value).toBe('as it was');
  });
});

describe('loading once', () => {
  it('answers all who ask while it is under way, and tries again after a failure', async () => {
    let runs = 0;
    let fails = true;
    const ensure = loadOnce(async () => {
      runs += 1;
      await Promise.resolve();
      if (fails) throw new Error('no answer');
    });
    const both = await Promise.allSettled([ensure(), ensure()]);
    expect([runs, both.map(({ status }) => status)]).toEqual([1, ['rejected', 'rejected']]);
    fails = false;
    await Promise.all([ensure(), ensure()]);
    await ensure();
    expect(runs).toBe(2);
  });
});
