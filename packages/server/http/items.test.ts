import type { FacetList, Item, ItemPage, ItemSummary, Reach } from '@ukiyo/contracts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../testing.ts';

let server: TestServer;
beforeAll(async () => void (server = await startTestServer()));
afterAll(() => server.close());

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

const read = async (id: string): Promise<Item> =>
  (await server.ask('writer', 'GET', `~/items/${id}`)).json<Item>();
const listed = async (query: string): Promise<ItemPage> =>
  (await server.ask('reader', 'GET', `~/items?limit=500&${query}`)).json<ItemPage>();

describe('topics', () => {
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
      types: ['concept', 'reference', 'task'],
    });
  });
  it('are found by words of the title, those that begin with them first', async () => {
    const { items } = await listed('title=alarm');
    const begins = items.map(({ title }) => title.toLowerCase().startsWith('alarm'));
    expect(begins.indexOf(false)).toBeGreaterThan(1);
    expect(begins.lastIndexOf(true)).toBeLessThan(begins.indexOf(false));
    for (const { title, id, shortDescription } of items)
      expect(`${title} ${id} ${shortDescription}`.toLowerCase()).toContain('alarm');
    // In any order, and not by the signs that patterns are made of.
    expect((await listed('title=codes%20alarm')).items.map(({ title }) => title)).toContain(
      'Alarm codes',
    );
    expect((await listed('title=%25')).total).toBe(0);
  });
  it('are listed without what a lens drops as a whole, and without alternates', async () => {
    const all = await listed('kind=topic');
    const seen = await listed(`kind=topic&lens=installer-tern-q`);
    const dropped = all.items.filter(({ id }) => !seen.items.some((item) => item.id === id));
    const ids = dropped.map(({ id }) => id);
    expect(ids).toContain('set-the-pile-clamp');
    expect(ids).not.toContain('lower-the-sensor-head');
    for (const { conditions } of dropped) expect(conditions).not.toEqual({});
    expect(
      (await server.ask('reader', 'GET', '~/items?lens=00000000-0000-4000-8000-000000000000'))
        .statusCode,
    ).toBe(404);
    const bases = await listed('kind=topic&alternates=false');
    const alternates = all.items.filter(({ alternateOf }) => alternateOf !== null);
    expect(alternates.length).toBeGreaterThan(0);
    expect(bases.total).toBe(all.total - alternates.length);
    const base = alternates[0]!.alternateOf;
    const own = await listed(`alternatesOf=${base}`);
    expect(own.items.every((item) => item.alternateOf === base)).toBe(true);
    expect(all.items.find(({ id }) => id === base)!.alternates).toBe(own.total);
  });
  it('are summed up by ID, those that exist', async () => {
    const found = (
      await server.ask('reader', 'POST', '~/summaries', { ids: ['alarms', 'nothing', 'care-plan'] })
    ).json<ItemSummary[]>();
    expect(found.map(({ id }) => id).sort()).toEqual(['alarms', 'care-plan']);
    expect(found[0]).not.toHaveProperty('text');
    expect(
      (await server.ask('reader', 'POST', '~/summaries', { ids: ["x' OR 1=1"] })).statusCode,
    ).toBe(400);
  });
});

describe('topics', () => {
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
});

describe('topics', () => {
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
