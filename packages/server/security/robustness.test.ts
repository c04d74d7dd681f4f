import { readdir } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { connect } from 'node:net';
import { join } from 'node:path';
import type { Item, LiveAnswer } from '@ukiyo/contracts';
import { limits } from '@ukiyo/core/markup';
import { strToU8, zipSync } from 'fflate';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import WebSocket from 'ws';
import { lineLimits } from '../access/lines.ts';
import { liveLimits } from '../live/limits.ts';
import { startTestServer, type TestServer } from '../testing.ts';

let server: TestServer;
let address: string;
beforeAll(async () => {
  // As it runs: with clerks in processes of their own, and threads.
  server = await startTestServer({ asItRuns: true });
  await server.app.listen({ port: 0, host: '127.0.0.1' });
  address = `127.0.0.1:${(server.app.server.address() as AddressInfo).port}`;
});
afterAll(() => server.close());

const create = async (type: string, title: string): Promise<Item> =>
  (await server.ask('writer', 'POST', '~/items', { type, title })).json<Item>();
const put = (id: string, text: string, version: number) =>
  server.ask('writer', 'PUT', `~/items/${id}`, { text, version });
const concept = (id: string, body: string): string =>
  `<concept id="${id}"><title>T</title><conbody>${body}</conbody></concept>`;

/** An editor's line on a real socket. */
class Line {
  readonly heard: LiveAnswer[] = [];
  closed: number | undefined;
  #wake: () => void = () => undefined;
  private constructor(readonly socket: WebSocket) {
    socket.on('message', (data: Buffer) => {
      this.heard.push(JSON.parse(data.toString()) as LiveAnswer);
      this.#wake();
    });
    socket.on('close', (code) => {
      this.closed = code;
      this.#wake();
    });
  }
  static async to(topic: string, cookie: string, secret: string): Promise<Line> {
    const path = `/api/projects/${server.project}/live/${topic}`;
    const line = new Line(new WebSocket(`ws://${address}${path}`, { headers: { cookie } }));
    await new Promise((resolve) => line.socket.once('open', resolve));
    line.say({ kind: 'open', client: secret });
    return line;
  }
  say(message: object): void {
    this.socket.send(JSON.stringify(message));
  }
  async until(holds: () => boolean): Promise<void> {
    while (!holds()) await new Promise<void>((resolve) => (this.#wake = resolve));
  }
  async answer<Kind extends LiveAnswer['kind']>(kind: Kind) {
    const found = () => this.heard.find((one) => one.kind === kind);
    await this.until(() => found() !== undefined || this.closed !== undefined);
    return found() as Extract<LiveAnswer, { kind: Kind }> | undefined;
  }
}

describe('lines of editors', () => {
  it('cannot be taken over by somebody who knows how others hear of them', async () => {
    const { id } = await create('concept', 'Taken over');
    const [noor, mira] = [await server.cookieOf('writer'), await server.cookieOf('reader')];
    const writer = await Line.to(id, noor, 'a-secret');
    const { client } = (await writer.answer('welcome'))!;
    const { epoch } = (await writer.answer('document'))!;
    for (const secret of [client, 'a-secret']) {
      const thief = await Line.to(id, mira, secret);
      expect((await thief.answer('welcome'))!.client).not.toBe(client);
    }
    const step = {
      stepType: 'replace',
      from: 2,
      to: 2,
      slice: { content: [{ type: 'text', text: 'Not ' }] },
    };
    writer.say({ kind: 'steps', epoch, version: 0, steps: [step] });
    expect((await writer.answer('steps'))!.clients).toEqual([client]);
    expect(writer.closed).toBeUndefined();
    // The same person with the same secret takes up the line again.
    const again = await Line.to(id, noor, 'a-secret');
    expect((await again.answer('welcome'))!.client).toBe(client);
    await writer.until(() => writer.closed !== undefined);
  });

  it('of one person are limited, and the others are told of those that are let in', async () => {
    const { id } = await create('concept', 'Crowded');
    const cookie = await server.cookieOf('reader');
    const watcher = await Line.to(id, await server.cookieOf('writer'), 'watcher');
    await watcher.answer('document');
    const lines = await Promise.all(
      Array.from({ length: 100 }, (_, index) => Line.to(id, cookie, `flood-${index}`)),
    );
    await Promise.all(
      lines.map((line) =>
        line.until(
          () => line.closed !== undefined || line.heard.some(({ kind }) => kind === 'document'),
        ),
      ),
    );
    const open = lines.filter((line) => line.closed === undefined);
    expect(open.length).toBe(lineLimits.perPersonAndPlace);
    expect((await lines.find((line) => line.closed === 4429)!.answer('refused'))?.code).toBe(
      'live.too-many',
    );
    await watcher.until(() =>
      watcher.heard.some(
        (one) => one.kind === 'people' && one.people.length === lineLimits.perPersonAndPlace + 1,
      ),
    );
    for (const { socket } of [watcher, ...lines]) socket.terminate();
  });

  it('take all that a quick hand says, and let what floods them wait', async () => {
    const { id } = await create('concept', 'Flooded');
    const line = await Line.to(id, await server.cookieOf('writer'), 'flood');
    const other = await Line.to(id, await server.cookieOf('reviewer'), 'other');
    await line.answer('document');
    await other.answer('document');
    for (let count = 0; count < 2000; count += 1)
      line.say({ kind: 'caret', caret: { version: 0, anchor: 2, head: 2 + (count % 2) } });
    line.say({ kind: 'name', note: 'After the flood' });
    expect((await server.ask('reader', 'GET', '/session')).statusCode).toBe(200);
    await line.answer('stored');
    // Carets are told together, however many are said.
    expect(other.heard.filter(({ kind }) => kind === 'carets').length).toBeLessThan(2000);
    for (const { socket } of [line, other]) socket.terminate();
  }, 90_000);
});

describe('texts', () => {
  it('have one limit: what was written is read again, and what is larger is refused', async () => {
    const { id, version } = await create('concept', 'Long');
    const frame = concept(id, '<p></p>').length;
    const text = concept(id, `<p>${'tide '.repeat((limits.size - frame - 10) / 5)}</p>`);
    expect((await put(id, text, version)).statusCode).toBe(200);
    const read = (await server.ask('reader', 'GET', `~/items/${id}`)).json<Item>();
    expect((await put(id, `${read.text} `, read.version)).statusCode).toBe(200);
    const refused = await put(id, ' '.repeat(limits.size + 1), read.version);
    expect(refused.statusCode).toBe(400);
    expect(refused.json<{ message: string }>().message).toContain('more than 4 million characters');
  }, 60_000);

  it('that are too large for the page are not opened there, and cannot become so', async () => {
    const { id, version } = await create('concept', 'Growing');
    const cookie = await server.cookieOf('writer');
    await put(id, concept(id, '<p>x</p>'.repeat(liveLimits.elements)), version);
    const refused = await Line.to(id, cookie, 'large');
    expect((await refused.answer('refused'))?.code).toBe('live.unreadable');

    const small = await create('concept', 'Small');
    const line = await Line.to(small.id, cookie, 'grows');
    const { epoch } = (await line.answer('document'))!;
    const grow = (text: string, at: number) =>
      line.say({
        kind: 'steps',
        epoch,
        version: at,
        steps: [
          { stepType: 'replace', from: 2, to: 2, slice: { content: [{ type: 'text', text }] } },
        ],
      });
    grow('x'.repeat(liveLimits.characters * 0.9), 0);
    await line.answer('steps');
    grow('y'.repeat(liveLimits.characters * 0.2), 1);
    expect((await line.answer('refused'))?.message).toContain('too large to edit on the page');
    for (const { socket } of [refused, line]) socket.terminate();
  }, 60_000);
});

describe('packages', () => {
  const topic = (id: string): Uint8Array =>
    strToU8(`<concept id="${id}"><title>T</title></concept>`);
  const send = (bytes: Uint8Array) =>
    server.upload('publisher', '~/package', { name: 'a.zip', type: 'application/zip', bytes });
  const total = async (): Promise<number> =>
    (await server.ask('reader', 'GET', '~/items?limit=1')).json<{ total: number }>().total;

  it('with any fault are refused whole, with the entry, and leave nothing behind', async () => {
    const before = await total();
    const whole = Buffer.from(zipSync({ 'one.dita': topic('one'), 'xx/two.dita': topic('two') }));
    const leading = Buffer.from(whole.toString('latin1').replaceAll('xx/two', '../two'), 'latin1');
    const answer = await send(leading);
    expect(answer.statusCode).toBe(422);
    expect(answer.json<{ message: string }>().message).toMatch(
      /\.\.\/two\.dita.*Nothing was imported\.$/u,
    );
    expect(await total()).toBe(before);
    expect(await readdir(join(server.settings.dataFolder, 'temporary'))).toEqual([]);
    expect((await send(whole)).statusCode).toBe(200);
    expect(await total()).toBe(before + 2);
  }, 60_000);

  it('of one person go out one at a time', async () => {
    const answers = await Promise.all(
      Array.from({ length: 20 }, () => server.ask('reader', 'GET', '~/package')),
    );
    const codes = answers.map(({ statusCode }) => statusCode);
    expect([
      codes.filter((code) => code === 200).length,
      codes.filter((code) => code === 429).length,
    ]).toEqual([1, 19]);
  }, 60_000);
});

describe('slow requests', () => {
  const spoken = (lines: string): Promise<string> =>
    new Promise((resolve) => {
      const [host, port] = address.split(':');
      const socket = connect(Number(port), host);
      let heard = '';
      socket.on('data', (chunk) => (heard += chunk.toString()));
      socket.on('close', () => resolve(heard));
      socket.on('error', () => undefined);
      socket.write(lines);
    });
  it('whose headers or body do not come are ended', async () => {
    const [headers] = await Promise.all([
      spoken('GET /api/health HTTP/1.1\r\nHost: x\r\nX-Slow: '),
      spoken(
        'POST /api/session HTTP/1.1\r\nHost: x\r\nContent-Type: application/json\r\n' +
          'Content-Length: 1000\r\n\r\n{',
      ),
    ]);
    expect(headers).toContain('408');
  }, 60_000);
});
