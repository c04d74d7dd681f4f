import { createHmac } from 'node:crypto';
import type {
  Edition,
  Impression,
  CreatedNotice,
  CreatedToken,
  Notice,
  Outbox,
  Token,
} from '@ukiyo/contracts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestServer, type TestServer } from './testing.ts';

let server: TestServer;
let edition: Edition;
beforeAll(async () => {
  server = await startTestServer();
  await server.queue.work();
  edition = (
    await server.ask('publisher', 'POST', '~/editions', {
      name: 'Interface',
      output: 'page',
      map: 'station-interface',
      lens: null,
    })
  ).json<Edition>();
});
afterAll(() => server.close());

const impressionsOf = async (id: string): Promise<Impression[]> =>
  (await server.ask('publisher', 'GET', '~/impressions'))
    .json<Impression[]>()
    .filter((one) => one.edition === id);
const ended = async (id: string): Promise<Impression> => {
  for (;;) {
    const now = (await server.ask('publisher', 'GET', `~/impressions/${id}`)).json<Impression>();
    if (!['queued', 'running'].includes(now.state)) return now;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
};
const start = async (body?: object): Promise<Impression> =>
  (
    await server.ask('publisher', 'POST', `~/editions/${edition.id}/impressions`, body)
  ).json<Impression>();
const outbox = async (): Promise<Outbox> =>
  (await server.ask('publisher', 'GET', '~/outbox')).json<Outbox>();
const withToken = (
  secret: string,
  method: 'GET' | 'POST' | 'PUT' | 'DELETE',
  path: string,
  payload?: object,
) =>
  server.app.inject({
    method,
    url: `/api${path.replace('~', `/projects/${server.project}`)}`,
    headers: { authorization: `Bearer ${secret}` },
    ...(payload ? { payload } : {}),
  });

describe('tokens', () => {
  const make = async (access: Token['access']): Promise<CreatedToken> =>
    (
      await server.ask('publisher', 'POST', '~/tokens', { name: `CI ${access}`, access })
    ).json<CreatedToken>();

  it('let a program build and read as its maker, and nothing beyond', async () => {
    const { id, secret } = await make('build');
    expect((await withToken(secret, 'GET', '/session')).json()).toMatchObject({
      person: { name: 'Teo Marsh', role: 'publisher' },
    });
    const { statusCode, body } = await withToken(
      secret,
      'POST',
      `~/editions/${edition.id}/impressions`,
    );
    expect([statusCode, (JSON.parse(body) as Impression).person]).toEqual([202, 'Teo Marsh']);
    await ended((JSON.parse(body) as Impression).id);
    expect((await withToken(secret, 'PUT', '~/agreements', {})).statusCode).toBe(403);
    for (const [method, path] of [
      ['GET', '~/tokens'],
      ['POST', '~/tokens'],
      ['DELETE', `~/tokens/${id}`],
      ['PUT', `~/impressions/${(JSON.parse(body) as Impression).id}/seal`],
      ['POST', '~/editions'],
      ['POST', '~/items'],
    ] as const)
      expect((await withToken(secret, method, path, {})).statusCode, path).toBe(403);
    const listed = (await server.ask('publisher', 'GET', '~/tokens'))
      .json<Token[]>()
      .find((one) => one.id === id)!;
    expect(listed.usedAt).not.toBeNull();
    expect(listed).not.toHaveProperty('secret');
  });
  it('only read where that is said', async () => {
    const { secret } = await make('read');
    expect((await withToken(secret, 'GET', '~/items')).statusCode).toBe(200);
    expect(
      (await withToken(secret, 'POST', `~/editions/${edition.id}/impressions`)).statusCode,
    ).toBe(403);
  });
  it('are worth nothing once they are taken back, and are seen by their maker alone', async () => {
    const { id, secret } = await make('build');
    expect((await server.ask('administrator', 'GET', '~/tokens')).json()).toEqual([]);
    expect((await server.ask('administrator', 'DELETE', `~/tokens/${id}`)).statusCode).toBe(404);
    expect((await server.ask('publisher', 'DELETE', `~/tokens/${id}`)).statusCode).toBe(204);
    for (const wrong of [secret, `${secret}x`, 'ukiyo_', 'x'])
      expect((await withToken(wrong, 'GET', '~/items')).statusCode, wrong).toBe(401);
  });
  it('grant no rights beside a wrong token, even with a session', async () => {
    const headers = {
      authorization: 'Bearer nonsense',
      cookie: await server.cookieOf('administrator'),
    };
    expect(
      (await server.app.inject({ url: `/api/projects/${server.project}/items`, headers }))
        .statusCode,
    ).toBe(401);
  });
});

const add = async (input: object): Promise<Notice & { secret: string }> => {
  const answer = await server.ask('publisher', 'POST', '~/notices', input);
  const { notice, secret } = answer.json<CreatedNotice>();
  return { ...notice, secret };
};

describe('messages', () => {
  it('tell the chosen receivers of a build, through a stand-in that says it is one', async () => {
    const letter = await add({
      kind: 'mail',
      to: 'harbour@brinewell.example',
      on: ['built', 'signed'],
    });
    const request = await add({
      kind: 'web',
      to: 'https://hooks.brinewell.example/build',
      on: ['built'],
      edition: edition.id,
    });
    const before = (await outbox()).messages.length;
    const { id, number } = await start();
    await ended(id);
    await expect.poll(async () => (await outbox()).messages.length).toBe(before + 2);
    const { isSimulated, messages } = await outbox();
    expect(isSimulated).toBe(true);
    const mail = messages.find(({ kind }) => kind === 'mail')!;
    expect(mail).toMatchObject({
      to: 'harbour@brinewell.example',
      subject: `Interface, number ${number}, was built`,
      signature: '',
    });
    expect(mail.body).toContain('Asked for by Teo Marsh.');
    const web = messages.find(({ kind }) => kind === 'web')!;
    expect(JSON.parse(web.body)).toMatchObject({
      event: 'built',
      name: 'Interface',
      number,
      state: 'done',
      problems: { error: 0 },
    });
    expect(web.signature).toBe(
      `sha256=${createHmac('sha256', request.secret).update(web.body).digest('hex')}`,
    );
    await server.ask('publisher', 'PUT', `~/impressions/${id}/seal`, { waived: [] });
    expect((await outbox()).messages.map(({ subject }) => subject)).toEqual(
      expect.arrayContaining([`Interface, number ${number}, was signed off`]),
    );
    expect((await outbox()).messages).toHaveLength(before + 3);
    // What signs a request is shown once, to whoever has added it.
    expect(request.secret).toMatch(/^[\w-]{32}$/u);
    expect((await server.ask('publisher', 'GET', '~/notices')).body).not.toContain(request.secret);
    for (const one of [letter, request])
      expect((await server.ask('publisher', 'DELETE', `~/notices/${one.id}`)).statusCode).toBe(204);
    await ended((await start()).id);
    expect((await outbox()).messages).toHaveLength(before + 3);
  });
  it('say why a build failed', async () => {
    const notice = await add({ kind: 'mail', to: 'harbour@brinewell.example', on: ['failed'] });
    const empty = (
      await server.ask('publisher', 'POST', '~/editions', {
        name: 'Empty',
        output: 'bundle',
        map: '',
        lens: null,
        holds: [],
      })
    ).json<Edition>();
    const { id } = (
      await server.ask('publisher', 'POST', `~/editions/${empty.id}/impressions`)
    ).json<Impression>();
    expect((await ended(id)).state).toBe('failed');
    await expect
      .poll(async () => (await outbox()).messages[0]?.subject)
      .toBe('Empty, number 1, could not be built');
    await server.ask('publisher', 'DELETE', `~/notices/${notice.id}`);
  });
});

describe('messages', () => {
  it('go to no address that is none', async () => {
    for (const to of ['nobody', 'javascript:alert(1)', 'file:///etc/passwd']) {
      expect(
        (await server.ask('publisher', 'POST', '~/notices', { kind: 'web', to, on: ['built'] }))
          .statusCode,
        to,
      ).toBe(400);
      expect(
        (await server.ask('publisher', 'POST', '~/notices', { kind: 'mail', to, on: ['built'] }))
          .statusCode,
        to,
      ).toBe(400);
    }
    expect(
      (
        await server.ask('publisher', 'POST', '~/notices', {
          kind: 'mail',
          to: 'a@b.example',
          on: [],
        })
      ).statusCode,
    ).toBe(400);
  });
});

describe('builds without anybody', () => {
  it('begin at the edition’s minute and no other; missed nights are made up for once', async () => {
    const builtBy = async (...times: Date[]): Promise<number> => {
      const before = (await impressionsOf(edition.id)).length;
      for (const now of times) await server.queue.buildDue(now);
      return (await impressionsOf(edition.id)).length - before;
    };
    const set = async (nightly: string) =>
      server.ask('publisher', 'PUT', `~/editions/${edition.id}`, { ...edition, nightly });
    // A time that is over when it is set has not been missed.
    const now = new Date();
    await set(
      [now.getHours(), now.getMinutes()].map((part) => `${part}`.padStart(2, '0')).join(':'),
    );
    expect(await builtBy(now)).toBe(0);
    await set('02:30');
    expect(
      await builtBy(
        new Date(2031, 2, 8, 12, 0),
        new Date(2031, 2, 8, 12, 1),
        new Date(2031, 2, 9, 2, 29, 59),
      ),
    ).toBe(1);
    expect(
      await builtBy(
        new Date(2031, 2, 9, 2, 30, 4),
        new Date(2031, 2, 9, 2, 31),
        new Date(2031, 2, 9, 14, 30),
      ),
    ).toBe(1);
    const [newest] = await impressionsOf(edition.id);
    expect(newest!.person).toBe('The clock');
    expect((await ended(newest!.id)).state).toBe('done');
    // A busy server looks late, and several look at once.
    const before = (await impressionsOf(edition.id)).length;
    await Promise.all([1, 2, 3].map(() => server.queue.buildDue(new Date(2031, 2, 10, 2, 33))));
    expect(await impressionsOf(edition.id)).toHaveLength(before + 1);
    // What else is saved of an edition is no reason to build it.
    await set('02:30');
    expect(await builtBy(new Date(2031, 2, 10, 9, 0))).toBe(0);
    expect(await builtBy(new Date(2031, 2, 14, 9, 0), new Date(2031, 2, 14, 9, 1))).toBe(1);
  });
  it('are asked for once a minute by the queue, whoever is there', async () => {
    const [rows] = await server.services.database.sequelize.query(
      'SELECT name, cron FROM pgboss.schedule',
    );
    expect(rows).toEqual([{ name: 'clock', cron: '* * * * *' }]);
  });
  it('are in another language where that is asked for, and built again in that', async () => {
    const { id } = await start({ locale: 'de' });
    const built = await ended(id);
    expect(built).toMatchObject({ locale: 'de', state: 'done' });
    expect(
      (await server.ask('reader', 'GET', `~/impressions/${id}/files/page.html`)).body,
    ).toContain('<html lang="de"');
    const again = (
      await server.ask('publisher', 'POST', `~/impressions/${id}/again`)
    ).json<Impression>();
    expect((await ended(again.id)).fingerprint).toBe(built.fingerprint);
    expect(
      (
        await server.ask('publisher', 'POST', `~/editions/${edition.id}/impressions`, {
          locale: 'no such',
        })
      ).statusCode,
    ).toBe(400);
  });
});
