import { describe, expect, it } from 'vitest';
import { TooMuch, Turns } from './turns.ts';

describe('turns', () => {
  it('go round between those who ask, and keep the order of each', async () => {
    const turns = new Turns();
    const done: string[] = [];
    const ask = (person: string, name: string) =>
      turns.take(person, async () => void (await Promise.resolve(), done.push(`${person}${name}`)));
    await Promise.all([
      ...['1', '2', '3', '4'].map((name) => ask('a', name)),
      ask('b', '1'),
      ask('c', '1'),
      ask('b', '2'),
    ]);
    expect(done).toEqual(['a1', 'a2', 'b1', 'c1', 'a3', 'b2', 'a4']);
    expect(turns.waiting).toBe(0);
  });
  it('go on after a failure, and refuse whoever asks for too much', async () => {
    const turns = new Turns();
    await expect(turns.take('a', () => Promise.reject(new Error('no')))).rejects.toThrow('no');
    let release = (): void => undefined;
    const held = turns.take('a', () => new Promise<void>((resolve) => (release = resolve)));
    const asked = Array.from({ length: 150 }, () =>
      turns.take('a', () => Promise.resolve('done')).catch((error: unknown) => error),
    );
    const other = turns.take('b', () => Promise.resolve('mine'));
    release();
    await held;
    expect(await other).toBe('mine');
    const answers = await Promise.all(asked);
    expect(answers.filter((one) => one === 'done')).toHaveLength(100);
    expect(answers.filter((one) => one instanceof TooMuch)).toHaveLength(50);
  });
});
