import { Readable } from 'node:stream';
import type { AssetPage } from '@ukiyo/contracts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../testing.ts';

let server: TestServer;
beforeAll(async () => void (server = await startTestServer()));
afterAll(() => server.close());

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

describe('lists of images', () => {
  const list = async (query: string): Promise<AssetPage> =>
    (await server.ask('reader', 'GET', `~/assets?${query}`)).json<AssetPage>();
  const namesOf = ({ assets }: AssetPage): string[] => assets.map(({ name }) => name);

  it('come page by page, by name', async () => {
    const all = await list('limit=500');
    expect(all.total).toBe(all.assets.length);
    expect(namesOf(all)).toEqual(namesOf(all).toSorted((a, b) => (a < b ? -1 : 1)));
    const pages = [await list('limit=2'), await list('limit=2&offset=2')];
    expect(pages.flatMap(namesOf)).toEqual(namesOf(all).slice(0, 4));
    expect(pages.map(({ total }) => total)).toEqual([all.total, all.total]);
  });
  it('have what contains each typed word, and no sign is a wildcard', async () => {
    const [first] = (await list('limit=1')).assets;
    const words = first!.name.replace(/\..*$/u, '');
    expect(namesOf(await list(`name=${words.toUpperCase()}+svg`))).toContain(first!.name);
    expect((await list('name=%25')).total).toBe(0);
    expect((await list('name=no-such-image')).total).toBe(0);
  });
  it('have still images alone, or only what is played', async () => {
    const types = async (query: string): Promise<string[]> =>
      (await list(`limit=500&${query}`)).assets.map(({ mediaType }) => mediaType);
    const images = await types('media=image');
    const played = await types('media=played');
    expect(images.every((type) => type.startsWith('image/'))).toBe(true);
    expect(played.some((type) => type === 'video/mp4')).toBe(true);
    expect(images.length + played.length).toBe((await list('')).total);
  });
  it('are asked for by ID, with what can replace an image', async () => {
    const [one, other] = (await list('media=image')).assets;
    const conditions = { product: 'tern-q' };
    await server.ask('writer', 'PUT', `~/assets/${other!.id}/alternate`, {
      of: one!.id,
      conditions,
    });
    const ids = [one!.id, 'no-such-image'];
    const found = await server.ask('reader', 'POST', '~/assets/summaries', { ids });
    expect(found.json()).toMatchObject([
      { id: one!.id, alternates: [{ id: other!.id, name: other!.name, conditions }] },
    ]);
    expect(namesOf(await list('alternates=false&limit=500'))).not.toContain(other!.name);
    await server.ask('writer', 'PUT', `~/assets/${other!.id}/alternate`, {
      of: null,
      conditions: {},
    });
  });
});
