import { readdir } from 'node:fs/promises';
import {
  outputs,
  type Asset,
  type AssetPage,
  type Edition,
  type Impression,
} from '@ukiyo/contracts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createApp } from '../index.ts';
import { startTestServer, type TestServer } from '../testing.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
  await server.queue.work();
});
afterAll(() => server.close());

const script = Buffer.from('GIF89a/*\0*/=1;fetch("/api/session")');
const page = Buffer.from('GIF89a<html><script src="run.js"></script></html>');
const upload = async (name: string, type: string, bytes: Uint8Array): Promise<Asset> =>
  (await server.upload('writer', '~/assets', { name, type, bytes })).json<Asset>();

async function built(output: Edition['output'], body: string): Promise<Impression> {
  const name = `Content ${output} ${Math.random()}`;
  const create = async (type: string, text: (id: string) => string): Promise<string> => {
    const made = await server.ask('writer', 'POST', '~/items', { type, title: name });
    const { id, version } = made.json<{ id: string; version: number }>();
    await server.ask('writer', 'PUT', `~/items/${id}`, { text: text(id), version });
    return id;
  };
  const topic = await create(
    'concept',
    (id) => `<concept id="${id}"><title>${name}</title><conbody>${body}</conbody></concept>`,
  );
  const map = await create(
    'map',
    (id) => `<map id="${id}"><title>${name}</title><topicref href="topic:${topic}"/></map>`,
  );
  const edition = await server.ask('publisher', 'POST', '~/editions', {
    name,
    output,
    map,
    lens: null,
  });
  const path = `~/editions/${edition.json<Edition>().id}/impressions`;
  const { id } = (await server.ask('publisher', 'POST', path)).json<Impression>();
  for (;;) {
    const now = (await server.ask('reader', 'GET', `~/impressions/${id}`)).json<Impression>();
    if (now.state === 'done') return now;
    if (now.state === 'failed') throw new Error(now.problems[0]?.message);
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}
/** Where a request is led, by whoever it asks as. */
const addressOf = async (path: string): Promise<string> => {
  const { headers } = await server.app.inject({
    url: `/api${path.replace('~', `/projects/${server.project}`)}`,
    headers: { cookie: await server.cookieOf('reader') },
  });
  return String(headers.location);
};

describe('files that people bring', () => {
  it('are called and served as what they are, whatever they are said to be', async () => {
    const [run, shown] = [
      await upload('run.js', 'image/gif', script),
      await upload('page.html', 'image/gif', page),
    ];
    expect([run.name, run.mediaType]).toEqual(['run.gif', 'image/gif']);
    expect([shown.name, shown.mediaType]).toEqual(['page.gif', 'image/gif']);
    const { headers } = await server.ask('reader', 'GET', `~/assets/${shown.id}/file`);
    expect(headers).toMatchObject({
      'content-type': 'image/gif',
      'x-content-type-options': 'nosniff',
      'cross-origin-resource-policy': 'same-origin',
    });
    expect(headers['content-security-policy']).toMatch(/default-src 'none'.*; sandbox;/u);

    const body = `<p>See <image href="asset:${run.id}"/><image href="asset:${shown.id}"/></p>`;
    const { id } = await built('dita', body);
    const files = await readdir(server.services.impressionFolder(id), { recursive: true });
    expect(files.filter((name) => /\.(html|js|xhtml|htm)$/u.test(name))).toEqual([]);
    expect(files.some((name) => name.endsWith('page.gif'))).toBe(true);
  });
  it('that are not what their ending says are only downloaded', async () => {
    const { id } = await upload('harbour.png', 'image/gif', script);
    // As an earlier version stored it.
    await server.services.database.models.assets.update({ name: 'harbour.png' }, { where: { id } });
    const { headers } = await server.ask('reader', 'GET', `~/assets/${id}/file`);
    expect(headers['content-type']).toBe('application/octet-stream');
    expect(headers['content-disposition']).toBe('attachment');
  });
  it('with impossible sizes take nothing away from anybody', async () => {
    const svg = '<svg xmlns="http://www.w3.org/2000/svg" width="1e999" height="10"/>';
    const asset = await upload('endless.svg', 'image/svg+xml', Buffer.from(svg));
    expect([asset.width, asset.height]).toEqual([null, null]);
    expect((await server.ask('reader', 'GET', '~/assets')).json<AssetPage>().total).toBeGreaterThan(
      40,
    );
    await expect(
      server.services.database.models.assets.update(
        { width: Number.POSITIVE_INFINITY, height: 3 },
        { where: { id: asset.id } },
      ),
    ).rejects.toThrow();
  });
  it('are deleted by writers, unless something shows them', async () => {
    const asset = await upload('gull.gif', 'image/gif', script);
    const remove = (id: string) => server.ask('writer', 'DELETE', `~/assets/${id}`);
    const body = `<conbody><p><image href="asset:${asset.id}"/></p></conbody>`;
    const topic = (
      await server.ask('writer', 'POST', '~/items', { type: 'concept', title: 'Gull' })
    ).json<{ id: string; version: number }>();
    const text = `<concept id="${topic.id}"><title>Gull</title>${body}</concept>`;
    await server.ask('writer', 'PUT', `~/items/${topic.id}`, { text, version: topic.version });
    expect((await remove(asset.id)).json()).toEqual({
      code: 'image.used',
      message: `The image “${asset.id}” is used in “Gull”. Remove it there first.`,
    });
    await server.ask('writer', 'DELETE', `~/items/${topic.id}`);
    expect((await remove(asset.id)).statusCode).toBe(204);
    expect((await remove(asset.id)).statusCode).toBe(404);
    expect((await server.ask('reader', 'GET', `~/assets/${asset.id}/file`)).statusCode).toBe(404);
  });
  it('are kept while an image stands in for them or a design shows them', async () => {
    const [base, other] = [
      await upload('inlet-a.gif', 'image/gif', script),
      await upload('inlet-b.gif', 'image/gif', script),
    ];
    await server.ask('writer', 'PUT', `~/assets/${other.id}/alternate`, {
      of: base.id,
      conditions: { product: 'tern-q' },
    });
    const refused = await server.ask('writer', 'DELETE', `~/assets/${base.id}`);
    expect(refused.json<{ message: string }>().message).toContain('has alternates: “inlet-b.gif”');
    expect((await server.ask('writer', 'DELETE', `~/assets/${other.id}`)).statusCode).toBe(204);
    expect((await server.ask('writer', 'DELETE', `~/assets/${base.id}`)).statusCode).toBe(204);
  });
});

describe('what is made of people’s content', () => {
  it('is shown apart from the application, at an address for one session', async () => {
    const { id } = await built('site', '<p>It rains.</p>');
    const address = await addressOf(`~/impressions/${id}/files/site/index.html`);
    expect(address).toMatch(/^\/content\/[\w.-]+\/site\/index\.html$/u);
    // No cookie is needed there, and none is looked at.
    const { statusCode, headers } = await server.app.inject(address);
    expect(statusCode).toBe(200);
    const policy = String(headers['content-security-policy']);
    expect(policy).toMatch(/sandbox allow-scripts/u);
    expect(policy).not.toContain('allow-same-origin');
    expect(headers).toMatchObject({
      'x-content-type-options': 'nosniff',
      'cross-origin-resource-policy': 'cross-origin',
      'cache-control': 'no-store',
      'referrer-policy': 'no-referrer',
    });
    for (const wrong of [
      address.replace(/content\/./u, 'content/Z'),
      address.replace(/\.[\w-]+\/site/u, '.AAAA/site'),
      '/content/x/site/index.html',
    ])
      expect((await server.app.inject(wrong)).statusCode, wrong).toBe(404);
    for (const outside of ['..%2f..%2fsecret.key', '%2e%2e/x', 'site/..%2f..%2f..%2fsecret.key'])
      expect([400, 404], outside).toContain(
        (await server.app.inject(address.replace('site/index.html', outside))).statusCode,
      );
  });
  it('is shown no longer when the session has ended, and says so', async () => {
    const { id } = await built('site', '<p>It snows.</p>');
    const { people, sessions, editions } = server.services;
    const { edition } = (await editions.impressionRow(id))!;
    const person = await people.create({
      name: 'Guest',
      email: 'guest@brinewell.example',
      password: 'lanternfish',
      role: 'reader',
    });
    const token = await sessions.create(person.id, 'a browser');
    const { headers } = await server.app.inject({
      url: `/api/projects/${server.project}/editions/${edition}/shipped/site/index.html`,
      headers: { cookie: `ukiyo_session=${token}` },
    });
    const address = String(headers.location);
    expect((await server.app.inject(address)).body).toContain('<main id="content">');
    await sessions.endAll(person.id);
    await expect.poll(async () => (await server.app.inject(address)).statusCode).toBe(403);
    expect((await server.app.inject(address)).body).toContain('This address has expired');
  });
  it('has an address of its own where that is set, and nothing else is there', async () => {
    const app = await createApp(server.services, server.queue, {
      contentUrl: 'http://content.localhost',
    });
    const { id } = await built('page', '<p>It hails.</p>');
    const ask = async (host: string, url: string) =>
      app.inject({ url, headers: { host, cookie: await server.cookieOf('reader') } });
    const asked = `/api/projects/${server.project}/impressions/${id}/files/page.html`;
    const address = String((await ask('workshop.localhost', asked)).headers.location);
    expect(address).toMatch(/^http:\/\/content\.localhost\/content\//u);
    const path = new URL(address).pathname;
    const shown = await ask('content.localhost', path);
    expect(shown.statusCode).toBe(200);
    expect(shown.headers['content-security-policy']).toContain(
      'frame-ancestors http://workshop.localhost',
    );
    expect((await ask('workshop.localhost', path)).statusCode).toBe(404);
    expect((await ask('content.localhost', '/api/session')).statusCode).toBe(404);
    expect((await ask('content.localhost', asked)).statusCode).toBe(404);
    await app.close();
  });
});

describe('what is made of people’s content', () => {
  it('is a PDF that browsers open, or text that none interprets', async () => {
    const { id } = await built('print', '<p>It thaws.</p>');
    const { headers } = await server.ask(
      'reader',
      'GET',
      `~/impressions/${id}/files/${outputs.print.file}`,
    );
    expect([headers['content-type'], headers['content-disposition']]).toEqual([
      'application/pdf',
      'inline',
    ]);
    const dita = await built('dita', '<p>It melts.</p>');
    const folder = server.services.impressionFolder(dita.id);
    const [topic] = (await readdir(folder, { recursive: true })).filter((name) =>
      name.endsWith('.dita'),
    );
    const served = await server.ask('reader', 'GET', `~/impressions/${dita.id}/files/${topic!}`);
    expect([served.headers['content-type'], served.headers['content-disposition']]).toEqual([
      'application/octet-stream',
      'attachment',
    ]);
  });
});
