import { roles } from '@ukiyo/contracts';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startTestServer, type TestServer } from '../testing.ts';

/** An id that nothing has. */
const nowhere = '00000000-0000-4000-8000-000000000000';
let server: TestServer;
beforeAll(async () => void (server = await startTestServer()));
afterAll(() => server.close());

/** What each role may do: the whole table, against the running routes. */
const table: readonly [
  method: 'GET' | 'POST' | 'PUT' | 'DELETE',
  path: string,
  allowed: readonly string[],
  body?: object,
][] = [
  ['GET', '~/items', roles],
  ['POST', '~/summaries', roles, { ids: ['alarms'] }],
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
  ['GET', '~/live/alarms/document', roles],
  ['POST', '~/assets/summaries', roles, { ids: [] }],
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
