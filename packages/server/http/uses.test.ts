import type { Item, Reach } from '@ukiyo/contracts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../testing.ts';

let server: TestServer;
beforeAll(async () => void (server = await startTestServer()));
afterAll(() => server.close());

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
