import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { useAutosave } from './autosave.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

/** A store that answers when it is told to. */
function store() {
  const asked: [string, string][] = [];
  const answers: { resolve: () => void; reject: (error: Error) => void }[] = [];
  const failures: string[] = [];
  const autosave = useAutosave<string>({
    save: (id, draft) => {
      asked.push([id, draft]);
      return new Promise((resolve, reject) => answers.push({ resolve, reject }));
    },
    failed: (_id, error) => {
      failures.push((error as Error).message);
      return (error as Error).message !== 'conflict';
    },
  });
  const accept = async (): Promise<void> => {
    answers.shift()!.resolve();
    await vi.advanceTimersByTimeAsync(0);
  };
  const refuse = async (why: string): Promise<void> => {
    answers.shift()!.reject(new Error(why));
    await vi.advanceTimersByTimeAsync(0);
  };
  return { asked, failures, autosave, accept, refuse };
}

describe('what is being changed', () => {
  it('is saved once, a moment after the last change', async () => {
    const { asked, autosave, accept } = store();
    autosave.change('a', 'one');
    await vi.advanceTimersByTimeAsync(300);
    autosave.change('a', 'two');
    await vi.advanceTimersByTimeAsync(300);
    expect([asked, autosave.state.value]).toEqual([[], 'changed']);
    await vi.advanceTimersByTimeAsync(200);
    expect([asked, autosave.state.value]).toEqual([[['a', 'two']], 'saving']);
    await accept();
    expect([autosave.state.value, autosave.isSafe.value]).toEqual(['saved', true]);
  });
  it('is saved again when it was changed while it was on its way', async () => {
    const { asked, autosave, accept } = store();
    autosave.change('a', 'one');
    const flushed = autosave.flush();
    autosave.change('a', 'two');
    await accept();
    expect(asked).toEqual([
      ['a', 'one'],
      ['a', 'two'],
    ]);
    expect(autosave.isSafe.value).toBe(false);
    await accept();
    expect(await flushed).toBe(true);
  });
  it('is saved under its own name after the screen has gone on to another', async () => {
    const { asked, autosave, accept } = store();
    autosave.change('a', 'of a');
    autosave.change('b', 'of b');
    const flushed = autosave.flush();
    await accept();
    await accept();
    expect(await flushed).toBe(true);
    expect(asked).toEqual([
      ['a', 'of a'],
      ['b', 'of b'],
    ]);
  });
  it('stays, and is tried again, when saving failed', async () => {
    const { asked, failures, autosave, accept, refuse } = store();
    autosave.change('a', 'one');
    const flushed = autosave.flush();
    await refuse('unreachable');
    expect(await flushed).toBe(false);
    expect([failures, autosave.state.value]).toEqual([['unreachable'], 'failed']);
    await vi.advanceTimersByTimeAsync(4000);
    expect(asked.length).toBe(2);
    await accept();
    expect(autosave.isSafe.value).toBe(true);
  });
  it('is not tried again by itself where somebody has to decide', async () => {
    const { asked, autosave, refuse } = store();
    autosave.change('a', 'one');
    void autosave.flush();
    await refuse('conflict');
    await vi.advanceTimersByTimeAsync(60_000);
    expect([asked.length, autosave.state.value]).toEqual([1, 'failed']);
    autosave.discard('a');
    expect([await autosave.flush(), autosave.state.value]).toEqual([true, 'saved']);
  });
});
