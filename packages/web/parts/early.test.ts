import { afterEach, expect, test, vi } from 'vitest';
import { z } from 'zod';
import { ask } from './api.ts';
import { askEarly, forgetEarlyAnswers } from './early.ts';

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** A server that counts its answers, and fails while it is away. */
function server() {
  const state = { isAway: false, answers: 0 };
  vi.stubGlobal('fetch', () => {
    if (state.isAway) return Promise.reject(new TypeError('fetch failed'));
    state.answers += 1;
    return Promise.resolve(new Response(String(state.answers)));
  });
  return state;
}
const number = (): Promise<number> => ask('/number', z.number());

test('the answer to an early request is given to the first who asks, once', async () => {
  server();
  void askEarly('/number');
  expect(await number()).toBe(1);
  expect(await number()).toBe(2);
});

test('a request that failed early is made again', async () => {
  const state = server();
  state.isAway = true;
  await askEarly('/number').catch(() => undefined);
  state.isAway = false;
  expect(await number()).toBe(1);
});

test('an answer that nobody wanted for long is not given', async () => {
  vi.useFakeTimers();
  server();
  void askEarly('/number');
  vi.advanceTimersByTime(60_000);
  expect(await number()).toBe(2);
});

test('an answer from before a change is not given', async () => {
  server();
  await askEarly('/number');
  forgetEarlyAnswers();
  expect(await number()).toBe(2);
});

test('only what is read is taken from an early request', async () => {
  server();
  void askEarly('/number');
  expect(await ask('/number', z.number(), { method: 'POST' })).toBe(2);
});
