import type {
  Alternates,
  AssetPage,
  Edition,
  Item,
  ListedAsset,
  Variables,
} from '@ukiyo/contracts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestServer, type TestServer } from './testing.ts';

let server: TestServer;
beforeAll(async () => void (server = await startTestServer()));
afterAll(() => server.close());

const made = async (
  type: string,
  title: string,
  change: (text: string) => string = (text) => text,
): Promise<Item> => {
  const item = (await server.ask('writer', 'POST', '~/items', { type, title })).json<Item>();
  return (
    await server.ask('writer', 'PUT', `~/items/${item.id}`, {
      text: change(item.text),
      version: item.version,
      note: '',
    })
  ).json<Item>();
};
const textOf = async (id: string): Promise<string> =>
  (await server.ask('reader', 'GET', `~/items/${id}`)).json<Item>().text;
const body = (inner: string) => (text: string) =>
  text.replace(/<conbody>[\s\S]*<\/conbody>|<conbody\/>/u, `<conbody>${inner}</conbody>`);
const say = (key: string, markup: string, more: object = {}): object => ({
  kind: 'define',
  definition: { key, markup, choices: [], conditions: {}, ...more },
});
const inVelmark = { props: 'country(velmark)' };

const change = (set: string, asked: object) =>
  server.ask('writer', 'POST', `~/variables/${set}`, asked);

describe('variables', () => {
  it('are kept in sets that hold everywhere or in the maps that take them in', async () => {
    const { id: set } = await made('map', 'Berths');
    const { id: map } = await made('map', 'A map of its own');
    await change(set, say('berths', 'twelve <b>berths</b>'));
    await change(
      set,
      say('berths', 'two berths', { conditions: { product: 'tern-d' }, locale: 'de' }),
    );
    const held = (await change(set, { kind: 'held', map, on: true })).json<Variables>();
    expect(held.sets.find(({ id }) => id === set)).toEqual({
      id: set,
      title: 'Berths',
      everywhere: false,
      isSet: true,
      heldBy: [map],
    });
    expect(held.variables.filter(({ key }) => key === 'berths')).toMatchObject([
      { line: 'two berths', conditions: { product: 'tern-d' }, locale: 'de', isEntry: false },
      { line: 'twelve berths', markup: 'twelve <b>berths</b>', conditions: {} },
    ]);
    expect(await textOf(map)).toContain(
      `<mapref format="ditamap" href="map:${set}" processing-role="resource-only"/>`,
    );
    const everywhere = (await change(set, { kind: 'everywhere', on: true })).json<Variables>();
    expect(everywhere.sets.find(({ id }) => id === set)?.everywhere).toBe(true);
    await change(set, { kind: 'held', map, on: false });
    expect(await textOf(map)).not.toContain('mapref');
  });
  it('keep a definition while used; stale changes and unreadable files are refused', async () => {
    const { id: set } = await made('map', 'Lamps');
    const known = (await change(set, say('lamp', 'red'))).json<Variables>();
    await made('concept', 'Uses a lamp', body('<p><ph keyref="lamp"/></p>'));
    const at = { path: known.variables.find(({ key }) => key === 'lamp')!.path, key: 'lamp' };
    const refused = await change(set, { kind: 'remove', at });
    expect([refused.statusCode, refused.json<{ code: string }>().code]).toEqual([
      409,
      'variables.used',
    ]);
    expect(
      (await change(set, { ...say('lamp', 'green'), at: { ...at, key: 'another' } })).statusCode,
    ).toBe(409);
    expect(
      (await change(set, { ...say('lamp', 'green'), at }))
        .json<Variables>()
        .variables.find(({ key }) => key === 'lamp')?.line,
    ).toBe('green');
    for (const markup of ['<b>', '</linktext></topicmeta></keydef><topicref/>', '&evil;'])
      expect((await change(set, say('x', markup))).statusCode, markup).toBe(400);
    for (const key of ['', 'a b', 'a/b', '<x>'])
      expect((await change(set, say(key, 'x'))).statusCode, key).toBe(400);
    expect((await change('none', say('x', 'x'))).statusCode).toBe(409);
  });
});

describe('variables', () => {
  it('are renamed in definitions, texts, qualified names and editions at once', async () => {
    const { id: set } = await made('map', 'Buoys');
    await change(set, say('buoy', 'red buoy'));
    const { id: scoped } = await made('map', 'Scoped', (text) =>
      text.replace(
        '</map>',
        '<topicgroup keyscope="west"><keydef keys="buoy"/></topicgroup></map>',
      ),
    );
    const { id: topic } = await made(
      'concept',
      'Two buoys',
      body('<p><ph keyref="buoy"/> <ph keyref="west.buoy"/> <ph keyref="buoyant"/></p>'),
    );
    const edition = {
      name: 'Buoys',
      output: 'site',
      map: scoped,
      lens: null,
      variables: { buoy: 'blue', other: 'x' },
      locale: 'en',
    };
    const { id } = (await server.ask('publisher', 'POST', '~/editions', edition)).json<Edition>();
    const renamed = await server.ask('writer', 'POST', '~/variables/rename', {
      from: 'buoy',
      to: 'float',
    });
    expect(renamed.json<Variables>().uses['float']).toEqual({ count: 2, items: 2 });
    expect(await textOf(topic)).toContain(
      '<p><ph keyref="float"/> <ph keyref="west.float"/> <ph keyref="buoyant"/></p>',
    );
    expect(await textOf(scoped)).toContain('<keydef keys="float"/>');
    expect(
      (await server.ask('reader', 'GET', '~/editions'))
        .json<Edition[]>()
        .find((one) => one.id === id)?.variables,
    ).toEqual({ float: 'blue', other: 'x' });
    expect(
      (await server.ask('writer', 'POST', '~/variables/rename', { from: 'float', to: 'lamp' }))
        .statusCode,
    ).toBe(409);
    expect(
      (await server.ask('writer', 'POST', '~/variables/rename', { from: 'gone', to: 'x' }))
        .statusCode,
    ).toBe(404);
    expect(renamed.json<Variables>().undefined).toMatchObject([
      { key: 'buoyant', items: [{ id: topic }] },
    ]);
  });
});

describe('alternates', () => {
  it('are copies that know their base, one per readers, none of another alternate', async () => {
    const { id } = await made('concept', 'Radio manners', body('<p>Channel 12.</p>'));
    const { id: alternate } = (
      await server.ask('writer', 'POST', `~/items/${id}/alternates`, { conditions: inVelmark })
    ).json<{ id: string }>();
    expect(alternate).toBe('radio-manners-velmark');
    expect(await textOf(alternate)).toContain('props="country(velmark)"');
    const known = (
      await server.ask('reader', 'GET', `~/items/${alternate}/alternates`)
    ).json<Alternates>();
    expect(known).toMatchObject({
      base: { id, alternateOf: null },
      alternates: [
        {
          item: { id: alternate, alternateOf: id, conditions: inVelmark },
          isBehind: false,
          basedOn: 2,
        },
      ],
    });
    const again = async (of: string, conditions: object) =>
      (await server.ask('writer', 'POST', `~/items/${of}/alternates`, { conditions })).statusCode;
    expect([
      await again(id, { country: 'velmark' }),
      await again(alternate, { platform: 'solar' }),
      await again(id, {}),
      await again('none', inVelmark),
    ]).toEqual([409, 409, 400, 404]);
    // What others stand in for is not removed.
    expect((await server.ask('writer', 'DELETE', `~/items/${id}`)).statusCode).toBe(409);
  });
  it('tell that their base has changed until reviewed, and can be detached', async () => {
    const base = await made('concept', 'Plug shapes', body('<p>Two pins.</p>'));
    const { id } = (
      await server.ask('writer', 'POST', `~/items/${base.id}/alternates`, { conditions: inVelmark })
    ).json<{ id: string }>();
    await server.ask('writer', 'PUT', `~/items/${base.id}`, {
      text: base.text.replace('Two', 'Three'),
      version: base.version,
      note: '',
    });
    const state = async () =>
      (await server.ask('reader', 'GET', `~/items/${id}/alternates`)).json<Alternates>()
        .alternates[0];
    expect(await state()).toMatchObject({ isBehind: true, basedOn: base.version });
    await server.ask('writer', 'POST', `~/items/${id}/alternates/looked-at`, {});
    expect(await state()).toMatchObject({ isBehind: false, basedOn: base.version + 1 });
    expect(
      (await server.ask('writer', 'POST', `~/items/${id}/alternates/release`, {})).statusCode,
    ).toBe(204);
    expect(
      (await server.ask('reader', 'GET', `~/items/${id}`)).json<Item>().alternateOf,
    ).toBeNull();
    expect(
      (await server.ask('writer', 'POST', `~/items/${id}/alternates/release`, {})).statusCode,
    ).toBe(404);
  });
});

describe('alternates', () => {
  it('are made of near copies, which their base then replaces where they were used', async () => {
    const { id: base } = await made('concept', 'Hang the horn', body('<p id="x">Two screws.</p>'));
    const { id } = await made(
      'concept',
      'Hang the horn there',
      body('<p id="x">Three screws.</p>'),
    );
    const { id: map } = await made('map', 'Horns', (text) =>
      text.replace('</map>', `<topicref href="topic:${id}"/></map>`),
    );
    const { id: user } = await made('concept', 'About horns', body(`<p conref="topic:${id}/x"/>`));
    const stand = (self: string, of: string, conditions: object) =>
      server.ask('writer', 'POST', `~/items/${self}/stand-in`, { of, conditions });
    expect([
      (await stand(id, base, {})).statusCode,
      (await stand(id, 'none', inVelmark)).statusCode,
      (await stand(id, id, inVelmark)).statusCode,
    ]).toEqual([400, 404, 409]);
    expect((await stand(id, base, inVelmark)).json<Alternates>()).toMatchObject({
      base: { id: base },
      alternates: [{ item: { id, conditions: inVelmark }, isBehind: false, basedOn: 2 }],
    });
    expect(await textOf(id)).toContain('Three screws.');
    expect([await textOf(map), await textOf(user)]).toEqual([
      expect.stringContaining(`href="topic:${base}"`),
      expect.stringContaining(`conref="topic:${base}/x"`),
    ]);
    // One that has alternates, or is one, is none of another.
    expect([
      (await stand(base, user, { platform: 'solar' })).statusCode,
      (await stand(id, user, { platform: 'solar' })).statusCode,
      (await stand(user, base, inVelmark)).statusCode,
    ]).toEqual([409, 409, 409]);
  });
  it('of images are set for readers, and not for an image that stands in itself', async () => {
    const [one, other, third] = (await server.ask('reader', 'GET', '~/assets'))
      .json<AssetPage>()
      .assets.map(({ id }) => id);
    const stand = (id: string, of: string | null, conditions: object) =>
      server.ask('writer', 'PUT', `~/assets/${id}/alternate`, { of, conditions });
    const touched = (await stand(other!, one!, inVelmark)).json<ListedAsset[]>();
    expect(touched.find(({ id }) => id === other)).toMatchObject({
      alternateOf: one,
      conditions: inVelmark,
      alternates: [],
    });
    expect(touched.find(({ id }) => id === one)?.alternates).toEqual([
      { id: other, name: expect.any(String) as string, conditions: inVelmark },
    ]);
    expect([
      (await stand(third!, other!, inVelmark)).statusCode,
      (await stand(one!, third!, inVelmark)).statusCode,
      (await stand(third!, one!, {})).statusCode,
      (await stand(third!, 'none', inVelmark)).statusCode,
    ]).toEqual([409, 409, 400, 404]);
    const released = (await stand(other!, null, {})).json<ListedAsset[]>();
    expect(released.find(({ id }) => id === other)).toMatchObject({
      alternateOf: null,
      conditions: {},
    });
    expect(released.find(({ id }) => id === one)?.alternates).toEqual([]);
  });
});
