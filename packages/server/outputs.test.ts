import { randomBytes, randomUUID } from 'node:crypto';
import { mkdtemp, readFile, rename, rm, symlink, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Edition, Impression, Item } from '@ukiyo/contracts';
import { pageTexts } from '@ukiyo/core/compose';
import { shippedLooks, shippedSheets } from '@ukiyo/core/styles';
import { readPackage } from '@ukiyo/intake';
import { unzipSync } from 'fflate';
import { kindOf } from '@ukiyo/core/problems';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { sanitiseImage } from './media/image.ts';
import { composeEdition, newBuildCache } from './jobs/composing.ts';
import { folderInto, whyNotWritten } from './jobs/folders.ts';
import { startTestServer, type TestServer } from './testing.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
  await server.queue.work();
});
afterAll(() => server.close());

const impression = async (id: string): Promise<Impression> =>
  (await server.ask('publisher', 'GET', `~/impressions/${id}`)).json<Impression>();
const edition = async (input: object): Promise<Edition> =>
  (
    await server.ask('publisher', 'POST', '~/editions', {
      name: 'One',
      map: 'station-interface',
      lens: null,
      ...input,
    })
  ).json<Edition>();
const build = async (id: string): Promise<Impression> => {
  const started = (
    await server.ask('publisher', 'POST', `~/editions/${id}/impressions`)
  ).json<Impression>();
  for (;;) {
    const now = await impression(started.id);
    if (now.state !== 'queued' && now.state !== 'running') return now;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
};
const archive = async ({ id }: Impression, file: string): Promise<Record<string, Uint8Array>> =>
  unzipSync(new Uint8Array(await readFile(join(server.services.impressionFolder(id), file))));

const emptyProject = async (): Promise<string> =>
  (
    await server.services.database.models.projects.create({
      id: randomUUID(),
      name: 'Elsewhere',
      locale: 'en',
    })
  ).get().id;

it('are a folder of Markdown, with files called after titles', async () => {
  const built = await build((await edition({ output: 'markdown', naming: 'titles' })).id);
  expect(built).toMatchObject({ state: 'done', problems: [] });
  const files = await archive(built, 'markdown.zip');
  expect(Object.keys(files)).toEqual(expect.arrayContaining(['index.md', 'list-readings.md']));
  const page = await server.ask(
    'reader',
    'GET',
    `~/impressions/${built.id}/files/markdown/list-readings.md`,
  );
  expect(page.headers['content-type']).toBe('text/plain; charset=utf-8');
  expect(page.body).toMatch(/^# .*List readings$/mu);
});

it('are a package of DITA that can be read again', async () => {
  const built = await build(
    (await edition({ output: 'dita', variables: { product: 'Tern X' } })).id,
  );
  const again = readPackage(new Map(Object.entries(await archive(built, 'dita.zip'))));
  expect(again.problems).toEqual([]);
  expect(again.items.map(({ id }) => id)).toContain('station-interface');
  expect(again.items.find(({ id }) => id === 'station-interface')!.text).toContain('Tern X');
});

it('… which brings its designs along and composes the same after import', async () => {
  const sheet = { ...shippedSheets['workshop']!, name: 'For partners' };
  const look = {
    ...shippedLooks['harbour']!,
    name: 'For partners',
    logo: { asset: 'partner-mark', height: 40 },
  };
  const mark = sanitiseImage(
    Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 4 4">' +
        '<rect width="4" height="4"/></svg>',
    ),
    'image/svg+xml',
  );
  if ('refusal' in mark) throw new Error(mark.refusal);
  await server.services.assets.create(server.project, {
    id: 'partner-mark',
    folder: 'images',
    name: 'partner-mark.svg',
    mediaType: mark.mediaType,
    hash: await server.services.blobs.put(mark.bytes),
    size: mark.bytes.byteLength,
  });
  await server.services.designs.save(server.project, {
    kind: 'sheets',
    id: 'partners',
    version: 0,
    content: sheet,
  });
  await server.services.designs.save(server.project, {
    kind: 'looks',
    id: 'partners',
    version: 0,
    content: look,
  });
  const own = {
    name: 'To partners',
    output: 'dita',
    map: 'station-interface',
    lens: 'developer',
    sheet: 'partners',
    look: 'partners',
    start: 'list-readings',
    facts: { subtitle: 'For partners' },
    variables: { product: 'Tern X' },
  };
  const one = await edition(own);
  const files = await archive(await build(one.id), 'dita.zip');
  const project = await emptyProject();
  const report = await server.services.packages.take(
    project,
    new Map(Object.entries(files)),
    'Ada Lind',
  );
  expect(report.problems).toEqual([]);
  expect(report.editions).toBe(1);
  const [taken] = await server.services.editions.editions(project);
  expect(taken).toEqual({ ...one, id: taken!.id });
  const designs = await server.services.designs.read(project);
  expect([
    designs.sheets.find(({ id }) => id === 'partners')?.content,
    designs.looks.find(({ id }) => id === 'partners')?.content,
  ]).toEqual([sheet, look]);
  expect((await server.services.assets.rows(project)).map(({ id }) => id)).toContain(
    'partner-mark',
  );
  const [here, there] = await Promise.all([
    composeEdition(
      { services: server.services, project: server.project, cache: newBuildCache() },
      one,
    ),
    composeEdition({ services: server.services, project, cache: newBuildCache() }, taken!),
  ]);
  expect(there.publication.facts.subtitle).toBe('For partners');
  expect(pageTexts(there.publication)).toEqual(pageTexts(here.publication));
});

it('… and so does a whole library: its editions and designs, once', async () => {
  const files = new Map(await server.services.packages.give(server.project));
  const project = await emptyProject();
  const all = await server.services.editions.editions(server.project);
  const report = await server.services.packages.take(project, files, 'Ada Lind');
  expect(report.editions).toBe(new Set(all.map(({ name }) => name)).size);
  const taken = await server.services.editions.editions(project);
  const named = (
    { id: _id, since: _since, holds, ...same }: Edition,
    among: readonly Edition[],
  ) => ({ ...same, holds: holds.map((id) => among.find((other) => other.id === id)?.name) });
  const bundle = (among: readonly Edition[]) =>
    among.filter(({ name }) => name === 'Everything at the quay').map((one) => named(one, among));
  expect(bundle(taken)).toEqual(bundle(all));
  expect(bundle(taken)[0]!.holds).toHaveLength(3);
  const again = await server.services.packages.take(project, files, 'Ada Lind');
  expect([again.items, again.assets, again.editions]).toEqual([0, 0, 0]);
  expect(again.problems.every(({ code }) => code === 'package.exists')).toBe(true);
});

it('… and what of that cannot be read is left out and said, the rest is taken in', async () => {
  const project = await emptyProject();
  const take = async (publishing: string) =>
    server.services.packages.take(
      project,
      new Map([['publishing.json', Buffer.from(publishing)]]),
      'Ada Lind',
    );
  const said = async (publishing: string): Promise<string[]> =>
    (await take(publishing)).problems.map(({ message }) => message);
  expect(await said('{')).toEqual([
    'publishing.json cannot be read: it is not JSON. Editions and designs are left out.',
  ]);
  expect(await said('{"editions":[{"name":"A"}]}')).toEqual([
    expect.stringContaining('editions.0.output'),
  ]);
  expect(await said('{"sheets":[{"id":"../x","content":{}}]}')).toEqual([
    expect.stringContaining('sheets.0.id'),
  ]);
  expect(await said('{"editions":[{"name":"A","output":"site","map":"","lens":null}]}')).toEqual([
    'The edition “A” cannot be made: An edition needs a map. It is left out.',
  ]);
  expect(await server.services.editions.editions(project)).toEqual([]);
});

it('are bundles of others, built again byte for byte', async () => {
  const [paper, site, page] = await Promise.all([
    edition({ name: 'On paper', output: 'print' }),
    edition({ name: 'For the web/../?', output: 'site' }),
    edition({ name: 'One page', output: 'page' }),
  ]);
  const bundle = await edition({
    name: 'All of them',
    output: 'bundle',
    map: '',
    holds: [paper.id, site.id, page.id],
  });
  const built = await build(bundle.id);
  expect(built).toMatchObject({ state: 'done', problems: [] });
  const files = await archive(built, 'bundle.zip');
  expect(Object.keys(files)).toEqual(
    expect.arrayContaining([
      'index.html',
      'On-paper.pdf',
      'For-the-web/index.html',
      'For-the-web/site.js',
      'One-page.html',
    ]),
  );
  expect(Object.keys(files).filter((path) => path.endsWith('.zip'))).toEqual([]);
  const start = await server.ask(
    'reader',
    'GET',
    `~/impressions/${built.id}/files/bundle/index.html`,
  );
  for (const [, href] of start.body.matchAll(/href="([^"]+)"/gu))
    expect(files[decodeURI(href!)], href).toBeDefined();
  expect(
    (await server.ask('reader', 'GET', `~/impressions/${built.id}/files/bundle/One-page.html`))
      .headers['content-security-policy'],
  ).toContain("style-src 'unsafe-inline'");
  expect(built.figures.topics).toBe(3 * (await build(site.id)).figures.topics);
  await server.ask('publisher', 'PUT', `~/editions/${site.id}`, { ...site, name: 'Renamed' });
  const repeat = (
    await server.ask('publisher', 'POST', `~/impressions/${built.id}/again`)
  ).json<Impression>();
  for (;;) {
    const now = await impression(repeat.id);
    if (now.fingerprint !== '' || now.state === 'failed') {
      expect(now.fingerprint).toBe(built.fingerprint);
      break;
    }
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
});

it('say which of a bundle is gone, and are no bundle of bundles', async () => {
  const inner = await edition({ name: 'Inner', output: 'bundle', map: '', holds: [] });
  const gone = await edition({ name: 'Gone', output: 'page' });
  const outer = await edition({
    name: 'Outer',
    output: 'bundle',
    map: '',
    holds: [inner.id, gone.id],
  });
  await server.ask('publisher', 'DELETE', `~/editions/${gone.id}`);
  const built = await build(outer.id);
  expect(built.state).toBe('failed');
  expect(built.problems.map(({ code }) => code)).toEqual(['bundle.missing']);
});

it('are sites in several languages, each in a folder, with what is wrong said once', async () => {
  const { text, version } = (await server.ask('writer', 'GET', '~/items/menu-tree')).json<Item>();
  await server.ask('writer', 'PUT', '~/items/menu-tree', {
    text: text
      .replace('</title>', '</title><shortdesc><xref href="topic:nowhere"/></shortdesc>')
      .replace(/<shortdesc>(?!<xref)[^<]*<\/shortdesc>/u, ''),
    version,
  });
  const one = await edition({
    output: 'site',
    map: 'handbook',
    lens: 'operator',
    locales: ['ja', 'en', 'ar', 'ar'],
    start: 'safety',
    naming: 'titles',
    address: 'https://help.brinewell.example/',
  });
  const built = await build(one.id);
  const files = await archive(built, 'site.zip');
  const page = (path: string): string => new TextDecoder().decode(files[path]);
  expect([...new Set(Object.keys(files).map((path) => path.split('/')[0]))].toSorted()).toEqual([
    'ar',
    'en',
    'index.html',
    'ja',
    'languages.js',
  ]);
  expect(page('ar/menu-tree.html')).toContain('dir="rtl"');
  expect(page('ja/menu-tree.html')).toContain(
    '<a href="../en/menu-tree.html" hreflang="en" lang="en" class="language">',
  );
  expect(page('ja/index.html')).toContain('Safety at the quay');
  expect(page('ja/menu-tree.html')).toContain(
    '<link rel="canonical" href="https://help.brinewell.example/ja/menu-tree.html">',
  );
  expect(page('index.html')).toContain(
    '<a href="ja/index.html" hreflang="ja" lang="ja">日本語</a>',
  );
  const dead = built.problems.filter(({ message }) => message.includes('nowhere'));
  expect(new Set(dead.map(({ code }) => code)).size).toBe(dead.length);
  // Each topic is said not to be translated, once for each language that it is not in.
  const untranslated = built.problems
    .filter((found) => kindOf(found) === 'untranslated')
    .map(({ message }) => message);
  expect(untranslated).toContain('ar: “Safety at the quay” is written in English, not in Arabic.');
  expect(untranslated.filter((message) => message.startsWith('ja: '))).toHaveLength(
    untranslated.length / 2,
  );
  await server.ask('writer', 'PUT', '~/items/menu-tree', { text, version: version + 1 });
});

it('say that a topic which names no language is in that of the project', async () => {
  const texts = {
    silent:
      '<concept id="silent"><title>Low water</title><conbody><p>Wait.</p></conbody></concept>',
    'silent-map': '<map id="silent-map"><title>M</title><topicref href="topic:silent"/></map>',
  };
  for (const [id, text] of Object.entries(texts))
    await server.services.items.create(
      server.project,
      {
        id,
        kind: id === 'silent' ? 'topic' : 'map',
        folder: '',
        name: `${id}.${id === 'silent' ? 'dita' : 'ditamap'}`,
        text,
      },
      'Teo Marsh',
    );
  const said = async (locale: string): Promise<string[]> =>
    (await build((await edition({ output: 'markdown', map: 'silent-map', locale })).id)).problems
      .filter((one) => kindOf(one) === 'untranslated')
      .map(({ message }) => message);
  expect(await said('de')).toEqual(['“Low water” is written in English, not in German.']);
  expect(await said('en')).toEqual([]);
  for (const id of Object.keys(texts)) await server.services.items.remove(server.project, id);
});

it('say what is new since an impression on the pages of a site', async () => {
  const one = await edition({ output: 'site' });
  const before = await build(one.id);
  const { text, version } = (
    await server.ask('writer', 'GET', '~/items/list-readings')
  ).json<Item>();
  await server.ask('writer', 'PUT', '~/items/list-readings', {
    text: text.replace('<title>', '<title>Now '),
    version,
  });
  await server.ask('publisher', 'PUT', `~/editions/${one.id}`, { ...one, since: before.id });
  const files = await archive(await build(one.id), 'site.zip');
  expect(new TextDecoder().decode(files['list-readings.html'])).toContain(
    '<span class="news">Changed</span>',
  );
  expect(new TextDecoder().decode(files['index.html'])).toContain('New and changed');
  await server.ask('writer', 'PUT', '~/items/list-readings', { text, version: version + 1 });
});

it('say so when their map is not there any more, and leave nothing half done', async () => {
  for (const output of ['print', 'site', 'markdown', 'dita'] as const) {
    const built = await build((await edition({ output, map: 'never-there' })).id);
    expect(built).toMatchObject({
      state: 'failed',
      figures: { bytes: 0 },
      problems: [
        { code: 'map.missing-map', message: expect.stringContaining('never-there') as string },
      ],
    });
  }
  await server.services.items.create(
    server.project,
    {
      id: 'nothing',
      kind: 'map',
      folder: '',
      name: 'nothing.ditamap',
      text: '<map id="nothing"><title>Nothing</title></map>',
    },
    'Teo Marsh',
  );
  expect(await build((await edition({ output: 'epub', map: 'nothing' })).id)).toMatchObject({
    state: 'failed',
    problems: [{ code: 'build.empty' }],
  });
  await server.services.items.remove(server.project, 'nothing');
});

it('need a map, unless they are bundles; and take at most twenty further locales', async () => {
  const refused = async (input: object): Promise<number> =>
    (
      await server.ask('publisher', 'POST', '~/editions', {
        name: 'One',
        output: 'site',
        map: 'help',
        lens: null,
        ...input,
      })
    ).statusCode;
  expect(await refused({ map: '' })).toBe(400);
  expect(await refused({ locales: Array.from({ length: 1000 }, () => 'de') })).toBe(400);
  expect(await refused({ nightly: '25:00' })).toBe(400);
  expect(await refused({ output: 'bundle', map: '' })).toBe(201);
});

it('report a folder that cannot be written, and are built once it can be again', async () => {
  const one = await edition({ output: 'page' });
  const folder = join(server.services.impressionFolder('x'), '..');
  await rename(folder, `${folder}-away`);
  await writeFile(folder, '');
  const built = await build(one.id);
  await rm(folder);
  await rename(`${folder}-away`, folder);
  expect(built).toMatchObject({
    state: 'failed',
    problems: [
      {
        code: 'build.failed',
        message: 'The build failed: The folder of impressions is no folder.',
      },
    ],
  });
  expect((await build(one.id)).state).toBe('done');
});

it('say so where the disk is full (the device of Linux that always is)', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'ukiyo-full-'));
  await symlink('/dev/full', join(folder, 'site.zip'));
  const pages = Array.from({ length: 200 }, (_, at): [string, string] => [
    `${at}.html`,
    randomBytes(40_000).toString('hex'),
  ]);
  const failure: unknown = await folderInto(folder, 'site', pages).catch((error: unknown) => error);
  expect(whyNotWritten(failure)).toBe('There is no space left on the disk of the server.');
  expect(whyNotWritten(new Error('anything else'))).toBeUndefined();
});
