import { demoPassword } from '../index.ts';
import { permissionsOf } from '../access/roles.ts';
import { roles, type OwnSessions, type Role } from '@ukiyo/contracts';
import type { InjectOptions, LightMyRequestResponse } from 'fastify';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../testing.ts';

let server: TestServer;
beforeAll(async () => void (server = await startTestServer()));
afterAll(() => server.close());

interface Attempt {
  readonly email?: string;
  readonly password?: string;
  readonly from?: string;
  readonly cookies?: Record<string, string>;
}
const signIn = ({
  email = 'noor@brinewell.example',
  password = demoPassword,
  // Each test of guesses has addresses of its own: others must not wait for what it did.
  from = '10.0.0.1',
  cookies = {},
}: Attempt): Promise<LightMyRequestResponse> =>
  server.app.inject({
    method: 'POST',
    url: '/api/session',
    remoteAddress: from,
    payload: { email, password },
    cookies,
  });
const statuses = async (attempts: readonly Attempt[]): Promise<Map<number, number>> => {
  const answers = await Promise.all(attempts.map(signIn));
  const counts = new Map<number, number>();
  for (const { statusCode } of answers) counts.set(statusCode, (counts.get(statusCode) ?? 0) + 1);
  return counts;
};
const cookiesOf = (answer: LightMyRequestResponse): Record<string, string> =>
  Object.fromEntries(answer.cookies.map(({ name, value }) => [name, value]));

describe('every route', () => {
  it('lets in the roles whose permission it names, and nobody else', async () => {
    const routes = server.app.guarded;
    expect(routes.length).toBeGreaterThan(80);
    // Nothing of this id is there: the answer to those who are let in takes no time.
    const address = (url: string): string =>
      url.replace(/:\w+/gu, '00000000-0000-4000-8000-000000000000');
    const wrong: string[] = [];
    for (const { method, url, permission } of routes) {
      if (permission === 'anyone' || url.endsWith('/events') || url.includes('/live/')) continue;
      for (const role of [undefined, ...roles]) {
        const { statusCode } = await server.app.inject({
          method: method as NonNullable<InjectOptions['method']>,
          url: address(url),
          headers: {
            'content-type': 'application/json',
            ...(role === undefined ? {} : { cookie: await server.cookieOf(role) }),
          },
          // No route takes this: whoever is let in is told that the request is wrong, and changes
          // nothing.
          ...(method === 'GET' ? {} : { payload: '{"wrong":' }),
        });
        const isLetIn = role !== undefined && permissionsOf(role).has(permission);
        const expected = role === undefined ? statusCode === 401 : isLetIn !== (statusCode === 403);
        if (!expected) wrong.push(`${method} ${url} as ${role ?? 'a stranger'}: ${statusCode}`);
      }
    }
    expect(wrong).toEqual([]);
  }, 120_000);

  it('answers that nothing is there where the project or the thing is unknown', async () => {
    const unknown = '00000000-0000-4000-8000-00000000abcd';
    for (const { method, url, permission } of server.app.guarded) {
      if (method !== 'GET' || permission === 'anyone' || !url.includes(':project')) continue;
      const path = url.replace(':project', unknown).replace('*', 'x').replace(/:\w+/gu, unknown);
      const { statusCode } = await server.app.inject({
        url: path,
        headers: { cookie: await server.cookieOf('administrator') },
      });
      expect([400, 404], `${url}: ${statusCode}`).toContain(statusCode);
    }
  });

  it('refuses characters that cannot be stored', async () => {
    for (const title of ['Tide\u0000', 'Tide\ud800'])
      expect(
        (await server.ask('writer', 'POST', '~/items', { type: 'concept', title })).json(),
      ).toMatchObject({ code: 'bad-characters' });
    expect((await server.ask('reader', 'GET', '~/items?search=%00')).statusCode).toBe(400);
  });

  it('lets nothing private stay in a cache', async () => {
    for (const path of ['~/items', '~/items/alarms', '~/assets', '/session', '~/package'])
      expect((await server.ask('writer', 'GET', path)).headers['cache-control'], path).toBe(
        'no-store',
      );
  });
});

describe('requests', () => {
  it('from other sites change nothing', async () => {
    for (const origin of ['https://evil.example', 'null']) {
      const headers = { cookie: await server.cookieOf('writer'), origin, host: 'localhost' };
      const url = `/api/projects/${server.project}/items/alarms`;
      const { statusCode } = await server.app.inject({ method: 'DELETE', url, headers });
      expect(statusCode, origin).toBe(403);
    }
  });
});

describe('guessing passwords', () => {
  /** Makes every wait long, so that a slow machine does not outlast it. */
  const hold = (): Promise<unknown> =>
    server.services.database.sequelize.query(
      `UPDATE sign_in_attempts SET next_at = next_at + interval '1 hour'
       WHERE next_at > last_at + interval '0.5 seconds'`,
    );
  /** Ten at once, and one for each second or more that the rest takes. */
  const few = 20;
  it('looks at few of a hundred attempts that come at once', async () => {
    const wrong = Array.from({ length: 100 }, (_, index) => ({
      email: 'ada@brinewell.example',
      password: `guess ${index}`,
      from: '10.5.0.1',
    }));
    const counts = await statuses(wrong);
    expect(counts.get(401)).toBeLessThanOrEqual(few);
    expect(counts.get(429)).toBe(100 - counts.get(401)!);
  });
  it('counts for the account, from however many addresses', async () => {
    const wrong = Array.from({ length: 60 }, (_, index) => ({
      email: 'teo@brinewell.example',
      password: 'wrong',
      from: `10.1.0.${index % 7}`,
    }));
    expect((await statuses(wrong)).get(401)).toBeLessThanOrEqual(few);
  });
  it('treats an account that is not there as one that is', async () => {
    const wrong = Array.from({ length: 60 }, () => ({ email: 'nobody@brinewell.example' }));
    const counts = await statuses(
      wrong.map((one) => ({ ...one, password: 'x', from: '10.1.9.9' })),
    );
    expect(counts.get(401)).toBeLessThanOrEqual(few);
    expect(counts.get(429)).toBe(wrong.length - counts.get(401)!);
  });
  it('lets others in from the address of a guesser, and says how long to wait', async () => {
    const from = '10.2.0.1';
    const wrong = Array.from({ length: 30 }, () => ({
      email: 'yuki@brinewell.example',
      password: 'wrong',
      from,
    }));
    await statuses(wrong);
    await hold();
    const refused = await signIn({ ...wrong[0]!, password: demoPassword });
    expect(refused.statusCode).toBe(429);
    expect(Number(refused.headers['retry-after'])).toBeGreaterThanOrEqual(1);
    expect(refused.json<{ message: string }>().message).toMatch(/Try again in \d+ seconds?\./u);
    expect((await signIn({ email: 'ines@brinewell.example', from })).statusCode).toBe(200);
  });
  it('is not what a whole office does that comes to work at nine', async () => {
    const right = Array.from({ length: 14 }, () => ({ from: '10.4.0.1' }));
    for (const one of right) expect((await signIn(one)).statusCode).toBe(200);
  });
  it('does not keep the owner out of a browser in which they have signed in before', async () => {
    const email = 'mira@brinewell.example';
    const known = cookiesOf(await signIn({ email }));
    await statuses(
      Array.from({ length: 20 }, () => ({ email, password: 'wrong', from: '10.3.0.1' })),
    );
    await hold();
    expect((await signIn({ email })).statusCode).toBe(429);
    expect((await signIn({ email, cookies: known })).statusCode).toBe(200);
    // The mark of one person is of no use for another.
    expect((await signIn({ email: 'teo@brinewell.example', cookies: known })).statusCode).toBe(429);
  });
});

describe('sessions', () => {
  const session = async (cookies: Record<string, string>): Promise<number> =>
    (await server.app.inject({ url: '/api/session', cookies })).statusCode;

  it('are new with every sign-in, and the one before opens nothing any more', async () => {
    const first = cookiesOf(await signIn({}));
    const second = cookiesOf(await signIn({ cookies: first }));
    expect(second['ukiyo_session']).not.toBe(first['ukiyo_session']);
    expect([await session(first), await session(second)]).toEqual([401, 200]);
  });
  it('of a person are all ended at once', async () => {
    const email = 'noor@brinewell.example';
    const [first, second] = [
      cookiesOf(await signIn({ email })),
      cookiesOf(await signIn({ email })),
    ];
    const { id } = (await server.services.people.verified(email, demoPassword))!;
    expect(await server.services.sessions.endAll(id)).toBeGreaterThanOrEqual(2);
    expect([await session(first), await session(second)]).toEqual([401, 401]);
  });
  it('end when they are not used, and in any case after a while', async () => {
    const { sessions } = server.services.database.models;
    for (const change of [
      { usedAt: new Date(Date.now() - 25 * 3_600_000) },
      { expiresAt: new Date(Date.now() - 1000) },
    ]) {
      const cookies = cookiesOf(await signIn({}));
      expect(await session(cookies)).toBe(200);
      await sessions.update(change, { where: { agent: 'lightMyRequest' } });
      expect(await session(cookies)).toBe(401);
    }
  });
  it('are listed for the person whose they are, and ended by them alone', async () => {
    const email = 'ines@brinewell.example';
    const [mine, other] = [cookiesOf(await signIn({ email })), cookiesOf(await signIn({ email }))];
    const theirs = cookiesOf(await signIn({ email: 'noor@brinewell.example' }));
    const ask = (cookies: Record<string, string>, method: 'GET' | 'DELETE', path: string) =>
      server.app.inject({ method, url: `/api${path}`, cookies });
    const { current, sessions } = (await ask(mine, 'GET', '/sessions')).json<OwnSessions>();
    expect(sessions.map(({ id }) => id)).toContain(current);
    const another = (await ask(other, 'GET', '/sessions')).json<OwnSessions>().current;
    expect((await ask(theirs, 'DELETE', `/sessions/${another}`)).statusCode).toBe(404);
    expect(await session(other)).toBe(200);
    expect((await ask(mine, 'DELETE', `/sessions/${another}`)).statusCode).toBe(204);
    expect([await session(other), await session(mine)]).toEqual([401, 200]);
  });
  it('travel by https alone where the page does', async () => {
    const headers = { 'x-forwarded-proto': 'https', host: 'localhost' };
    const plain = await server.app.inject({ url: '/api/health', headers });
    expect(plain.headers['strict-transport-security']).toBeUndefined();
  });
});

describe('lines that stay open', () => {
  const lineAs = async (role: Role) => {
    const email = `${role}-line@brinewell.example`;
    const { people, sessions } = server.services;
    const person = await people.create({ name: role, email, password: demoPassword, role });
    const token = await sessions.create(person.id, 'a browser');
    const socket = await server.app.injectWS(`/api/projects/${server.project}/live/alarms`, {
      headers: { cookie: `ukiyo_session=${token}` },
    });
    const closed = new Promise<number>((resolve) => socket.on('close', resolve));
    return { person, closed };
  };
  /** The database tells of it by itself: no line waits for the next check of all lines. */
  const told = (person: string): Promise<void> =>
    new Promise((resolve) => {
      const hear = (id: string): void => {
        if (id !== person) return;
        server.queue.events.off('access', hear);
        resolve();
      };
      server.queue.events.on('access', hear);
    });
  const update = (change: object, id: string): Promise<unknown> =>
    server.services.database.models.people.update(change, { where: { id } });
  it.each([
    ['the session ends', 'reviewer', (id: string) => server.services.sessions.endAll(id)],
    ['the person is deactivated', 'translator', (id: string) => update({ active: false }, id)],
    ['the person gets another role', 'writer', (id: string) => update({ role: 'reader' }, id)],
  ] as const)('close when %s', async (_what, role, change) => {
    const { person, closed } = await lineAs(role);
    const heard = told(person.id);
    await change(person.id);
    await heard;
    expect(await closed).toBe(4401);
  });
});
