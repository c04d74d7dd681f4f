import { expect, it } from 'vitest';
import { attempts, useFailure, useLoads } from './attempts.ts';

it('tells a failure once, and is busy until everything has ended', async () => {
  const told: string[] = [];
  const { attempt, isBusy } = attempts((sentence) => void told.push(sentence));
  let end: () => void = () => undefined;
  const slow = attempt(() => new Promise<void>((resolve) => void (end = resolve)));
  const failing = attempt(async () => {
    throw new Error('The lens is used.');
  });
  expect(await failing).toBe(false);
  expect(told).toEqual(['The lens is used.']);
  expect(isBusy.value).toBe(true);
  end();
  expect(await slow).toBe(true);
  expect(isBusy.value).toBe(false);
});

it('shows a failure until the next attempt begins', async () => {
  const { failure, attempt } = useFailure();
  await attempt(async () => {
    throw new Error('The server cannot be reached.');
  });
  expect(failure.value).toBe('The server cannot be reached.');
  const next = attempt(async () => undefined);
  expect(failure.value).toBe('');
  expect(await next).toBe(true);
});

it('shows the failure of a load until one succeeds', async () => {
  const { failure, load } = useLoads();
  await load(async () => {
    throw new Error('The server cannot be reached.');
  });
  const next = load(async () => undefined);
  expect(failure.value).toBe('The server cannot be reached.');
  await next;
  expect(failure.value).toBe('');
});
