import type { LiveAnswer } from '@ukiyo/contracts';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Presence, type Member } from './presence.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

interface Hearing extends Member {
  readonly heard: LiveAnswer[];
  readonly hasEnded: () => boolean;
}
function member(client: string): Hearing {
  const heard: LiveAnswer[] = [];
  let hasEnded = false;
  return {
    client,
    name: client,
    heard,
    send: (answer) => void heard.push(JSON.parse(answer) as LiveAnswer),
    end: () => (hasEnded = true),
    hasEnded: () => hasEnded,
  };
}

describe('presence', () => {
  it('tells of many who come at once in one message', () => {
    const presence = new Presence();
    const all = Array.from({ length: 200 }, (_, index) => member(`m${index}`));
    for (const one of all) presence.enter(one);
    vi.runAllTimers();
    for (const { heard } of all) {
      expect(heard).toHaveLength(1);
      expect(heard[0]).toMatchObject({ kind: 'people' });
    }
  });
  it('tells where carets are at last, together', () => {
    const presence = new Presence();
    const [one, two, three] = [member('one'), member('two'), member('three')];
    for (const each of [one, two, three]) presence.enter(each);
    vi.runAllTimers();
    for (let at = 1; at <= 500; at += 1) {
      presence.moveCaret(one, { version: 0, anchor: at, head: at });
      presence.moveCaret(two, { version: 0, anchor: 2 * at, head: at });
    }
    vi.runAllTimers();
    expect(three.heard.slice(1)).toEqual([
      {
        kind: 'carets',
        carets: [
          { client: 'one', caret: { version: 0, anchor: 500, head: 500 } },
          { client: 'two', caret: { version: 0, anchor: 1000, head: 500 } },
        ],
      },
    ]);
  });
  it('ends the former line of an editor that comes again', () => {
    const presence = new Presence();
    const [before, now] = [member('same'), member('same')];
    presence.enter(before);
    presence.enter(now);
    vi.runAllTimers();
    expect([before.hasEnded(), now.hasEnded()]).toEqual([true, false]);
    expect(now.heard).toMatchObject([{ kind: 'people', people: [{ client: 'same', place: 0 }] }]);
    presence.leave(now);
    expect(presence.isEmpty).toBe(true);
  });
});
