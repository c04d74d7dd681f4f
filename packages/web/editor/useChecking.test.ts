import { documentFrom, toEditor } from '@ukiyo/core/editing';
import { element } from '@ukiyo/core/markup';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope } from 'vue';
import { useChecking } from './useChecking.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const about = { self: 'a', facets: [], rules: [] };
const document = documentFrom(
  toEditor(element('concept', { id: 'a' }, [element('title', {}, ['A'])])).toJSON(),
)!;

/** Checkers that count words up, fail when told to, and remember that they were started and ended. */
function house(references: readonly string[] = []) {
  const log: string[] = [];
  let isFailing = false;
  let fail: () => void = () => undefined;
  let words = 0;
  /** What each check was told to be missing. */
  const told: (readonly string[])[] = [];
  const scope = effectScope();
  const gone = new Set(references.filter((id) => id.startsWith('gone')));
  const isMissing = async (id: string): Promise<boolean> => gone.has(id);
  const checking = scope.run(() =>
    useChecking(isMissing, (failed) => {
      log.push('start');
      fail = failed;
      return {
        open: async () => void log.push('open'),
        check: async (_steps, missing) => {
          if (isFailing) throw new Error('out of memory');
          words += 1;
          told.push(missing);
          return { problems: [], words, references };
        },
        end: () => void log.push('end'),
      };
    }),
  )!;
  const change = async (): Promise<void> => {
    checking.follow([]);
    await vi.advanceTimersByTimeAsync(1000);
  };
  return {
    log,
    told,
    gone,
    checking,
    change,
    scope,
    setFailing: (now: boolean) => void (isFailing = now),
    die: () => fail(),
  };
}

describe('checking', () => {
  it('goes on after a check that failed, with the document as it stands', async () => {
    const { log, checking, change, setFailing } = house();
    await checking.open(() => document, about);
    expect(checking.words.value).toBe(1);
    setFailing(true);
    await change();
    expect(log).toEqual(['start', 'open', 'end']);
    setFailing(false);
    await change();
    expect(log).toEqual(['start', 'open', 'end', 'start', 'open']);
    expect(checking.words.value).toBe(2);
  });
  it('goes on after its worker has ended by itself', async () => {
    const { log, checking, change, die } = house();
    await checking.open(() => document, about);
    die();
    await change();
    expect(log).toEqual(['start', 'open', 'end', 'start', 'open']);
    expect(checking.words.value).toBe(2);
  });
  it('checks once more with the references that the library has nothing for', async () => {
    const { told, checking, change } = house(['b', 'gone-1']);
    await checking.open(() => document, about);
    await vi.advanceTimersByTimeAsync(0);
    expect(told).toEqual([[], ['gone-1']]);
    await change();
    expect(told).toEqual([[], ['gone-1'], ['gone-1']]);
    await checking.open(() => document, { ...about, self: 'b' });
    expect(told[3]).toEqual([]);
  });
  it('checks once more when something it refers to is deleted, or exists again', async () => {
    const { told, gone, checking } = house(['b', 'c']);
    await checking.open(() => document, about);
    gone.add('c');
    await checking.lookAgain();
    expect(told).toEqual([[], ['c']]);
    await checking.lookAgain();
    gone.delete('c');
    await checking.lookAgain();
    expect(told).toEqual([[], ['c'], []]);
  });
  it('checks once more what was found missing while another check was under way', async () => {
    const { told, gone, checking } = house(['b', 'c']);
    await checking.open(() => document, about);
    checking.follow([]);
    const both = vi.advanceTimersByTimeAsync(1000);
    gone.add('b');
    await Promise.all([both, checking.lookAgain()]);
    await vi.advanceTimersByTimeAsync(0);
    expect(told.at(-1)).toEqual(['b']);
  });
  it('ends with the screen', async () => {
    const { log, checking, scope } = house();
    await checking.open(() => document, about);
    scope.stop();
    expect(log.at(-1)).toBe('end');
  });
});
