import { mkdir, rm, symlink, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type {
  Edition,
  Impression,
  Item,
  ItemPage,
  LiveAnswer,
  SourceReading,
  SourceState,
  SourceSummary,
} from '@ukiyo/contracts';
import { kindOf } from '@ukiyo/core/problems';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startTestServer, type TestServer } from './testing.ts';

let server: TestServer;
let outside = '';
beforeAll(async () => {
  server = await startTestServer();
  await server.queue.work();
  outside = join(server.settings.dataFolder, 'sources');
});
afterAll(() => server.close());

const put = async (path: string, text: string): Promise<void> => {
  await mkdir(join(outside, path, '..'), { recursive: true });
  await writeFile(join(outside, path), text);
};
const look = async (folder: string): Promise<SourceState> =>
  (await server.ask('writer', 'GET', `~/sources/${folder}`)).json<SourceState>();
const read = async (folder: string, decisions = {}): Promise<SourceReading> =>
  (
    await server.ask('writer', 'POST', `~/sources/${folder}/read`, { decisions })
  ).json<SourceReading>();
const states = ({ plan }: SourceState): string =>
  plan.map(({ path, state }) => `${path} ${state}`).join(', ');
const topic = async (id: string): Promise<Item> =>
  (await server.ask('writer', 'GET', `~/items/${id}`)).json<Item>();
/** A source that is linked and read for the first time. */
async function linked(folder: string, files: Record<string, string>): Promise<SourceReading> {
  for (const [path, text] of Object.entries(files)) await put(`${folder}/${path}`, text);
  expect((await server.ask('publisher', 'PUT', `~/sources/${folder}`)).statusCode).toBe(200);
  return read(folder);
}
async function write(item: Item, from: string, to: string): Promise<void> {
  const { statusCode } = await server.ask('writer', 'PUT', `~/items/${item.id}`, {
    text: item.text.replace(from, to),
    version: item.version,
  });
  expect(statusCode).toBe(200);
}

describe('a linked source', () => {
  it('is a folder whose files become topics, and follow them', async () => {
    await put(
      'firmware/4-2.md',
      '# Firmware 4.2\n\nThe gauge wakes. See [the one before](old/4-1.md).\n',
    );
    await put('firmware/old/4-1.md', '# Firmware 4.1\n\nFirst.\n');
    expect((await server.ask('writer', 'GET', '~/sources')).json<SourceSummary[]>()).toContainEqual(
      { folder: 'firmware', isLinked: false, isThere: true, readAt: null, files: [] },
    );
    expect(states(await look('firmware'))).toBe('4-2.md new, old/4-1.md new');
    expect((await server.ask('writer', 'POST', '~/sources/firmware/read', {})).statusCode).toBe(
      404,
    );
    const heard: string[] = [];
    server.queue.events.on('live', (event) => event.kind === 'item' && void heard.push(event.id));
    const first = await linked('firmware', {});
    await expect.poll(() => first.files.every(({ item }) => heard.includes(item))).toBe(true);
    expect(states(first)).toBe('4-2.md same, old/4-1.md same');
    expect([first.added, first.changed, first.files.map(({ path }) => path)]).toEqual([
      2,
      0,
      ['4-2.md', 'old/4-1.md'],
    ]);
    const { items } = (
      await server.ask('reader', 'GET', '~/items?folder=sources/firmware')
    ).json<ItemPage>();
    expect(items.map(({ title, folder, updatedBy }) => [title, folder, updatedBy])).toEqual([
      ['Firmware 4.1', 'sources/firmware/old', 'Noor Haddad'],
      ['Firmware 4.2', 'sources/firmware', 'Noor Haddad'],
    ]);
    const made = items.find(({ title }) => title === 'Firmware 4.2')!;
    expect((await topic(made.id)).text).toContain(
      `<xref href="topic:${items.find(({ title }) => title === 'Firmware 4.1')!.id}">the one ` +
        'before</xref>',
    );
    expect(states(await look('firmware'))).toBe('4-2.md same, old/4-1.md same');

    await put('firmware/4-2.md', '# Firmware 4.2\n\nThe gauge wakes at sea.\n');
    expect(states(await look('firmware'))).toBe('4-2.md changed, old/4-1.md same');
    const second = await read('firmware');
    expect([second.added, second.changed]).toEqual([0, 1]);
    const now = await topic(made.id);
    expect([now.version, now.text]).toEqual([2, expect.stringContaining('wakes at sea')]);
    expect(
      (await server.ask('writer', 'GET', `~/items/${made.id}/revisions/1`)).json<{ text: string }>()
        .text,
    ).toContain('The gauge wakes.');
    expect((await read('firmware')).changed).toBe(0);
  });
  it('leaves what was changed here too, until somebody says which of both holds', async () => {
    const { plan } = await linked('both', { 'a.md': '# A\n\nOne.\n' });
    const id = plan[0]!.item!;
    await write(await topic(id), 'One.', 'Ours.');
    await put('both/a.md', '# A\n\nTheirs.\n');
    const left = await read('both');
    expect([left.changed, states(left)]).toEqual([0, 'a.md both']);
    expect(left.problems).toMatchObject([{ code: 'source.both', where: { item: id } }]);
    expect((await topic(id)).text).toContain('Ours.');
    expect(states(await read('both', { 'a.md': 'here' }))).toBe('a.md same');
    await put('both/a.md', '# A\n\nTheirs once more.\n');
    expect((await read('both', { 'a.md': 'outside' })).changed).toBe(1);
    expect((await topic(id)).text).toContain('Theirs once more.');
    expect(states(await read('both'))).toBe('a.md same');
  });
});

describe('a linked source', () => {
  it('does not take words away that are being typed in that moment', async () => {
    const { plan } = await linked('typing', { 'a.md': '# Tide\n\nOne.\n' });
    const id = plan[0]!.item!;
    const socket = await server.app.injectWS(`/api/projects/${server.project}/live/${id}`, {
      headers: { cookie: await server.cookieOf('writer') },
    });
    const heard = (kind: LiveAnswer['kind']) =>
      new Promise<LiveAnswer>((resolve) => {
        socket.on('message', (data: { toString(): string }) => {
          const answer = JSON.parse(data.toString()) as LiveAnswer;
          if (answer.kind === kind) resolve(answer);
        });
      });
    const opened = heard('document');
    socket.send(JSON.stringify({ kind: 'open', client: 'noor' }));
    const { epoch, version } = (await opened) as Extract<LiveAnswer, { kind: 'document' }>;
    await put('typing/a.md', '# Tide\n\nTwo.\n');
    const acknowledged = heard('steps');
    socket.send(
      JSON.stringify({
        kind: 'steps',
        epoch,
        version,
        steps: [
          {
            stepType: 'replace',
            from: 2,
            to: 2,
            slice: { content: [{ type: 'text', text: 'High ' }] },
          },
        ],
      }),
    );
    await acknowledged;
    const done = await server.services.sources.read(server.project, 'typing', 'Noor Haddad');
    expect(done?.plan.map(({ state }) => state)).toEqual(['both']);
    expect(done?.problems).toMatchObject([{ code: 'source.both', where: { item: id } }]);
    expect((await topic(id)).text).toContain('High Tide');
    // Into a page that is open, and rests, it comes as a step of somebody else.
    const steps = heard('steps');
    expect((await read('typing', { 'a.md': 'outside' })).changed).toBe(1);
    await steps;
    expect((await topic(id)).text).toMatch(/<title>Tide<\/title>[\s\S]*Two\./u);
    socket.close();
  });
  it('that is gone keeps its topics and says so; unlinked ones are ordinary topics', async () => {
    const { plan } = await linked('leaving', { 'a.md': '# Leaving\n' });
    await rm(join(outside, 'leaving'), { recursive: true });
    const gone = await read('leaving');
    expect([gone.isThere, gone.problems.map(({ code }) => code)]).toEqual([
      false,
      ['source.folder'],
    ]);
    expect(
      (await server.ask('writer', 'GET', '~/sources'))
        .json<SourceSummary[]>()
        .find(({ folder }) => folder === 'leaving'),
    ).toMatchObject({
      isLinked: true,
      isThere: false,
      files: [{ path: 'a.md' }],
    });
    expect((await server.ask('publisher', 'DELETE', '~/sources/leaving')).statusCode).toBe(204);
    expect((await server.ask('writer', 'GET', '~/sources/leaving')).statusCode).toBe(404);
    expect((await topic(plan[0]!.item!)).title).toBe('Leaving');
  });
});

describe('a linked source', () => {
  it('that is linked again continues with its topics, and restores removed ones', async () => {
    const { plan } = await linked('twice', { 'a.md': '# A\n', 'b.md': '# B\n' });
    const [a, b] = plan.map(({ item }) => item!);
    await server.ask('publisher', 'DELETE', '~/sources/twice');
    expect((await server.ask('writer', 'POST', '~/sources/twice/read', {})).statusCode).toBe(404);
    expect((await look('twice')).files).toEqual([]);
    await server.ask('writer', 'DELETE', `~/items/${b}`);
    await put('twice/a.md', '# A\n\nMore.\n');
    expect((await server.ask('publisher', 'PUT', '~/sources/twice')).statusCode).toBe(200);
    const again = await read('twice');
    expect([
      again.added,
      again.changed,
      again.files.find(({ path }) => path === 'a.md')?.item,
    ]).toEqual([1, 1, a]);
    expect((await topic(a!)).text).toContain('More.');
  });
  it('must be one of the folders that the operator of the server provides', async () => {
    await put('inner/a.md', '# A\n');
    await mkdir(join(server.settings.dataFolder, 'apart'), { recursive: true });
    await writeFile(join(server.settings.dataFolder, 'apart/b.md'), '# Apart\n');
    await symlink(join(server.settings.dataFolder, 'apart'), join(outside, 'inner/way'));
    await symlink(join(server.settings.dataFolder, 'apart'), join(outside, 'mounted'));
    for (const name of [
      '..',
      '%2e%2e',
      '..%2fapart',
      '.hidden',
      'inner%2fway',
      'inner%5cway',
      'nowhere',
      'a%00',
    ])
      for (const method of ['GET', 'PUT'] as const)
        expect(
          (await server.ask('publisher', method, `~/sources/${name}`)).statusCode,
          name,
        ).toBeGreaterThanOrEqual(400);
    expect(states(await look('inner'))).toBe('a.md new');
    // A link beside the folders was put there by whoever may put folders there.
    expect(states(await look('mounted'))).toBe('b.md new');
    expect((await server.ask('publisher', 'PUT', '~/sources/inner')).statusCode).toBe(200);
    expect((await server.ask('publisher', 'PUT', '~/sources/inner')).statusCode).toBe(409);
  });
});

describe('before a build', () => {
  const impression = async (id: string): Promise<Impression> =>
    (await server.ask('publisher', 'GET', `~/impressions/${id}`)).json<Impression>();
  async function build({ id }: Edition): Promise<Impression> {
    const started = (
      await server.ask('publisher', 'POST', `~/editions/${id}/impressions`)
    ).json<Impression>();
    for (;;) {
      const now = await impression(started.id);
      if (now.state !== 'queued' && now.state !== 'running') return now;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  }
  const page = async ({ id }: Impression, file: string): Promise<string> =>
    (await server.ask('reader', 'GET', `~/impressions/${id}/files/markdown/${file}.md`)).body;

  it('are read again for editions that ask for it, with their problems in the build', async () => {
    const { plan } = await linked('notes', {
      'now.md': '# Now\n\nFirst.\n',
      'html.md': '# Raw\n\n<p>x</p>\n',
    });
    const id = plan.find(({ path }) => path === 'now.md')!.item!;
    const map = (
      await server.ask('writer', 'POST', '~/items', {
        type: 'map',
        title: 'What is new',
        folder: '',
      })
    ).json<Item>();
    await write(map, '</map>', `<topicref href="topic:${id}"/></map>`);
    const make = async (name: string, readsSources: boolean): Promise<Edition> =>
      (
        await server.ask('publisher', 'POST', '~/editions', {
          name,
          output: 'markdown',
          map: map.id,
          lens: null,
          readsSources,
        })
      ).json<Edition>();
    const [asks, rests] = [await make('Asks', true), await make('Rests', false)];

    await put('notes/now.md', '# Now\n\nSecond.\n');
    const before = await build(rests);
    expect([await page(before, id), before.problems]).toEqual([
      expect.stringContaining('First.'),
      [],
    ]);
    const after = await build(asks);
    expect(await page(after, id)).toContain('Second.');
    expect(after.problems.map((found) => [kindOf(found), found.message])).toEqual([
      ['sources', '“html.md” cannot be a topic: line 3: HTML has no place in this topic.'],
    ]);
    expect((await topic(id)).updatedBy).toBe('Teo Marsh');

    // Built again from what went in, nothing is read: it is the same.
    await put('notes/now.md', '# Now\n\nThird.\n');
    const again = (
      await server.ask('publisher', 'POST', `~/impressions/${after.id}/again`)
    ).json<Impression>();
    await expect
      .poll(async () => (await impression(again.id)).state, { timeout: 30_000 })
      .toBe('done');
    expect((await impression(again.id)).fingerprint).toBe(after.fingerprint);
    expect((await topic(id)).text).toContain('Second.');
  });
});
