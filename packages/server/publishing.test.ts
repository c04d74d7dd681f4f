import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { constants, getPriority } from 'node:os';
import { join } from 'node:path';
import type {
  Agreements,
  Designs,
  Edition,
  Impression,
  ImpressionComparison,
  Item,
  LiveEvent,
} from '@ukiyo/contracts';
import { problemKey } from '@ukiyo/core/problems';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { createBuilder } from './jobs/builder.ts';
import { notify } from './data/notifying.ts';
import { startTestServer, type TestServer } from './testing.ts';

let server: TestServer;
beforeAll(async () => void (server = await startTestServer()));
afterAll(() => server.close());

const until = async <Value>(
  read: () => Promise<Value>,
  holds: (value: Value) => boolean,
): Promise<Value> => {
  for (;;) {
    const value = await read();
    if (holds(value)) return value;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
};

const impression = async (id: string): Promise<Impression> =>
  (await server.ask('publisher', 'GET', `~/impressions/${id}`)).json<Impression>();
const ended = ({ state }: Impression): boolean => state !== 'queued' && state !== 'running';
const editionNamed = async (name: string): Promise<Edition> =>
  (await server.ask('publisher', 'GET', '~/editions'))
    .json<Edition[]>()
    .find((one) => one.name === name)!;
const start = async (edition: string): Promise<Impression> =>
  (await server.ask('publisher', 'POST', `~/editions/${edition}/impressions`)).json<Impression>();
const build = async (edition: string): Promise<Impression> => {
  const { id } = await start(edition);
  return until(() => impression(id), ended);
};
beforeAll(() => server.queue.work());
/** A map of one topic, with an edition of it. */
async function small(
  id: string,
  body: string,
  more: object = {},
): Promise<{ readonly edition: Edition; readonly write: (body: string) => Promise<void> }> {
  const write = async (inner: string): Promise<void> => {
    const { version } = (await server.ask('writer', 'GET', `~/items/${id}`)).json<Item>();
    const saved = await server.ask('writer', 'PUT', `~/items/${id}`, {
      text: `<concept id="${id}"><title>The ${id}</title><conbody>${inner}</conbody></concept>`,
      version,
    });
    expect(saved.statusCode, saved.body).toBe(200);
  };
  const made = await server.ask('writer', 'POST', '~/items', {
    type: 'concept',
    title: id,
    folder: '',
  });
  expect(made.json<Item>().id).toBe(id);
  await write(body);
  const map = (
    await server.ask('writer', 'POST', '~/items', {
      type: 'map',
      title: `Map of ${id}`,
      folder: '',
    })
  ).json<Item>();
  await server.ask('writer', 'PUT', `~/items/${map.id}`, {
    text: `<map id="${map.id}"><title>${id}</title><topicref href="topic:${id}"/></map>`,
    version: map.version,
  });
  const edition = (
    await server.ask('publisher', 'POST', '~/editions', {
      name: id,
      output: 'site',
      map: map.id,
      lens: null,
      ...more,
    })
  ).json<Edition>();
  return { edition, write };
}
const of = async (edition: string): Promise<Impression[]> =>
  (await server.ask('reader', 'GET', '~/impressions'))
    .json<Impression[]>()
    .filter((one) => one.edition === edition);

it('builds in a process of its own, tells how far it is, and keeps what came out', async () => {
  const heard: LiveEvent[] = [];
  server.queue.events.on('live', (event) => void heard.push(event));
  const site = await start((await editionNamed('Tern Help')).id);
  expect(site).toMatchObject({ number: 1, state: 'queued', person: 'Teo Marsh' });
  const done = await until(() => impression(site.id), ended);
  expect(done).toMatchObject({ state: 'done', problems: [], figures: { pages: 137 } });
  const steps = heard.flatMap((event) =>
    event.kind === 'impression' && event.id === site.id ? [event.progress.step] : [],
  );
  expect(steps).toEqual(
    expect.arrayContaining(['Reading the library', 'Composing', 'Writing pages']),
  );
  const page = await server.ask('reader', 'GET', `~/impressions/${site.id}/files/site/index.html`);
  expect(page.headers['content-type']).toBe('text/html; charset=utf-8');
  expect(page.body).toContain('<h1>Tern Help</h1>');
  expect(
    (await server.ask('reader', 'GET', `~/impressions/${site.id}/download`)).headers[
      'content-disposition'
    ],
  ).toContain('Tern%20Help.zip');
  for (const path of ['..%2f..%2f..%2fetc%2fpasswd', 'site/../../x', '%2fetc%2fpasswd'])
    expect([400, 404]).toContain(
      (await server.ask('reader', 'GET', `~/impressions/${site.id}/files/${path}`)).statusCode,
    );
  const row = await server.services.editions.impressionRow(site.id);
  expect(row?.inputs['alarms']).toBe(1);
});

it('lets whoever writes go first: every thread that builds has the lowest priority', async () => {
  await build((await editionNamed('Tern Help')).id);
  const threadsOf = (process: string): number[] => readdirSync(`/proc/${process}/task`).map(Number);
  const children = threadsOf('self').flatMap((thread) =>
    readFileSync(`/proc/self/task/${thread}/children`, 'utf8').split(' ').filter(Boolean),
  );
  const builder = children.find((child) =>
    readFileSync(`/proc/${child}/cmdline`, 'utf8').includes('/jobs/builderChild.'),
  )!;
  expect(threadsOf(builder).map((thread) => getPriority(thread))).toEqual(
    threadsOf(builder).map(() => constants.priority.PRIORITY_LOW),
  );
});

it('builds the rest when one topic is bad, and says what it left out', async () => {
  const edition = await editionNamed('Tern Q Installation Manual');
  const { text, version } = (await server.ask('writer', 'GET', '~/items/menu-tree')).json<Item>();
  await server.ask('writer', 'PUT', '~/items/menu-tree', {
    text: '<reference id="menu-tree"><title>',
    version,
  });
  const built = await build(edition.id);
  expect(built.state).toBe('done');
  expect(built.problems.map(({ code }) => code)).toEqual(
    expect.arrayContaining(['xml.not-well-formed', 'topic.missing']),
  );
  expect(built.problems[0]?.where.item).toBe('menu-tree');
  const pdf = await readFile(join(server.services.impressionFolder(built.id), 'manual.pdf'));
  expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
  await server.ask('writer', 'PUT', '~/items/menu-tree', { text, version: version + 1 });
});

it('stops a build that is cancelled, and goes on with the next', async () => {
  const edition = await editionNamed('Tern Q Installation Manual');
  const first = await start(edition.id);
  await until(
    () => impression(first.id),
    ({ state }) => state === 'running',
  );
  expect(
    (await server.ask('publisher', 'POST', `~/impressions/${first.id}/cancel`)).json(),
  ).toMatchObject({ state: 'cancelled' });
  const second = await start(edition.id);
  expect((await until(() => impression(second.id), ended)).state).toBe('done');
  expect((await impression(first.id)).state).toBe('cancelled');
  expect(second.number).toBe(first.number + 1);
});

it('marks builds whose worker is gone as interrupted, and clears their files', async () => {
  const edition = await editionNamed('Tern Help');
  const lost = await server.services.editions.createImpression(
    server.project,
    edition.id,
    'Teo Marsh',
  );
  const folder = server.services.impressionFolder(lost.id);
  await mkdir(folder, { recursive: true });
  await writeFile(join(folder, 'half.html'), '<html>');
  await server.services.editions.updateImpression(lost.id, {
    state: 'running',
    heartbeatAt: new Date(Date.now() - 60_000),
  });
  await until(
    () => impression(lost.id),
    ({ state }) => state === 'interrupted',
  );
  await until(
    async () => existsSync(folder),
    (isThere) => !isThere,
  );
});

it('builds what a process that ended had made and not put into the queue', async () => {
  const edition = await editionNamed('Tern Help');
  const forgotten = await server.services.editions.createImpression(
    server.project,
    edition.id,
    'Teo Marsh',
  );
  expect((await until(() => impression(forgotten.id), ended)).state).toBe('done');
});

it('stops a build that does not end, and says what to do', async () => {
  const builder = createBuilder(1);
  const edition = await editionNamed('Tern Help');
  const order = { settings: server.settings, project: server.project, edition, again: null };
  await expect(
    builder.build({ ...order, impression: randomUUID() }, () => undefined),
  ).rejects.toThrow(/^It took longer than .* minutes, so it was stopped\. Build parts of the map/u);
  // The next one has a new process.
  builder.close();
});

it('names topics that may not go out by their facts, which blocks the sign-off', async () => {
  const agreed = (await server.ask('reader', 'GET', '~/agreements')).json<Agreements>();
  const facts = agreed.facts.map((fact) =>
    fact.name === 'state' ? { ...fact, ready: ['approved'] } : fact,
  );
  const { version } = (
    await server.ask('administrator', 'PUT', '~/agreements', { ...agreed, facts })
  ).json<Agreements>();
  const edition = (
    await server.ask('publisher', 'POST', '~/editions', {
      name: 'Approved only',
      output: 'page',
      map: 'station-interface',
      lens: 'developer',
      stops: ['unready'],
    })
  ).json<Edition>();
  const built = await build(edition.id);
  await server.ask('administrator', 'PUT', '~/agreements', { ...agreed, version });
  expect(built.problems.map(({ code, where }) => `${code} ${where.item}`)).toContain(
    'fact.not-ready list-readings',
  );
  expect(
    (await server.ask('publisher', 'PUT', `~/impressions/${built.id}/seal`, { waived: [] })).json(),
  ).toMatchObject({ code: 'blocked' });
  expect((await build(edition.id)).problems).toEqual([]);
});

it('reports an edition whose map is gone', async () => {
  const edition = (
    await server.ask('publisher', 'POST', '~/editions', {
      name: 'Lost',
      output: 'site',
      map: 'no-such-map',
      lens: null,
    })
  ).json<Edition>();
  const built = await build(edition.id);
  expect(built.problems.map(({ code }) => code)).toContain('map.missing-map');
  const folder = server.services.impressionFolder(built.id);
  expect(existsSync(folder)).toBe(true);
  expect((await server.ask('publisher', 'DELETE', `~/editions/${edition.id}`)).statusCode).toBe(
    204,
  );
  expect(existsSync(folder)).toBe(false);
});

it('names the texts that went into an edition, where they have no name yet', async () => {
  const revisions = async (id: string) =>
    (await server.ask('reader', 'GET', `~/items/${id}/revisions`))
      .json<{ note: string }[]>()
      .map(({ note }) => note);
  const edition = (
    await server.ask('publisher', 'POST', '~/editions', {
      name: 'Spring',
      output: 'site',
      map: 'help',
      lens: null,
    })
  ).json<Edition>();
  for (const [id, note] of [
    ['set-the-clock', 'Mine'],
    ['set-the-datum', ''],
  ]) {
    const { text, version } = (await server.ask('writer', 'GET', `~/items/${id}`)).json<Item>();
    await server.ask('writer', 'PUT', `~/items/${id}`, {
      text: text.replace('<title>', '<title>Now '),
      version,
      note,
    });
  }
  await build(edition.id);
  expect((await revisions('set-the-datum'))[0]).toBe('Built into “Spring”');
  expect((await revisions('set-the-clock'))[0]).toBe('Mine');
});

it('tells of every text that is made, changed and removed, once it is', async () => {
  const heard: LiveEvent[] = [];
  const hear = (event: LiveEvent): void => void heard.push(event);
  server.queue.events.on('live', hear);
  const made = await server.ask('writer', 'POST', '~/items', { type: 'concept', title: 'Told' });
  const { id, version, text } = made.json<Item>();
  const change = { version, text: text.replace('Told', 'Told twice'), note: '' };
  expect((await server.ask('writer', 'PUT', `~/items/${id}`, change)).statusCode).toBe(200);
  await server.ask('writer', 'DELETE', `~/items/${id}`);
  await until(
    async () => heard,
    (events) => events.some(({ kind }) => kind === 'item-gone'),
  );
  expect(heard.filter((event) => 'id' in event && event.id === id)).toEqual([
    { kind: 'item', id, version: 1, isMap: false },
    { kind: 'item', id, version: 2, isMap: false },
    { kind: 'item-gone', id },
  ]);

  // What is taken back is not told; many at once are told as one.
  const rows = Array.from({ length: 101 }, (_, index) => ({
    id: `many-${index}`,
    kind: 'topic' as const,
    folder: 'many',
    name: `many-${index}.dita`,
    text: `<concept id="many-${index}"><title>Of many</title></concept>`,
  }));
  const { database, items } = server.services;
  const make = (count: number, failure?: Error): Promise<void> =>
    database.sequelize.transaction(async (transaction) => {
      await items.createAll(server.project, rows.slice(0, count), 'Noor Vale', transaction);
      if (failure) throw failure;
    });
  heard.length = 0;
  await expect(make(1, new Error('taken back'))).rejects.toThrow('taken back');
  await make(101);
  await until(
    async () => heard,
    (events) => events.length > 0,
  );
  expect(heard).toEqual([{ kind: 'many-items' }]);
  server.queue.events.off('live', hear);
  for (const { id: gone } of rows) await items.remove(server.project, gone);
});

it('tells only the people of the project', async () => {
  const address = await server.app.listen({ port: 0, host: '127.0.0.1' });
  const answer = await fetch(`${address}/api/projects/${server.project}/events`, {
    headers: { cookie: await server.cookieOf('reader') },
  });
  const reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader();
  const { sequelize } = server.services.database;
  const tell = (project: string, id: string): Promise<void> =>
    notify(sequelize, project, [{ kind: 'item', id, version: 1, isMap: false }]);
  await tell('00000000-0000-4000-8000-000000000000', 'elsewhere');
  await tell(server.project, 'here');
  let heard = '';
  while (!heard.includes('"here"')) heard += (await reader.read()).value ?? '';
  expect(heard).not.toContain('elsewhere');
  await reader.cancel();
});

it('keeps the signed-off impression at its address, whatever is built after it', async () => {
  const { edition, write } = await small('breakwater', '<p>Before the swell.</p>', { keeps: 1 });
  const first = await build(edition.id);
  expect(first).toMatchObject({
    state: 'done',
    seal: null,
    name: '',
    notes: [],
    figures: { words: 5 },
  });
  const signed = await server.ask('publisher', 'PUT', `~/impressions/${first.id}/seal`, {
    waived: [],
  });
  expect(signed.json()).toMatchObject({ seal: { person: 'Teo Marsh', waived: [] } });
  await write('<p>After the swell.</p>');
  const second = await build(edition.id);
  await write('<p>Long after the swell.</p>');
  const third = await build(edition.id);
  // One is kept by the rule, and the one that is signed off.
  await until(
    () => Promise.resolve(existsSync(server.services.impressionFolder(second.id))),
    (isThere) => !isThere,
  );
  expect((await of(edition.id)).map(({ number }) => number)).toEqual([3, 1]);
  const shipped = async (): Promise<string> =>
    (await server.ask('reader', 'GET', `~/editions/${edition.id}/shipped/site/breakwater.html`))
      .body;
  expect(await shipped()).toContain('Before the swell.');
  expect(
    (await server.ask('publisher', 'DELETE', `~/impressions/${first.id}`)).json(),
  ).toMatchObject({ code: 'signed' });
  expect(
    (await server.ask('publisher', 'DELETE', `~/editions/${edition.id}`)).json(),
  ).toMatchObject({ code: 'signed' });
  const back = await server.ask('publisher', 'DELETE', `~/impressions/${first.id}/seal`);
  expect(back.json()).toMatchObject({
    seal: null,
    notes: [{ person: 'Teo Marsh', text: 'Took back the sign-off of Teo Marsh.' }],
  });
  expect(await shipped()).toContain('Long after the swell.');
  expect((await server.ask('publisher', 'DELETE', `~/impressions/${first.id}`)).statusCode).toBe(
    204,
  );
  expect((await of(edition.id)).map(({ id }) => id)).toEqual([third.id]);
  for (const path of ['..%2f..%2fx', 'site/../../x'])
    expect([400, 404]).toContain(
      (await server.ask('reader', 'GET', `~/editions/${edition.id}/shipped/${path}`)).statusCode,
    );
});

it('is not signed off while problems block it, unless each has a reason', async () => {
  const { edition } = await small(
    'slipway',
    '<p>See <xref href="topic:nowhere"/> and <xref href="topic:elsewhere"/>.</p>',
  );
  const built = await build(edition.id);
  const keys = built.problems.map(problemKey);
  expect(built.problems.map(({ code }) => code)).toEqual([
    'link.unknown-target',
    'link.unknown-target',
  ]);
  const sign = (waived: { problem: string; reason: string }[]) =>
    server.ask('publisher', 'PUT', `~/impressions/${built.id}/seal`, { waived });
  expect((await sign([])).json()).toMatchObject({
    code: 'blocked',
    message: expect.stringContaining('2 problems keep') as string,
  });
  expect((await sign([{ problem: keys[0]!, reason: 'Comes with 4.3' }])).json()).toMatchObject({
    code: 'blocked',
    message: expect.stringContaining('A problem keeps') as string,
  });
  expect((await sign(keys.map((problem) => ({ problem, reason: ' ' })))).statusCode).toBe(400);
  const waived = keys.map((problem) => ({ problem, reason: 'Comes with 4.3' }));
  expect((await sign(waived)).json()).toMatchObject({ seal: { waived } });
  // An edition that lets them pass asks for nothing.
  const lax = (
    await server.ask('publisher', 'PUT', `~/editions/${edition.id}`, {
      ...edition,
      stops: ['images'],
    })
  ).json<Edition>();
  const passed = await build(lax.id);
  expect(
    (await server.ask('publisher', 'PUT', `~/impressions/${passed.id}/seal`, { waived: [] }))
      .statusCode,
  ).toBe(200);
});

it('that failed stays until as many as the edition keeps were built after it', async () => {
  const { edition } = await small('fender', '<p>Tie up here.</p>', { keeps: 2 });
  const { editions } = server.services;
  const failed = await editions.createImpression(server.project, edition.id, 'Teo Marsh');
  await editions.endImpression(failed.id, { state: 'failed' });
  await build(edition.id);
  expect((await of(edition.id)).map(({ number }) => number)).toEqual([2, 1]);
  await build(edition.id);
  await until(
    () => of(edition.id),
    (left) => left.every(({ number }) => number > 1),
  );
});

it('has a name and notes, by those who may', async () => {
  const { edition } = await small('capstan', '<p>Turn it.</p>', { keeps: 1 });
  const { id } = await build(edition.id);
  expect(
    (
      await server.ask('publisher', 'PUT', `~/impressions/${id}/name`, { name: 'For the fair' })
    ).json(),
  ).toMatchObject({ name: 'For the fair' });
  await server.ask('reviewer', 'POST', `~/impressions/${id}/notes`, {
    text: 'The cover is last year’s.',
  });
  expect(
    (await server.ask('writer', 'POST', `~/impressions/${id}/notes`, { text: 'Mended.' }))
      .json<Impression>()
      .notes.map(({ person, text }) => `${person}: ${text}`),
  ).toEqual(['Ines Kroll: The cover is last year’s.', 'Noor Haddad: Mended.']);
  await build(edition.id);
  // What has a name is not cleared.
  expect((await of(edition.id)).map(({ name }) => name)).toEqual(['', 'For the fair']);
});

it('is compared with an earlier one by pages that are new, gone or changed', async () => {
  const { edition, write } = await small('bollard', '<p>Made of iron, and painted black.</p>');
  const first = await build(edition.id);
  await write('<p>Made of steel, and painted black.</p>');
  const second = await build(edition.id);
  const { pages, ...numbers } = (
    await server.ask('reader', 'GET', `~/impressions/${second.id}/since/${first.id}`)
  ).json<ImpressionComparison>();
  expect(numbers).toEqual({ earlier: 1, later: 2 });
  expect(pages).toEqual([
    {
      anchor: 'bollard',
      title: 'The bollard',
      how: 'changed',
      parts: [
        { kind: 'same', text: 'The bollard\nMade of ' },
        { kind: 'gone', text: 'iron' },
        { kind: 'new', text: 'steel' },
        { kind: 'same', text: ', and painted black.' },
      ],
    },
  ]);
});

it.each(['site', 'print'])(
  'is built again from what went in, byte for byte, after all of it has changed: %s',
  async (output) => {
    const id = `quay-wall-${output}`;
    const { edition, write } = await small(
      id,
      '<p>Older than the harbour.</p><fig><title>The plug</title>' +
        '<image keyref="none" href="asset:plugs"/></fig>',
      { output },
    );
    const first = await build(edition.id);
    expect(first.fingerprint).toMatch(/^[\da-f]{64}$/u);
    await write('<p>Younger than the harbour.</p>');
    await server.ask('publisher', 'PUT', `~/editions/${edition.id}`, {
      ...edition,
      sheet: 'reference',
      facts: { title: 'Renamed' },
    });
    const other = await build(edition.id);
    expect(other.fingerprint).not.toBe(first.fingerprint);
    const { id: again } = (
      await server.ask('publisher', 'POST', `~/impressions/${first.id}/again`)
    ).json<Impression>();
    const rebuilt = await until(() => impression(again), ended);
    expect(rebuilt).toMatchObject({
      state: 'done',
      again: first.id,
      fingerprint: first.fingerprint,
    });
    const file = output === 'print' ? 'manual.pdf' : 'site.zip';
    const [before, after] = await Promise.all(
      [first.id, again].map((one) => readFile(join(server.services.impressionFolder(one), file))),
    );
    expect(before!.equals(after!)).toBe(true);
    // The next build is of what is stored now.
    expect((await build(edition.id)).fingerprint).toBe(other.fingerprint);
  },
);

it('shows the site of an edition as it would be built, with any look', async () => {
  const { edition, write } = await small('jetty', '<p>Of oak.</p>');
  const ask = (look: string, path: string) =>
    server.ask('reader', 'GET', `~/editions/${edition.id}/proof/site/${look}/${path}`);
  const first = await ask('harbour', 'jetty.html');
  expect([first.headers['content-type'], first.headers['content-security-policy']]).toEqual([
    'text/html; charset=utf-8',
    expect.stringMatching(
      /^default-src 'none'; .*script-src 'self'; .*sandbox allow-scripts (?!.*same-origin)/u,
    ),
  ]);
  expect(first.body).toContain('Of oak.');
  expect((await ask('harbour', 'look.css')).body).toContain('#12305f');
  expect((await ask('lighthouse', 'index.html')).body).toContain('id="chapters"');
  expect((await ask('harbour', 'index.html')).body).not.toContain('id="chapters"');
  await write('<p>Of larch.</p>');
  expect((await ask('harbour', 'jetty.html')).body).toContain('Of larch.');
  for (const path of ['none.html', '..%2f..%2fx', 'assets/none.png'])
    expect((await ask('harbour', path)).statusCode).toBe(404);
  // What is built has a look of the team.
  const { looks } = (await server.ask('reader', 'GET', '~/designs')).json<Designs>();
  const content = {
    ...looks.find(({ id }) => id === 'harbour')!.content,
    name: 'Foghorn',
    caption: 'in all weathers',
  };
  expect(
    (await server.ask('publisher', 'PUT', '~/designs/looks/foghorn', { version: 0, content }))
      .statusCode,
  ).toBe(200);
  expect(
    (
      await server.ask('publisher', 'PUT', '~/designs/looks/foghorn', { version: 0, content })
    ).json(),
  ).toMatchObject({ code: 'design.changed' });
  expect(
    (
      await server.ask('publisher', 'PUT', '~/designs/looks/foghorn', {
        version: 1,
        content: { ...content, links: [{ label: 'x', href: 'javascript:alert(1)' }] },
      })
    ).statusCode,
  ).toBe(400);
  await server.ask('publisher', 'PUT', `~/editions/${edition.id}`, {
    ...edition,
    look: 'foghorn',
  });
  const built = await build(edition.id);
  expect(
    (await server.ask('reader', 'GET', `~/impressions/${built.id}/files/site/index.html`)).body,
  ).toContain('in all weathers');
  expect((await server.ask('publisher', 'DELETE', '~/designs/looks/foghorn')).json()).toMatchObject(
    { code: 'design.used', message: expect.stringContaining('“jetty”') as string },
  );
});
