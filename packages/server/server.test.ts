import { Readable } from 'node:stream';
import {
  roles,
  type Agreements,
  type Appearances,
  type CopyGroup,
  type CopyReport,
  type Edition,
  type FacetList,
  type ImportReport,
  type Item,
  type ItemPage,
  type Lens,
  type Reach,
  type ReaderCheck,
  type ValueUse,
} from '@ukiyo/contracts';
import { strToU8, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sanitiseImage } from './media/image.ts';
import { startTestServer, type TestServer } from './testing.ts';

/** An id that nothing has. */
const nowhere = '00000000-0000-4000-8000-000000000000';
let server: TestServer;
beforeAll(async () => void (server = await startTestServer()));
afterAll(() => server.close());

describe('access', () => {
  it('signs in with the right password only, and out for good', async () => {
    expect(
      (
        await server.ask(undefined, 'POST', '/session', {
          email: 'ada@brinewell.example',
          password: 'wrong',
        })
      ).statusCode,
    ).toBe(401);
    expect(
      (
        await server.ask(undefined, 'POST', '/session', {
          email: 'nobody@brinewell.example',
          password: 'wrong',
        })
      ).json(),
    ).toEqual({
      code: 'wrong-password',
      message: 'The address or the password is wrong.',
    });
    const answer = await server.ask(undefined, 'POST', '/session', {
      email: ' ADA@brinewell.example ',
      password: 'lanternfish',
    });
    expect(answer.json()).toMatchObject({
      person: { name: 'Ada Lind', role: 'administrator' },
      projects: [{ name: 'Tern stations' }],
    });
    const [cookie] = answer.cookies;
    expect(cookie).toMatchObject({ httpOnly: true, sameSite: 'Strict', path: '/api' });
    const headers = { cookie: `${cookie!.name}=${cookie!.value}` };
    expect((await server.app.inject({ url: '/api/session', headers })).statusCode).toBe(200);
    await server.app.inject({ method: 'DELETE', url: '/api/session', headers });
    expect((await server.app.inject({ url: '/api/session', headers })).statusCode).toBe(401);
  });

  it('keeps no password and no token in the database', async () => {
    const { people, sessions } = server.services;
    const { id } = (await people.verified('mira@brinewell.example', 'lanternfish'))!;
    const token = await sessions.create(id, 'a browser');
    const { models } = server.services.database;
    const everything = JSON.stringify([
      await models.people.findAll(),
      await models.sessions.findAll(),
    ]);
    expect(everything).not.toContain('lanternfish');
    expect(everything).not.toContain(token);
    expect(everything).toContain('$argon2id$');
  });

  /** What each role may do: the whole table, against the running routes. */
  const table: readonly [
    method: 'GET' | 'POST' | 'PUT' | 'DELETE',
    path: string,
    allowed: readonly string[],
    body?: object,
  ][] = [
    ['GET', '~/items', roles],
    ['GET', '~/items/alarms', roles],
    ['GET', '~/impressions', roles],
    ['GET', `~/impressions/${nowhere}/download`, roles],
    ['GET', '~/tokens', ['administrator', 'publisher']],
    ['POST', '~/tokens', ['administrator', 'publisher'], {}],
    ['DELETE', `~/tokens/${nowhere}`, ['administrator', 'publisher']],
    ['GET', '~/notices', ['administrator', 'publisher']],
    ['POST', '~/notices', ['administrator', 'publisher'], {}],
    ['DELETE', `~/notices/${nowhere}`, ['administrator', 'publisher']],
    ['GET', '~/outbox', ['administrator', 'publisher']],
    ['GET', '~/package', roles],
    ['GET', '~/agreements', roles],
    ['GET', '/dictionaries/en', roles],
    ['GET', '~/facets', roles],
    ['GET', '~/facets/uses', roles],
    ['GET', '~/facets/uses/product/tern-q', roles],
    ['GET', '~/lenses', roles],
    ['GET', '~/lenses/installer-tern-q/ditaval', roles],
    ['POST', '~/lenses', ['administrator', 'publisher'], {}],
    ['PUT', '~/lenses/none', ['administrator', 'publisher'], { name: 'x' }],
    ['POST', '~/lenses/none/decisions', ['administrator', 'publisher'], {}],
    ['POST', '~/lenses/ditaval', ['administrator', 'publisher'], {}],
    ['DELETE', '~/lenses/none', ['administrator', 'publisher']],
    ['PUT', '~/facets', ['administrator', 'publisher'], {}],
    ['POST', '~/facets/rename', ['administrator', 'publisher'], {}],
    ['PUT', '~/agreements', ['administrator'], {}],
    ['POST', '~/agreements/words', ['administrator', 'publisher', 'writer'], {}],
    [
      'POST',
      '~/items',
      ['administrator'],
      { type: 'task', title: 'A template for one role only', folder: 'templates/deep' },
    ],
    [
      'POST',
      '~/items',
      ['administrator', 'publisher', 'writer'],
      { type: 'concept', title: '', folder: '' },
    ],
    ['PUT', '~/items/alarms', ['administrator', 'publisher', 'writer'], { text: 5 }],
    ['GET', '~/uses?id=alarms', roles],
    ['GET', '~/appearances', roles],
    ['GET', '~/copies', roles],
    ['GET', `~/editions/${nowhere}/contents`, roles],
    ['GET', '~/variables', roles],
    ['GET', '~/sources', ['administrator', 'publisher', 'writer']],
    ['GET', '~/sources/none', ['administrator', 'publisher', 'writer']],
    ['PUT', '~/sources/none', ['administrator', 'publisher']],
    ['POST', '~/sources/none/read', ['administrator', 'publisher', 'writer'], {}],
    ['DELETE', '~/sources/none', ['administrator', 'publisher']],
    ['GET', '~/designs', roles],
    ['PUT', '~/designs/sheets/x', ['administrator', 'publisher'], {}],
    ['PUT', '~/designs/plans/x', ['administrator', 'publisher'], {}],
    ['PUT', '~/designs/looks/x', ['administrator', 'publisher'], {}],
    ['GET', `~/editions/${nowhere}/proof/site/harbour/index.html`, roles],
    ['POST', `~/editions/${nowhere}/proof/site`, roles, {}],
    ['DELETE', '~/designs/plans/none', ['administrator', 'publisher']],
    ['POST', '~/designs/specimen', roles, {}],
    ['POST', `~/editions/${nowhere}/proof`, roles, {}],
    ['POST', `~/editions/${nowhere}/proof/whole`, roles, {}],
    ['GET', `~/editions/${nowhere}/proof/whole.pdf`, roles],
    ['GET', '~/designs/sheets/workshop/uses', roles],
    ['GET', '~/why?item=none&path=', roles],
    ['POST', '~/variables/none', ['administrator', 'publisher', 'writer'], {}],
    ['POST', '~/variables/rename', ['administrator', 'publisher', 'writer'], {}],
    ['GET', '~/items/none/alternates', roles],
    ['POST', '~/items/none/alternates', ['administrator', 'publisher', 'writer'], {}],
    [
      'POST',
      '~/items/none/stand-in',
      ['administrator', 'publisher', 'writer'],
      { of: 'none', conditions: { product: 'tern-q' } },
    ],
    ['POST', '~/items/none/alternates/looked-at', ['administrator', 'publisher', 'writer'], {}],
    ['POST', '~/items/none/alternates/release', ['administrator', 'publisher', 'writer'], {}],
    ['PUT', '~/assets/none/alternate', ['administrator', 'publisher', 'writer'], {}],
    ['POST', '~/copies/share', ['administrator', 'publisher', 'writer'], {}],
    ['GET', `~/editions/${nowhere}/readers`, roles],
    ['DELETE', '~/items/none', ['administrator', 'publisher', 'writer']],
    ['POST', '~/assets', ['administrator', 'publisher', 'writer']],
    ['POST', '~/package', ['administrator', 'publisher']],
    ['POST', '~/editions', ['administrator', 'publisher'], {}],
    ['POST', `~/editions/${nowhere}/impressions`, ['administrator', 'publisher']],
    ['POST', `~/impressions/${nowhere}/cancel`, ['administrator', 'publisher']],
    ['PUT', `~/impressions/${nowhere}/name`, ['administrator', 'publisher'], {}],
    [
      'POST',
      `~/impressions/${nowhere}/notes`,
      ['administrator', 'publisher', 'writer', 'reviewer'],
      {},
    ],
    ['PUT', `~/impressions/${nowhere}/seal`, ['administrator', 'publisher'], {}],
    ['DELETE', `~/impressions/${nowhere}/seal`, ['administrator', 'publisher']],
    ['DELETE', `~/impressions/${nowhere}`, ['administrator', 'publisher']],
    ['POST', `~/impressions/${nowhere}/again`, ['administrator', 'publisher']],
    ['GET', `~/impressions/${nowhere}/since/${nowhere}`, roles],
    ['GET', `~/editions/${nowhere}/shipped/manual.pdf`, roles],
  ];
  it.each(table)('%s %s is for %s only', async (method, path, allowed, body) => {
    expect((await server.ask(undefined, method, path, body)).statusCode).toBe(401);
    for (const role of roles) {
      const { statusCode } = await server.ask(role, method, path, body);
      if (allowed.includes(role))
        expect([401, 403], `${role} ${statusCode}`).not.toContain(statusCode);
      else expect(statusCode, role).toBe(403);
    }
  });

  it('answers with strict headers, and says how it is', async () => {
    const { headers, json } = await server.app.inject({ url: '/api/health' });
    expect(json()).toMatchObject({ status: 'ok' });
    const policy = String(headers['content-security-policy']);
    expect(policy).toContain("default-src 'none'");
    expect(policy).toContain("script-src 'self';");
    expect(headers).toMatchObject({ 'x-content-type-options': 'nosniff' });
  });
});

describe('agreements', () => {
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
      (
        await server.ask('administrator', 'PUT', '~/agreements', { ...now, rules: [pattern] })
      ).json(),
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
      words.map((word) =>
        server.ask('writer', 'POST', '~/agreements/words', { locale: 'en', word }),
      ),
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
});

describe('facets', () => {
  const read = async (): Promise<FacetList> =>
    (await server.ask('reader', 'GET', '~/facets')).json<FacetList>();
  const useOf = async (value: string) =>
    (await server.ask('reader', 'GET', '~/facets/uses'))
      .json<ValueUse[]>()
      .find((use) => use.value === value);
  const text = async (id: string): Promise<string> =>
    (await server.ask('reader', 'GET', `~/items/${id}`)).json<Item>().text;

  it('are kept one version after the other, with names once each', async () => {
    const before = await read();
    const weather = {
      name: 'weather',
      label: 'Weather',
      values: [
        {
          name: 'calm',
          label: 'Calm',
          letters: 'C',
          pigment: 'moss',
          description: 'Below force 3.',
        },
      ],
    };
    const saved = (
      await server.ask('publisher', 'PUT', '~/facets', {
        ...before,
        facets: [...before.facets, weather],
      })
    ).json<FacetList>();
    expect(saved.version).toBe(before.version + 1);
    expect((await read()).facets.at(-1)).toEqual(weather);
    expect((await server.ask('publisher', 'PUT', '~/facets', before)).json()).toMatchObject({
      code: 'facets.conflict',
    });
    expect(
      (
        await server.ask('publisher', 'PUT', '~/facets', { ...saved, facets: [weather, weather] })
      ).json(),
    ).toMatchObject({ code: 'facets.doubled' });
    const spaced = { ...weather, values: [{ name: 'very calm', label: 'Very calm' }] };
    expect(
      (await server.ask('publisher', 'PUT', '~/facets', { ...saved, facets: [spaced] })).statusCode,
    ).toBe(400);
    await server.ask('publisher', 'PUT', '~/facets', { ...before, version: saved.version });
    expect((await read()).facets).toEqual(before.facets);
  });
  it('tell where each value is set, and keep those that are', async () => {
    const { count, items } = (await useOf('tern-d'))!;
    expect(count).toBeGreaterThanOrEqual(items);
    const where = (await server.ask('reader', 'GET', '~/facets/uses/product/tern-d')).json<
      Item[]
    >();
    expect(where).toHaveLength(items);
    expect(where.map(({ id }) => id)).toContain('set-the-pile-clamp');
    const now = await read();
    const without = now.facets.map((facet) => ({
      ...facet,
      values: facet.values.filter(({ name }) => name !== 'tern-d'),
    }));
    expect(
      (await server.ask('publisher', 'PUT', '~/facets', { ...now, facets: without })).json(),
    ).toMatchObject({ code: 'facets.used' });
  });
  it('rename a value in list, lenses and texts at once, also in open ones', async () => {
    const made = (
      await server.ask('writer', 'POST', '~/items', {
        type: 'concept',
        title: 'Pile driver',
        folder: '',
      })
    ).json<Item>();
    const body =
      '<conbody><p product="tern-d">Deep.</p><p product="tern-q tern-d">Both.</p></conbody>';
    await server.ask('writer', 'PUT', `~/items/${made.id}`, {
      text: made.text.replace(/<conbody[^]*<\/conbody>|<conbody\/>/u, body),
      version: 1,
    });
    const socket = await server.app.injectWS(`/api/projects/${server.project}/live/${made.id}`, {
      headers: { cookie: await server.cookieOf('writer') },
    });
    const heard: { kind: string; steps?: unknown[] }[] = [];
    socket.on('message', (data: { toString(): string }) =>
      heard.push(JSON.parse(data.toString()) as (typeof heard)[number]),
    );
    socket.send(JSON.stringify({ kind: 'open', client: 'here' }));
    await expect.poll(() => heard.some(({ kind }) => kind === 'document')).toBe(true);

    const before = await read();
    const old = (await useOf('tern-d'))!;
    const texts = new Map(
      await Promise.all(
        (await server.ask('reader', 'GET', '~/facets/uses/product/tern-d'))
          .json<Item[]>()
          .map(async ({ id }) => [id, await text(id)] as const),
      ),
    );
    expect([...texts.keys()]).toContain(made.id);
    const rename = { version: before.version, facet: 'product', from: 'tern-d', to: 'tern-deep' };
    const { list, changed } = (
      await server.ask('publisher', 'POST', '~/facets/rename', rename)
    ).json<{ list: FacetList; changed: string[] }>();
    expect(list.version).toBe(before.version + 1);
    expect(changed.toSorted()).toEqual([...texts.keys()].toSorted());
    expect(
      list.facets.find(({ name }) => name === 'product')!.values.map(({ name }) => name),
    ).toEqual(['tern-q', 'tern-deep']);
    expect(
      (await server.services.editions.lenses(server.project))
        .flatMap(({ rules }) => rules)
        .some(({ value }) => value === 'tern-d'),
    ).toBe(false);
    expect(await useOf('tern-d')).toBeUndefined();
    expect(await useOf('tern-deep')).toMatchObject({ count: old.count, items: old.items });
    for (const [id, was] of texts)
      expect(await text(id), id).toBe(was.replaceAll('tern-d', 'tern-deep'));
    await expect
      .poll(() =>
        heard.some(
          ({ kind, steps }) => kind === 'steps' && JSON.stringify(steps).includes('tern-deep'),
        ),
      )
      .toBe(true);

    expect((await server.ask('publisher', 'POST', '~/facets/rename', rename)).json()).toMatchObject(
      { code: 'facets.no-value' },
    );
    expect(
      (
        await server.ask('publisher', 'POST', '~/facets/rename', {
          ...rename,
          from: 'tern-deep',
          to: 'tern-d',
        })
      ).json(),
    ).toMatchObject({ code: 'facets.conflict' });
    const back = { ...rename, version: list.version, from: 'tern-deep', to: 'tern-d' };
    expect((await server.ask('publisher', 'POST', '~/facets/rename', back)).statusCode).toBe(200);
    for (const [id, was] of texts) expect(await text(id), id).toBe(was);
    socket.close();
  });
});

describe('uses', () => {
  const reach = async (query: string) =>
    (await server.ask('reader', 'GET', `~/uses?${query}`)).json<Reach>();
  it('report the maps and editions that they reach, through borrowing and sub-maps', async () => {
    const safety = await reach('id=safety');
    expect(safety.uses.some(({ manner, part }) => manner === 'borrowed' && part !== '')).toBe(true);
    expect(safety.maps.map(({ id }) => id)).toContain('installation-manual');
    expect(safety.editions.map(({ name }) => name)).toContain('Tern Q Installation Manual');
    const key = await reach('of=key&id=product');
    expect(new Set(key.uses.map(({ manner }) => manner))).toEqual(new Set(['key', 'defined']));
    expect((await reach('id=none')).uses).toEqual([]);
  });
  it('cannot be deleted while used, or are replaced, also in texts open for writing', async () => {
    const make = async (title: string) =>
      (await server.ask('writer', 'POST', '~/items', { type: 'concept', title })).json<Item>();
    const [old, fresh, user, live] = [
      await make('Old clamp'),
      await make('New clamp'),
      await make('Names the clamp'),
      await make('Names it live'),
    ];
    const put = async ({ id, version }: Item, body: string) =>
      server.ask('writer', 'PUT', `~/items/${id}`, {
        text: `<concept id="${id}"><title>${id}</title><conbody>${body}</conbody></concept>`,
        version,
      });
    await put(old, '<p id="x">old</p><p id="y">only here</p>');
    await put(fresh, '<p id="x">new</p>');
    await put(user, '<p conref="topic:old-clamp/x"/><p><xref href="topic:old-clamp/y"/></p>');
    await put(live, '<p><xref href="topic:old-clamp"/></p>');
    const socket = await server.app.injectWS(`/api/projects/${server.project}/live/${live.id}`, {
      headers: { cookie: await server.cookieOf('writer') },
    });
    const heard: string[] = [];
    socket.on('message', (data: { toString(): string }) => heard.push(data.toString()));
    socket.send(JSON.stringify({ kind: 'open', client: 'here' }));
    await expect
      .poll(() => heard.some((message) => message.includes('"kind":"document"')))
      .toBe(true);
    expect((await server.ask('writer', 'DELETE', '~/items/old-clamp')).json()).toMatchObject({
      code: 'item.used',
      message: expect.stringContaining('“names-the-clamp”') as string,
    });
    expect(
      (await server.ask('writer', 'DELETE', '~/items/installation-manual')).json(),
    ).toMatchObject({
      code: 'item.used',
      message: expect.stringContaining('Tern Q Installation Manual') as string,
    });
    for (const by of ['none', 'installation-manual'])
      expect((await server.ask('writer', 'DELETE', `~/items/old-clamp?by=${by}`)).statusCode).toBe(
        404,
      );
    expect(
      (await server.ask('writer', 'DELETE', '~/items/old-clamp?by=new-clamp')).statusCode,
    ).toBe(204);
    const text = async (id: string) =>
      (await server.ask('reader', 'GET', `~/items/${id}`)).json<Item>().text;
    expect(await text(user.id)).toContain('conref="topic:new-clamp/x"');
    expect(await text(user.id)).toContain('href="topic:new-clamp"');
    expect(await text(live.id)).toContain('href="topic:new-clamp"');
    await expect
      .poll(() =>
        heard.some(
          (message) => message.includes('"kind":"steps"') && message.includes('topic:new-clamp'),
        ),
      )
      .toBe(true);
    socket.terminate();
    expect((await reach('id=new-clamp')).uses).toHaveLength(3);
    for (const { id } of [user, live, fresh])
      expect((await server.ask('writer', 'DELETE', `~/items/${id}`)).statusCode).toBe(204);
  });
});

describe('questions about the whole library', () => {
  it('tell how each topic appears in each edition, and by which rule not', async () => {
    const { editions } = (await server.ask('reader', 'GET', '~/appearances')).json<Appearances>();
    const cellsOf = (name: string) => editions.find((edition) => edition.name === name)!.cells;
    const manual = cellsOf('Tern Q Installation Manual');
    expect(manual['raise-the-mast']).toMatchObject({
      how: 'shown',
      number: expect.stringMatching(/^3\.\d$/u) as string,
      detail: 'Raise the mast',
      places: 1,
    });
    expect(
      Object.values(manual).some(
        ({ how, detail }) => how === 'dropped' && /which “.+” drops/u.test(detail),
      ),
    ).toBe(true);
  });
  it('tell what would be unfit for some reader, and see what has just been written', async () => {
    const edition = (await server.ask('reader', 'GET', '~/editions'))
      .json<Edition[]>()
      .find(({ name }) => name === 'Tern Q Installation Manual')!;
    const check = async () =>
      (await server.ask('reader', 'GET', `~/editions/${edition.id}/readers`)).json<ReaderCheck>();
    const before = await check();
    const item = (await server.ask('reader', 'GET', '~/items/raise-the-mast')).json<Item>();
    await server.ask('writer', 'PUT', '~/items/raise-the-mast', {
      text: item.text.replace(/<step>/gu, '<step platform="mains">'),
      version: item.version,
    });
    const now = await check();
    expect(
      now.problems.filter(
        ({ code, where }) => code === 'readers.empty-list' && where.item === 'raise-the-mast',
      ),
    ).toHaveLength(1);
    const changed = (await server.ask('reader', 'GET', '~/items/raise-the-mast')).json<Item>();
    await server.ask('writer', 'PUT', '~/items/raise-the-mast', {
      text: item.text,
      version: changed.version,
    });
    expect((await check()).problems).toEqual(before.problems);
    expect((await server.ask('reader', 'GET', `~/editions/${nowhere}/readers`)).statusCode).toBe(
      404,
    );
  });
});

describe('copies', () => {
  it('are found, become one shared passage at once, and are found no more', async () => {
    const sentence =
      'Hang the spare swivel on the second hook from the door and write the day into the ' +
      'book of the store';
    const make = async (title: string, body: string): Promise<string> => {
      const { id } = (
        await server.ask('writer', 'POST', '~/items', { type: 'concept', title })
      ).json<Item>();
      await server.ask('writer', 'PUT', `~/items/${id}`, {
        text: `<concept id="${id}"><title>${title}</title><conbody>${body}</conbody></concept>`,
        version: 1,
      });
      return id;
    };
    const other = (name: string): string =>
      Array.from({ length: 40 }, (_, at) => `${name}${at}`).join(' ');
    const first = await make(
      'Store one',
      `<p platform="mains">${sentence}.</p><p>${other('a')}</p>`,
    );
    const second = await make(
      'Store two',
      `<p>${other('b')}</p><section><title>S</title>` +
        `<p id="keep" product="tern-d">${sentence.replace('store', 'shed')}.</p>` +
        `<p>${sentence}!</p></section>`,
    );
    const groupsOf = async (): Promise<CopyGroup[]> =>
      (await server.ask('reader', 'GET', '~/copies'))
        .json<CopyReport>()
        .groups.filter(({ copies }) => copies.some(({ item }) => item === first));
    const [group, ...others] = await groupsOf();
    expect(others).toEqual([]);
    expect(group).toMatchObject({ name: 'p', same: false });
    expect(group!.copies.map(({ item }) => item)).toEqual([first, second, second]);
    const share = (copies: CopyGroup['copies'], kept: number) =>
      server.ask('writer', 'POST', '~/copies/share', { title: 'The spare swivel', copies, kept });
    expect(
      (
        await share(
          group!.copies.map((copy) => ({ ...copy, words: 'else' })),
          0,
        )
      ).json(),
    ).toMatchObject({ code: 'copies.changed' });
    expect((await share(group!.copies, 0)).json()).toEqual({
      lender: 'the-spare-swivel',
      shared: 3,
    });
    const text = async (id: string): Promise<string> =>
      (await server.ask('reader', 'GET', `~/items/${id}`)).json<Item>().text;
    expect(await text('the-spare-swivel')).toContain(`${sentence}.`);
    const conref = /conref="(topic:the-spare-swivel\/[^"]+)"/u.exec(await text(first))![1]!;
    expect(await text(second)).toContain(`<p id="keep" conref="${conref}" product="tern-d"/>`);
    // For whom the kept one was goes on holding for its own place, and for no other.
    expect(await text(first)).toContain(`<p conref="${conref}" platform="mains"/>`);
    expect(await text('the-spare-swivel')).not.toContain('mains');
    expect((await text(second)).match(/conref/gu)).toHaveLength(2);
    expect(await groupsOf()).toEqual([]);
    for (const id of [first, second, 'the-spare-swivel'])
      expect((await server.ask('writer', 'DELETE', `~/items/${id}`)).statusCode).toBe(204);
  });
});

describe('lenses', () => {
  it('take decisions of several people at once and lose none', async () => {
    const { id } = (
      await server.ask('publisher', 'POST', '~/lenses', { name: 'Crowded' })
    ).json<Lens>();
    const values = ['tern-q', 'tern-d', 'mains', 'solar', 'kisara'];
    await Promise.all(
      values.map((value) =>
        server.ask('publisher', 'POST', `~/lenses/${id}/decisions`, {
          facet: 'product',
          value,
          action: 'drop',
        }),
      ),
    );
    await server.ask('publisher', 'POST', `~/lenses/${id}/decisions`, {
      facet: 'product',
      value: 'mains',
    });
    const lens = (
      await server.ask('publisher', 'PUT', `~/lenses/${id}`, { name: 'Still crowded' })
    ).json<Lens>();
    expect(lens.name).toBe('Still crowded');
    expect(lens.rules.map(({ value }) => value).toSorted()).toEqual(
      values.filter((value) => value !== 'mains').toSorted(),
    );
    const { body, headers } = await server.ask('reader', 'GET', `~/lenses/${id}/ditaval`);
    expect(body).toContain('<prop action="exclude" att="product" val="kisara"/>');
    expect(headers['content-disposition']).toContain('Still%20crowded.ditaval');
    expect((await server.ask('publisher', 'DELETE', `~/lenses/${id}`)).statusCode).toBe(204);
    expect((await server.ask('publisher', 'DELETE', `~/lenses/${id}`)).statusCode).toBe(404);
  });
  it('hold others behind them, which then stay, and are given out as one', async () => {
    const make = async (name: string) =>
      (await server.ask('publisher', 'POST', '~/lenses', { name })).json<Lens>();
    const [front, behind] = [await make('Front'), await make('Behind')];
    await server.ask('publisher', 'POST', `~/lenses/${behind.id}/decisions`, {
      facet: 'product',
      value: 'tern-d',
      action: 'mark',
      look: { color: '#b93a25', start: 'D:' },
    });
    expect(
      (
        await server.ask('publisher', 'PUT', `~/lenses/${front.id}`, { through: [behind.id] })
      ).json(),
    ).toMatchObject({ name: 'Front', through: [behind.id] });
    expect((await server.ask('reader', 'GET', `~/lenses/${front.id}/ditaval`)).body).toContain(
      'color="#b93a25"',
    );
    expect((await server.ask('publisher', 'DELETE', `~/lenses/${behind.id}`)).json()).toMatchObject(
      { code: 'lens.used' },
    );
    expect(
      (
        await server.ask('publisher', 'POST', `~/lenses/${front.id}/decisions`, {
          action: 'mark',
          look: { color: 'url(x)' },
        })
      ).statusCode,
    ).toBe(400);
    for (const { id } of [front, behind])
      expect((await server.ask('publisher', 'DELETE', `~/lenses/${id}`)).statusCode).toBe(204);
  });
  it('are imported with problems for what cannot be used, and kept while in use', async () => {
    const text =
      '<val><prop att="audience" val="operator" action="exclude"/>' +
      '<prop att="audience" val="operator" action="include"/><prop action="explode"/>' +
      '<revprop action="flag"/></val>';
    const taken = (
      await server.ask('publisher', 'POST', '~/lenses/ditaval', { name: '4.1 only', text })
    ).json<{ lens: Lens; problems: { code: string }[] }>();
    expect(taken.lens.id).toBe('lens-4-1-only');
    expect(taken.problems.map(({ code }) => code)).toContain('ditaval.unknown-action');
    expect(
      (
        await server.ask('publisher', 'POST', '~/lenses/ditaval', { name: 'x', text: '<map/>' })
      ).json(),
    ).toMatchObject({ code: 'lens.unreadable' });
    expect(
      (await server.ask('publisher', 'DELETE', '~/lenses/installer-tern-q')).json(),
    ).toMatchObject({ code: 'lens.used' });
    await server.ask('publisher', 'DELETE', `~/lenses/${taken.lens.id}`);
  });
});

describe('templates', () => {
  it('are made and changed by administrators; every writer can start from them', async () => {
    const made = (
      await server.ask('administrator', 'POST', '~/items', {
        type: 'task',
        title: 'Swap a part',
        folder: 'templates',
      })
    ).json<Item>();
    const text = made.text.replace(
      /<cmd>[^]*?<\/cmd>/u,
      '<cmd>Take out the <?placeholder part?>.</cmd>',
    );
    expect(
      (await server.ask('publisher', 'PUT', `~/items/${made.id}`, { text, version: 1 })).statusCode,
    ).toBe(403);
    expect(
      (await server.ask('administrator', 'PUT', `~/items/${made.id}`, { text, version: 1 }))
        .statusCode,
    ).toBe(200);
    expect((await server.ask('writer', 'DELETE', `~/items/${made.id}`)).statusCode).toBe(403);
    const begun = (
      await server.ask('writer', 'POST', '~/items', {
        type: 'concept',
        title: 'Swap the battery',
        folder: '',
        template: made.id,
      })
    ).json<Item>();
    expect(begun).toMatchObject({
      type: 'task',
      title: 'Swap the battery',
      id: 'swap-the-battery',
    });
    expect(begun.text).toContain('<cmd>Take out the <?placeholder part?>.</cmd>');
    expect(
      (
        await server.ask('writer', 'POST', '~/items', {
          type: 'concept',
          title: 'From nothing',
          folder: '',
          template: 'nowhere',
        })
      ).statusCode,
    ).toBe(404);
    for (const id of [begun.id, made.id])
      await server.ask('administrator', 'DELETE', `~/items/${id}`);
  });
});

describe('topics', () => {
  const read = async (id: string): Promise<Item> =>
    (await server.ask('writer', 'GET', `~/items/${id}`)).json<Item>();

  it('are listed in pages, filtered by folder, kind and words', async () => {
    const page = (
      await server.ask('reader', 'GET', '~/items?limit=5&kind=topic&type=task')
    ).json<ItemPage>();
    expect(page.total).toBeGreaterThan(20);
    expect(page.items).toHaveLength(5);
    expect(page.items.every(({ type }) => type === 'task')).toBe(true);
    const found = (
      await server.ask(
        'reader',
        'GET',
        `~/items?search=${encodeURIComponent('quay wall" OR 1=1 -- %')}`,
      )
    ).json<ItemPage>();
    expect(found.total).toBeLessThan(10);
    expect(
      (await server.ask('reader', 'GET', '~/items?search=mussels'))
        .json<ItemPage>()
        .items.map(({ id }) => id),
    ).toContain('clean-the-well');
    expect(
      (await server.ask('reader', 'GET', '~/items?folder=topics/wiring')).json<ItemPage>().total,
    ).toBe(10);
    expect((await server.ask('reader', 'GET', '~/folders')).json()).toContainEqual({
      folder: 'topics/wiring',
      count: 10,
    });
  });

  it('start from a template, keep their history, and are not overwritten unasked', async () => {
    const made = (
      await server.ask('writer', 'POST', '~/items', {
        type: 'task',
        title: 'Wind the clock',
        folder: 'topics/new',
      })
    ).json<Item>();
    expect(made).toMatchObject({
      id: 'wind-the-clock',
      version: 1,
      type: 'task',
      updatedBy: 'Noor Haddad',
    });
    const text = made.text.replace('Wind the clock', 'Wind the <b>old</b> clock');
    const saved = (
      await server.ask('writer', 'PUT', '~/items/wind-the-clock', { text, version: 1 })
    ).json<Item>();
    expect(saved).toMatchObject({ version: 2, title: 'Wind the old clock' });
    const conflict = await server.ask('publisher', 'PUT', '~/items/wind-the-clock', {
      text: made.text,
      version: 1,
    });
    expect(conflict.statusCode).toBe(409);
    expect(conflict.json()).toMatchObject({ code: 'item.conflict', current: { version: 2 } });
    expect(
      (await server.ask('reader', 'GET', '~/items/wind-the-clock/revisions')).json(),
    ).toMatchObject([{ version: 2, author: 'Noor Haddad' }, { version: 1 }]);
    expect(
      (await server.ask('reader', 'GET', '~/items/wind-the-clock/revisions/1')).json(),
    ).toEqual({ text: made.text });
    expect(
      (
        await server.ask('writer', 'POST', '~/items', {
          type: 'task',
          title: 'Wind the clock',
          folder: 'topics/new',
        })
      ).json<Item>().id,
    ).toBe('wind-the-clock-2');
    expect((await server.ask('writer', 'DELETE', '~/items/wind-the-clock-2')).statusCode).toBe(204);
  });

  it('that were removed and come again go on with their history', async () => {
    const made = (
      await server.ask('writer', 'POST', '~/items', {
        type: 'concept',
        title: 'Phoenix',
        folder: '',
      })
    ).json<Item>();
    expect(made).toMatchObject({ id: 'phoenix', version: 1 });
    await server.ask('writer', 'DELETE', '~/items/phoenix');
    expect(
      (
        await server.ask('writer', 'POST', '~/items', {
          type: 'concept',
          title: 'Phoenix',
          folder: '',
        })
      ).json<Item>(),
    ).toMatchObject({ id: 'phoenix', version: 2 });
    expect((await server.ask('reader', 'GET', '~/items/phoenix/revisions')).json()).toMatchObject([
      { version: 2 },
      { version: 1 },
    ]);
    await server.ask('writer', 'DELETE', '~/items/phoenix');
  });

  it('that two people save at the same moment are saved once', async () => {
    const { text, version } = await read('care-plan');
    const answers = await Promise.all(
      ['one', 'two', 'three'].map((word) =>
        server.ask('writer', 'PUT', '~/items/care-plan', {
          text: text.replace('Care plan', `Care plan ${word}`),
          version,
        }),
      ),
    );
    expect(answers.map(({ statusCode }) => statusCode).sort()).toEqual([200, 409, 409]);
    await server.ask('writer', 'PUT', '~/items/care-plan', { text, version: version + 1 });
  });

  it('are kept when they are not valid, and even when they are not well-formed', async () => {
    const made = (
      await server.ask('writer', 'POST', '~/items', {
        type: 'concept',
        title: 'Broken',
        folder: '',
      })
    ).json<Item>();
    const invalid =
      '<concept id="broken"><title>Broken</title><conbody><step/></conbody></concept>';
    expect(
      (
        await server.ask('writer', 'PUT', '~/items/broken', {
          text: invalid,
          version: made.version,
        })
      ).json<Item>().problems.error,
    ).toBeGreaterThan(0);
    const torn = '<concept id="broken"><title>Broken';
    expect(
      (
        await server.ask('writer', 'PUT', '~/items/broken', { text: torn, version: 2 })
      ).json<Item>(),
    ).toMatchObject({ text: torn, problems: { error: 1 } });
    await server.ask('writer', 'DELETE', '~/items/broken');
  });

  it('that vary by a value which is in no list say so', async () => {
    const { facets } = (await server.ask('reader', 'GET', '~/facets')).json<FacetList>();
    expect(facets.map(({ name }) => name)).toEqual([
      'audience',
      'product',
      'platform',
      'country',
      'release',
    ]);
    const { text, version } = await read('clean-the-well');
    const change = { text: text.replace('<p>', '<p product="Tern Q">'), version };
    expect(
      (await server.ask('writer', 'PUT', '~/items/clean-the-well', change)).json<Item>().problems
        .warning,
    ).toBe(2);
    await server.ask('writer', 'PUT', '~/items/clean-the-well', { text, version: version + 1 });
  });

  it('say where they are used', async () => {
    const uses = (await server.ask('reader', 'GET', '~/uses?id=safety'))
      .json<Reach>()
      .uses.map(({ item }) => item.id);
    expect(uses).toEqual(
      expect.arrayContaining(['fit-the-bracket', 'installation-manual', 'help']),
    );
  });

  it('refuse folders and ids that lead elsewhere', async () => {
    for (const folder of ['../x', '/etc', 'a//b', 'a/./b', 'a\\b'])
      expect(
        (await server.ask('writer', 'POST', '~/items', { type: 'concept', title: 'X', folder }))
          .statusCode,
        folder,
      ).toBe(400);
    expect((await server.ask('reader', 'GET', '~/items/..%2f..%2fetc')).statusCode).toBe(400);
  });
});

describe('files that come in', () => {
  const boundary = 'x-boundary';
  async function send(
    name: string,
    parts: Iterable<Buffer>,
  ): Promise<{
    statusCode: number;
    body: { code?: string; message?: string; mediaType?: string };
  }> {
    function* payload(): Generator<Buffer> {
      yield Buffer.from(
        `--${boundary}\r\nContent-Disposition: form-data; name="file"; filename="${name}"\r\n` +
          'Content-Type: video/mp4\r\n\r\n',
      );
      yield* parts;
      yield Buffer.from(`\r\n--${boundary}--\r\n`);
    }
    const headers = {
      cookie: await server.cookieOf('writer'),
      'content-type': `multipart/form-data; boundary=${boundary}`,
    };
    const answer = await server.app.inject({
      method: 'POST',
      url: `/api/projects/${server.project}/assets`,
      headers,
      payload: Readable.from(payload()),
    });
    return { statusCode: answer.statusCode, body: answer.json() };
  }
  const start = Buffer.concat([
    Buffer.from([0, 0, 0, 24]),
    Buffer.from('ftypmp42'),
    Buffer.alloc(12),
  ]);

  it('have the type of their bytes; a video over the limit is refused plainly', async () => {
    expect(await send('low tide.mp4', [start])).toMatchObject({
      statusCode: 201,
      body: { id: 'low-tide', mediaType: 'video/mp4' },
    });
    expect(
      await send('tide.webm', [
        Buffer.concat([Buffer.from([0x1a, 0x45, 0xdf, 0xa3]), Buffer.from('\u0001webm')]),
      ]),
    ).toMatchObject({ statusCode: 201, body: { mediaType: 'video/webm' } });
    expect(await send('tide.mp4', [Buffer.from('MZ program')])).toMatchObject({
      statusCode: 422,
      body: { code: 'image.unreadable' },
    });
    const megabyte = Buffer.alloc(1024 * 1024);
    const large = (function* () {
      yield start;
      for (let count = 0; count < 200; count += 1) yield megabyte;
    })();
    expect(await send('long.mp4', large)).toMatchObject({
      statusCode: 413,
      body: { code: 'file-too-large', message: '“long.mp4” is larger than 200 MB.' },
    });
  });
});

describe('packages', () => {
  const upload = async (
    role: 'publisher' | 'writer',
    bytes: Buffer,
  ): Promise<{ statusCode: number; report: ImportReport }> => {
    const boundary = 'x-boundary';
    const payload = Buffer.concat([
      Buffer.from(
        `--${boundary}\r\nContent-Disposition: form-data; name="file"; ` +
          'filename="library.zip"\r\nContent-Type: application/zip\r\n' +
          '\r\n',
      ),
      bytes,
      Buffer.from(`\r\n--${boundary}--\r\n`),
    ]);
    const headers = {
      cookie: await server.cookieOf(role),
      'content-type': `multipart/form-data; boundary=${boundary}`,
    };
    const answer = await server.app.inject({
      method: 'POST',
      url: `/api/projects/${server.project}/package`,
      headers,
      payload,
    });
    return { statusCode: answer.statusCode, report: answer.json<ImportReport>() };
  };

  it('are exported as a zip of DITA; an import leaves and reports what exists', async () => {
    const answer = await server.ask('reader', 'GET', '~/package');
    expect(answer.headers['content-type']).toBe('application/zip');
    const before = (await server.ask('reader', 'GET', '~/items?limit=1')).json<ItemPage>().total;
    const { statusCode, report } = await upload('publisher', answer.rawPayload);
    expect(statusCode).toBe(200);
    expect(report).toMatchObject({ items: 0, assets: 0, lenses: 7 });
    const files = (await server.ask('reader', 'GET', '~/assets')).json<unknown[]>().length;
    const editions = (await server.ask('reader', 'GET', '~/editions')).json<unknown[]>().length;
    expect(report.problems.filter(({ code }) => code === 'package.exists').length).toBe(
      before + files + 5 + editions,
    );
    expect((await server.ask('reader', 'GET', '~/items?limit=1')).json<ItemPage>().total).toBe(
      before,
    );
  });

  it('bring in nothing at all when the database fails on the way', async () => {
    const scheme =
      '<subjectScheme><subjectdef keys="s"><subjectdef keys="calm"/></subjectdef>' +
      '<enumerationdef><attributedef name="weather"/><subjectdef keyref="s"/>' +
      '</enumerationdef></subjectScheme>';
    const files = new Map([
      ['weather.ditamap', strToU8(scheme)],
      ['storm.dita', strToU8('<concept id="storm"><title>Storm</title></concept>')],
    ]);
    // Without an author the row of the topic is refused by the database.
    await expect(
      server.services.packages.take(server.project, files, null as unknown as string),
    ).rejects.toThrow();
    expect(
      (await server.services.facets.read(server.project)).facets.map(({ name }) => name),
    ).not.toContain('weather');
    expect((await server.ask('reader', 'GET', '~/items/storm')).statusCode).toBe(404);
  });

  it('bring in what is new, and are refused whole when they are no packages', async () => {
    const zip = Buffer.from(
      zipSync({
        'more/extra.dita': strToU8(
          '<concept id="extra"><title>Extra</title><conbody><p><xref href="other.dita"/></p>' +
            '</conbody></concept>',
        ),
        'more/other.dita': strToU8('<concept id="other"><title>Other</title></concept>'),
      }),
    );
    expect((await upload('publisher', zip)).report).toMatchObject({
      items: 2,
      assets: 0,
      problems: [],
    });
    expect((await server.ask('reader', 'GET', '~/uses?id=other')).json()).toMatchObject({
      uses: [{ item: { id: 'extra' } }],
    });
    for (const id of ['extra', 'other']) await server.ask('writer', 'DELETE', `~/items/${id}`);
    expect(await upload('publisher', Buffer.from('no zip'))).toMatchObject({
      statusCode: 422,
      report: { code: 'zip.unreadable' },
    });
    expect((await upload('writer', zip)).statusCode).toBe(403);
  });
});

describe('images', () => {
  const type = (bytes: Buffer, claimed = 'application/octet-stream'): string => {
    const sanitised = sanitiseImage(bytes, claimed);
    return 'refusal' in sanitised ? 'refused' : sanitised.mediaType;
  };
  it('are what their first bytes say', () => {
    const png = Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAMAAAACCAYAAACddGYaAAAAD0lEQVR4nGP4z8DwHxkDAF/TBfvRpmmn' +
        'AAAAAElFTkSuQmCC',
      'base64',
    );
    expect(sanitiseImage(png, 'text/html')).toMatchObject({
      mediaType: 'image/png',
      width: 3,
      height: 2,
    });
    expect(type(Buffer.from('<html><script>alert(1)</script></html>'), 'image/png')).toBe(
      'refused',
    );
    expect(type(Buffer.from('MZ executable'), 'image/svg+xml')).toBe('refused');
    expect(type(Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><g></svg>'))).toBe('refused');
    expect(
      type(Buffer.from('<!DOCTYPE svg [<!ENTITY a "b">]><svg>&a;</svg>'), 'image/svg+xml'),
    ).toBe('refused');
  });
  it('drawn in SVG lose what could act or fetch and keep what draws', () => {
    const hostile =
      '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ' +
      'viewBox="0 0 20 10" onload="x()">' +
      '<script>x()</script><style>@import url(https://evil.example/x.css);</style>' +
      '<style>.a{fill:red}</style><a href="javascript:x()"><rect/></a>' +
      '<use xlink:href="https://evil.example/x.svg#a"/><use href="#ok"/>' +
      '<image href="data:image/svg+xml;base64,AAAA"/><foreignObject><iframe/></foreignObject>' +
      '<rect style="fill:url(https://evil.example)" fill="url(#ok)" onclick="x()"/>' +
      '<animate attributeName="href" to="javascript:x()"/></svg>';
    const sanitised = sanitiseImage(Buffer.from(hostile), 'image/svg+xml');
    if ('refusal' in sanitised) throw new Error(sanitised.refusal);
    const text = Buffer.from(sanitised.bytes).toString();
    expect(text).not.toMatch(/script|onload|onclick|evil|foreignObject|iframe|animate|<a[ >]/u);
    expect(text).toContain('.a{fill:red}');
    expect(text).toContain('<use href="#ok"/>');
    expect(text).toContain('fill="url(#ok)"');
    expect(sanitised).toMatchObject({ width: 20, height: 10 });
  });
});
