import { brotliDecompressSync } from 'node:zlib';
import { Dictionaries, type Agreements, type Item } from '@ukiyo/contracts';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../testing.ts';

let server: TestServer;
beforeAll(async () => void (server = await startTestServer()));
afterAll(() => server.close());

const read = async (): Promise<Agreements> =>
  (await server.ask('reader', 'GET', '~/agreements')).json<Agreements>();
const countOf = async (id: string): Promise<number> =>
  (await server.ask('reader', 'GET', `~/items/${id}`)).json<Item>().problems.warning;

it('are changed one version after the other, and the counts of the library follow', async () => {
  const before = await read();
  const rule = {
    id: 'no-solution',
    kind: 'phrase',
    severity: 'warning',
    reason: '',
    phrase: 'the',
    instead: '',
  };
  const warnings = await countOf('alarms');
  const saved = await server.ask('administrator', 'PUT', '~/agreements', {
    ...before,
    rules: [...before.rules, rule],
  });
  expect(saved.json<Agreements>().version).toBe(before.version + 1);
  await expect.poll(() => countOf('alarms')).toBeGreaterThan(warnings);
  const late = await server.ask('administrator', 'PUT', '~/agreements', { ...before, rules: [] });
  expect(late.statusCode).toBe(409);
  await server.ask('administrator', 'PUT', '~/agreements', {
    ...before,
    version: before.version + 1,
  });
  await expect.poll(() => countOf('alarms')).toBe(warnings);
});

it('refuse patterns that are none, and two rules of one id', async () => {
  const now = await read();
  const pattern = {
    id: 'odd',
    kind: 'pattern',
    severity: 'info',
    reason: '',
    element: 'title',
    pattern: '(',
  };
  expect(
    (await server.ask('administrator', 'PUT', '~/agreements', { ...now, rules: [pattern] })).json(),
  ).toMatchObject({ code: 'agreements.pattern' });
  const good = { ...pattern, pattern: '^A' };
  expect(
    (
      await server.ask('administrator', 'PUT', '~/agreements', { ...now, rules: [good, good] })
    ).json(),
  ).toMatchObject({ code: 'agreements.doubled' });
  expect((await read()).version).toBe(now.version);
});

it('take words from every writer at once, each once, and lose none', async () => {
  const words = ['Wellhead', 'Quayside', 'Tideboard', 'Wellhead'];
  await Promise.all(
    words.map((word) => server.ask('writer', 'POST', '~/agreements/words', { locale: 'en', word })),
  );
  const { words: kept } = await read();
  for (const word of words) expect(kept['en']!.filter((one) => one === word)).toHaveLength(1);
  expect(
    (await server.ask('writer', 'POST', '~/agreements/words', { locale: 'no such', word: 'x' }))
      .statusCode,
  ).toBe(400);
});

it('have English dictionaries by region, and say so where there is none', async () => {
  const words = async (locale: string) =>
    (await server.ask('reader', 'GET', `/dictionaries/${locale}`))
      .json<{ dic: string }[]>()
      .map(({ dic }) => dic.split('\n').map((line) => line.split('/')[0]));
  const [american, british] = await words('en');
  expect(american).toContain('color');
  expect(british).toContain('colour');
  expect(await words('en-GB')).toEqual([british]);
  expect(await words('en-AU')).toEqual([american, british]);
  expect((await server.ask('reader', 'GET', '/dictionaries/ja')).statusCode).toBe(404);
});

it('come with dictionaries, the same with and without compression', async () => {
  const cookie = await server.cookieOf('reader');
  const read = (encoding: string) =>
    server.app.inject({
      url: '/api/dictionaries/en',
      headers: { cookie, 'accept-encoding': encoding },
    });
  const [packed, plain] = [await read('gzip, br'), await read('identity')];
  expect(packed.headers['content-encoding']).toBe('br');
  expect(plain.headers['content-encoding']).toBeUndefined();
  expect(packed.rawPayload.length).toBeLessThan(plain.rawPayload.length / 3);
  expect(JSON.parse(brotliDecompressSync(packed.rawPayload).toString())).toEqual(plain.json());
  expect(Dictionaries.parse(plain.json())).toHaveLength(2);
});
