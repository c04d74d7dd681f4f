import type { FacetList, Item, Lens, ValueUse } from '@ukiyo/contracts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../testing.ts';

let server: TestServer;
beforeAll(async () => void (server = await startTestServer()));
afterAll(() => server.close());

const read = async (): Promise<FacetList> =>
  (await server.ask('reader', 'GET', '~/facets')).json<FacetList>();
const useOf = async (value: string) =>
  (await server.ask('reader', 'GET', '~/facets/uses'))
    .json<ValueUse[]>()
    .find((use) => use.value === value);
const text = async (id: string): Promise<string> =>
  (await server.ask('reader', 'GET', `~/items/${id}`)).json<Item>().text;

describe('facets', () => {
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
});

describe('facets', () => {
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
});

describe('lenses', () => {
  it('are imported with problems for what cannot be used, and kept while in use', async () => {
    const text =
      '<val><style-conflict foreground-conflict-color="red"/>' +
      '<prop att="audience" val="operator" action="exclude"/>' +
      '<prop att="audience" val="operator" action="include"/><prop action="explode"/>' +
      '<revprop action="flag"/></val>';
    const taken = (
      await server.ask('publisher', 'POST', '~/lenses/ditaval', { name: '4.1 only', text })
    ).json<{ lens: Lens; problems: { code: string }[] }>();
    expect(taken.lens.id).toBe('lens-4-1-only');
    expect(taken.problems.map(({ code }) => code)).toContain('ditaval.unknown-action');
    const { body } = await server.ask('reader', 'GET', `~/lenses/${taken.lens.id}/ditaval`);
    expect(body).toContain('foreground-conflict-color="#ff0000"');
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
