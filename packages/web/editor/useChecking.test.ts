import { documentFrom, toEditor } from '@ukiyo/core/editing';
import { element } from '@ukiyo/core/markup';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope } from 'vue';
import { useChecking } from './useChecking.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const about = { self: 'a', facets: [], rules: [], ids: [] };
const document = documentFrom(
  toEditor(element('concept', { id: 'a' }, [element('title', {}, ['A'])])).toJSON(),
)!;

/** Checkers that count words up, fail when told to, and remember that they were started and ended. */
function house() {
  const log: string[] = [];
  let isFailing = false;
  let fail: () => void = () => undefined;
  let words = 0;
  const scope = effectScope();
  const checking = scope.run(() =>
    useChecking((failed) => {
      log.push('start');
      fail = failed;
      return {
        open: async () => void log.push('open'),
        check: async () => {
          if (isFailing) throw new Error('out of memory');
          words += 1;
          return { problems: [], words };
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
  it('ends with the screen', async () => {
    const { log, checking, scope } = house();
    await checking.open(() => document, about);
    scope.stop();
    expect(log.at(-1)).toBe('end');
  });
});
