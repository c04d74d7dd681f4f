import type { FastifyInstance } from 'fastify';
import type { Item, LiveAnswer, LiveDocument, LiveRequest } from '@ukiyo/contracts';
import { applySteps, documentFrom, fromEditor, type AppliedSteps } from '@ukiyo/core/editing';
import { textOf } from '@ukiyo/core/markup';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { createApp, openQueue } from '../index.ts';
import { startTestServer, type TestServer } from '../testing.ts';

type Role = 'administrator' | 'writer' | 'reviewer' | 'reader';
let server: TestServer;
beforeAll(async () => void (server = await startTestServer()));
afterAll(() => server.close());

/** One end of a line: says and hears by hand. */
class Line {
  readonly heard: LiveAnswer[] = [];
  isClosed = false;
  /** As everybody hears of it. */
  client = '';
  #wake: (() => void)[] = [];
  constructor(
    private readonly socket: Awaited<ReturnType<TestServer['app']['injectWS']>>,
    /** What the editor calls itself, which only it and its authority know. */
    readonly secret: string,
  ) {
    socket.on('message', (data: { toString(): string }) => {
      const answer = JSON.parse(data.toString()) as LiveAnswer;
      if (answer.kind === 'welcome') this.client = answer.client;
      this.heard.push(answer);
      this.#wake.splice(0).forEach((wake) => wake());
    });
    socket.on('close', () => {
      this.isClosed = true;
      this.#wake.splice(0).forEach((wake) => wake());
    });
  }
  say(request: LiveRequest): void {
    this.socket.send(JSON.stringify(request));
  }
  sayRaw(text: string): void {
    this.socket.send(text);
  }
  /** The next answer of a kind, taken out of what was heard. */
  async next<Kind extends LiveAnswer['kind']>(
    kind: Kind,
  ): Promise<Extract<LiveAnswer, { kind: Kind }>> {
    for (;;) {
      const index = this.heard.findIndex((answer) => answer.kind === kind);
      if (index !== -1)
        return this.heard.splice(index, 1)[0] as Extract<LiveAnswer, { kind: Kind }>;
      await new Promise<void>((resolve) => this.#wake.push(resolve));
    }
  }
  close(): void {
    this.socket.terminate();
  }
}

interface LineOptions {
  readonly app?: FastifyInstance;
  readonly known?: { readonly epoch: string; readonly version: number };
}

/** A line to a topic. @param known where the editor stood, when it was there before */
async function lineTo(
  topic: string,
  role: Role,
  client: string,
  { app = server.app, known }: LineOptions = {},
): Promise<Line> {
  const socket = await app.injectWS(`/api/projects/${server.project}/live/${topic}`, {
    headers: { cookie: await server.cookieOf(role) },
  });
  const line = new Line(socket, client);
  line.say({ kind: 'open', client, ...(known ? { known } : {}) });
  return line;
}
async function newTopic(title: string): Promise<string> {
  return (
    await server.ask('writer', 'POST', '~/items', { type: 'concept', title, folder: 'live' })
  ).json<Item>().id;
}
const textAt = async (id: string): Promise<string> =>
  (await server.ask('reader', 'GET', `~/items/${id}`)).json<Item>().text;
/** Letters typed at the start of the title. */
const typed = (words: string): object => ({
  stepType: 'replace',
  from: 2,
  to: 2,
  slice: { content: [{ type: 'text', text: words }] },
});
type Document = Extract<AppliedSteps, { document: unknown }>['document'];
const titleIn = (document: Document): string => textOf(fromEditor(document).children[0]!);

it('sends the document, takes steps, tells everybody and writes the text', async () => {
  const id = await newTopic('Tide');
  const teo = await lineTo(id, 'writer', 'teo');
  const noor = await lineTo(id, 'administrator', 'ada');
  const { epoch, version, document } = await teo.next('document');
  expect(version).toBe(0);
  await noor.next('document');
  teo.say({ kind: 'steps', epoch, version, steps: [typed('High ')] });
  for (const line of [teo, noor])
    expect(await line.next('steps')).toMatchObject({ version: 0, clients: [teo.client] });
  expect(await noor.next('stored')).toMatchObject({ version: 1, title: 'High Tide' });
  expect(await textAt(id)).toContain('<title>High Tide</title>');
  expect(titleIn(documentFrom(document)!)).toBe('Tide');
  expect((await server.ask('reader', 'GET', `~/items/${id}/revisions`)).json()).toMatchObject([
    { version: 2, author: 'Noor Haddad' },
    { version: 1 },
  ]);
  teo.close();
  noor.close();
});

it('gives the document before the line, which then brings only what is newer', async () => {
  const id = await newTopic('Ebb');
  const early = await server.ask('reader', 'GET', `~/live/${id}/document`);
  const { epoch, version, document } = early.json<LiveDocument>();
  expect(titleIn(documentFrom(document)!)).toBe('Ebb');
  const one = await lineTo(id, 'writer', 'one');
  await one.next('document');
  one.say({ kind: 'steps', epoch, version, steps: [typed('Low ')] });
  await one.next('steps');
  const two = await lineTo(id, 'writer', 'two', { known: { epoch, version } });
  expect(await two.next('steps')).toMatchObject({ version, clients: [one.client] });
  expect((await server.ask('reader', 'GET', '~/live/no-such-topic/document')).statusCode).toBe(404);
  one.close();
  two.close();
});

it('accepts one of two concurrent steps, and lets the other editor catch up', async () => {
  const id = await newTopic('Race');
  const [one, two] = [await lineTo(id, 'writer', 'one'), await lineTo(id, 'writer', 'two')];
  const { epoch } = await one.next('document');
  await two.next('document');
  one.say({ kind: 'steps', epoch, version: 0, steps: [typed('A')] });
  two.say({ kind: 'steps', epoch, version: 0, steps: [typed('B')] });
  const first = await two.next('steps');
  expect(first).toMatchObject({ version: 0, clients: [one.client] });
  two.say({ kind: 'steps', epoch, version: 1, steps: [typed('B')] });
  expect(await one.next('steps')).toMatchObject({ clients: [one.client] });
  expect(await one.next('steps')).toMatchObject({ version: 1, clients: [two.client] });
  expect(await textAt(id)).toContain('<title>BARace</title>');
  one.close();
  two.close();
});

it('sends missed steps to an editor that was away, or the document after a restart', async () => {
  const id = await newTopic('Away');
  const stays = await lineTo(id, 'writer', 'stays');
  const { epoch } = await stays.next('document');
  for (let version = 0; version < 3; version += 1) {
    stays.say({ kind: 'steps', epoch, version, steps: [typed(String(version))] });
    await stays.next('steps');
  }
  const back = await lineTo(id, 'writer', 'back', { known: { epoch, version: 1 } });
  expect(await back.next('steps')).toMatchObject({
    version: 1,
    clients: [stays.client, stays.client],
  });
  const stranger = await lineTo(id, 'writer', 'stranger', {
    known: {
      epoch: '00000000-0000-4000-8000-000000000000',
      version: 1,
    },
  });
  expect(await stranger.next('document')).toMatchObject({ version: 3 });
  for (const line of [stays, back, stranger]) line.close();
});

it('takes nothing from a reader, nothing forged and nothing that is not a message', async () => {
  const id = await newTopic('Guarded');
  const before = await textAt(id);
  const reader = await lineTo(id, 'reader', 'reader');
  const { epoch } = await reader.next('document');
  reader.say({ kind: 'steps', epoch, version: 0, steps: [typed('x')] });
  expect(await reader.next('refused')).toMatchObject({ code: 'live.read-only' });
  reader.say({ kind: 'name', note: 'mine' });
  expect(await reader.next('refused')).toMatchObject({ code: 'live.read-only' });

  const forger = await lineTo(id, 'writer', 'forger');
  await forger.next('document');
  for (const step of [
    { stepType: 'replace', from: 0, to: 1 },
    { stepType: 'none' },
    null,
    { stepType: 'replace', from: 2, to: 2, slice: { content: [{ type: 'section' }] } },
  ]) {
    forger.say({ kind: 'steps', epoch, version: 0, steps: [step] });
    expect(await forger.next('refused')).toMatchObject({ code: 'live.invalid' });
  }
  for (const raw of [
    '',
    '{',
    '{"kind":"steps"}',
    '[]',
    JSON.stringify({ kind: 'open', client: '<script>' }),
  ]) {
    forger.sayRaw(raw);
    expect(await forger.next('refused')).toMatchObject({ code: 'live.not-understood' });
  }
  // Out of order: from a version that is not yet.
  forger.say({ kind: 'steps', epoch, version: 7, steps: [typed('x')] });
  forger.say({
    kind: 'steps',
    epoch: '00000000-0000-4000-8000-000000000000',
    version: 0,
    steps: [typed('x')],
  });
  forger.say({ kind: 'steps', epoch, version: 0, steps: [typed('ok ')] });
  expect(await forger.next('steps')).toMatchObject({ version: 0 });
  expect(await textAt(id)).toBe(before.replace('Guarded', 'ok Guarded'));
  reader.close();
  forger.close();
});

it('opens no line for those who are not signed in or come from another site', async () => {
  const id = await newTopic('Closed');
  const address = `/api/projects/${server.project}/live/${id}`;
  await expect(server.app.injectWS(address, {})).rejects.toThrow('401');
  await expect(
    server.app.injectWS(address, {
      headers: { cookie: await server.cookieOf('writer'), origin: 'https://evil.example' },
    }),
  ).rejects.toThrow('403');
});

it('says so when the topic is not there, cannot be read, or is removed', async () => {
  const none = await lineTo('no-such-topic', 'writer', 'a');
  expect(await none.next('refused')).toMatchObject({ code: 'live.unreadable' });
  const id = await newTopic('Short life');
  const line = await lineTo(id, 'writer', 'b');
  const { epoch } = await line.next('document');
  await server.ask('writer', 'DELETE', `~/items/${id}`);
  expect(await line.next('refused')).toMatchObject({ code: 'live.gone' });
  line.say({ kind: 'steps', epoch, version: 0, steps: [typed('x')] });
  expect(await server.ask('reader', 'GET', `~/items/${id}`)).toMatchObject({ statusCode: 404 });
  none.close();
  line.close();
});

it('two processes on one database decide together', async () => {
  const id = await newTopic('Two houses');
  const queue = await openQueue(server.services, server.settings, { error: () => undefined });
  const second = await createApp(server.services, queue);
  await second.ready();
  try {
    const [here, there] = [
      await lineTo(id, 'writer', 'here'),
      await lineTo(id, 'writer', 'there', { app: second }),
    ];
    const { epoch } = await here.next('document');
    await there.next('document');
    // Each keeps trying on what it knows until its ten letters are in.
    const write = async (line: Line, letters: string): Promise<void> => {
      let version = 0;
      for (const letter of letters) {
        for (let mine = false; !mine;) {
          line.say({ kind: 'steps', epoch, version, steps: [typed(letter)] });
          for (let moved = false; !moved;) {
            const answer = await line.next('steps');
            if (answer.version + answer.steps.length <= version) continue;
            const clients = answer.clients.slice(version - answer.version);
            version += clients.length;
            mine ||= clients.includes(line.client);
            moved = true;
          }
        }
      }
    };
    await Promise.all([write(here, 'abcdefghij'), write(there, '0123456789')]);
    const title = /<title>(.*)Two houses/u.exec(await textAt(id))![1]!;
    expect(Array.from(title).sort().join('')).toBe('0123456789abcdefghij');
    expect(title.replace(/\d/gu, '')).toBe('jihgfedcba');
    here.close();
    there.close();
  } finally {
    await second.close();
    await queue.close();
  }
});

it('what was acknowledged before a crash is in the texts after the next start', async () => {
  const id = await newTopic('Crash');
  const line = await lineTo(id, 'writer', 'line');
  const { epoch } = await line.next('document');
  line.close();
  // As if the process had ended between the acknowledgement and the writing of the text.
  await server.services.live.append(
    { project: server.project, item: id },
    {
      epoch,
      version: 0,
      steps: [typed('Survived the ')],
      client: 'x',
      person: 'Noor Haddad',
    },
  );
  const queue = await openQueue(server.services, server.settings, { error: () => undefined });
  const next = await createApp(server.services, queue);
  await next.ready();
  expect((await server.services.items.find(server.project, id))!.text).toContain(
    'Survived the Crash',
  );
  await next.close();
  await queue.close();
});

it('what was typed a moment ago is in what the clock builds', async () => {
  const id = await newTopic('Low water');
  const line = await lineTo(id, 'writer', 'line');
  const { epoch } = await line.next('document');
  line.say({ kind: 'steps', epoch, version: 0, steps: [typed('Spring ')] });
  await line.next('steps');
  const stored = async (): Promise<string> =>
    (await server.services.items.find(server.project, id))!.text;
  expect(await stored()).not.toContain('Spring');
  const edition = (
    await server.ask('publisher', 'POST', '~/editions', {
      name: 'At night',
      output: 'page',
      map: 'help',
      lens: null,
      nightly: '03:10',
    })
  ).json<{ id: string }>();
  await server.queue.buildDue(new Date(2031, 4, 2, 3, 10));
  expect(await stored()).toContain('Spring Low water');
  const [queued] = await server.services.editions.impressionsOf(server.project, edition.id);
  expect(queued).toMatchObject({ state: 'queued', person: 'The clock' });
  line.close();
});

it('a whole text becomes a step, and one that cannot be edited ends live editing', async () => {
  const id = await newTopic('Whole');
  const line = await lineTo(id, 'writer', 'line');
  const { document } = await line.next('document');
  const item = (await server.ask('writer', 'GET', `~/items/${id}`)).json<Item>();
  expect(
    (
      await server.ask('writer', 'PUT', `~/items/${id}`, {
        text: item.text.replace('Whole', 'Half'),
        version: item.version,
      })
    ).statusCode,
  ).toBe(200);
  const { steps } = await line.next('steps');
  const applied = applySteps(documentFrom(document)!, steps);
  expect('document' in applied && titleIn(applied.document)).toBe('Half');
  expect(
    (
      await server.ask('writer', 'PUT', `~/items/${id}`, {
        text: item.text,
        version: item.version,
      })
    ).statusCode,
  ).toBe(409);
  const now = (await server.ask('writer', 'GET', `~/items/${id}`)).json<Item>();
  expect(
    (
      await server.ask('writer', 'PUT', `~/items/${id}`, {
        text: '<concept',
        version: now.version,
      })
    ).statusCode,
  ).toBe(200);
  expect(await line.next('refused')).toMatchObject({ code: 'live.unreadable' });
  expect(await textAt(id)).toBe('<concept');
  line.close();
});

it('names a revision, and the people see each other and their carets', async () => {
  const id = await newTopic('Named');
  const [one, two] = [await lineTo(id, 'writer', 'one'), await lineTo(id, 'reviewer', 'two')];
  await one.next('document');
  await two.next('document');
  for (;;) if ((await two.next('people')).people.length === 2) break;
  one.say({ kind: 'caret', caret: { version: 0, anchor: 2, head: 4 } });
  expect(await two.next('carets')).toEqual({
    kind: 'carets',
    carets: [{ client: one.client, caret: { version: 0, anchor: 2, head: 4 } }],
  });
  one.say({ kind: 'name', note: 'Sent to the yard' });
  await one.next('stored');
  expect((await server.ask('reader', 'GET', `~/items/${id}/revisions`)).json()).toMatchObject([
    { note: 'Sent to the yard' },
    { note: '' },
  ]);
  two.close();
  for (;;) if ((await one.next('people')).people.length === 1) break;
  one.close();
});
