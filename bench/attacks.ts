/**
 * What one person can do to the others: `npm run bench -- attacks`. Beside each attack, another
 * reader asks for a topic again and again; told are how long the slowest hundredth waits, and how
 * large the server becomes. Needs the database that the command starts.
 */
import { connect } from 'node:net';
import { join } from 'node:path';
import type { LiveAnswer, LiveRequest } from '@ukiyo/contracts';
import { strToU8, zipSync } from 'fflate';
import WebSocket from 'ws';
import { liveLimits } from '../packages/server/live/limits.ts';
import { freshGround, serve } from '../e2e/serving.ts';
import { report } from './measure.ts';

const port = 4793;
const host = `127.0.0.1:${port}`;
const { stop } = await serve(await freshGround('attacks'), port, {
  DEMO_FOLDER: join(process.cwd(), 'demo'),
});
const rest = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds));

interface Signed {
  readonly cookie: string;
  ask(path: string, method?: string, body?: unknown): Promise<Response>;
  upload(path: string, name: string, bytes: Uint8Array): Promise<Response>;
}
async function signIn(name: string): Promise<Signed> {
  const answer = await fetch(`http://${host}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: `${name}@brinewell.example`, password: 'lanternfish' }),
  });
  const cookie = answer.headers.get('set-cookie')!.split(';')[0]!;
  const { projects } = (await answer.json()) as { projects: { id: string }[] };
  const base = `http://${host}/api/projects/${projects[0]!.id}`;
  return {
    cookie,
    ask: (path, method = 'GET', body) =>
      fetch(`${base}${path}`, {
        method,
        headers: {
          cookie,
          ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      }),
    upload: (path, name, bytes) => {
      const form = new FormData();
      form.append('file', new Blob([Buffer.from(bytes)]), name);
      return fetch(`${base}${path}`, { method: 'POST', headers: { cookie }, body: form });
    },
  };
}
const [ada, teo, noor, mira, ines] = await Promise.all(
  ['ada', 'teo', 'noor', 'mira', 'ines'].map(signIn),
);
const memory = async (): Promise<number> =>
  ((await (await fetch(`http://${host}/api/health`)).json()) as { memory: number }).memory;

/** Does something, and meanwhile what another reader does all day. */
async function beside(name: string, attack: () => Promise<unknown>): Promise<void> {
  const waits: number[] = [];
  let isOver = false;
  let largest = 0;
  const reading = (async () => {
    for (let count = 0; !isOver || count < 60; count += 1) {
      const began = performance.now();
      await (await ines!.ask('/items/alarms')).arrayBuffer();
      waits.push(performance.now() - began);
      if (count % 10 === 0) largest = Math.max(largest, await memory());
      await rest(15);
    }
  })();
  const began = performance.now();
  await attack();
  const took = performance.now() - began;
  isOver = true;
  await reading;
  waits.sort((a, b) => a - b);
  report(`${name}: p99 of others`, waits[Math.floor(waits.length * 0.99)]!, 'ms', 250);
  report(`${name}: the server`, largest / 1024 / 1024, 'MB', 700);
  console.log(`  ${waits.length} requests of others in ${(took / 1000).toFixed(1)} s`);
}
const times = <Value>(count: number, act: (index: number) => Promise<Value>): Promise<Value[]> =>
  Promise.all(Array.from({ length: count }, (_, index) => act(index)));
const done = async (answer: Promise<Response>): Promise<number> => {
  const { status, body } = await answer;
  await body?.cancel();
  return status;
};
async function newTopic(title: string): Promise<{ id: string; version: number }> {
  const made = await noor!.ask('/items', 'POST', { type: 'concept', title });
  return (await made.json()) as { id: string; version: number };
}
const concept = (id: string, body: string): string =>
  `<concept id="${id}"><title>T</title><conbody>${body}</conbody></concept>`;

/**
 * What people ask for all day, by turns.
 * @returns the least memory that the server had meanwhile, in MB: what it has at one moment depends
 * on how long ago it last took out what is needed no more
 */
async function mixedRequests(count: number): Promise<number> {
  let least = Infinity;
  for (let index = 0; index < count; index += 1) {
    const person = [ada, teo, noor, mira][index % 4]!;
    const paths = ['/items', '/items/alarms', '/assets', '/variables', '/designs', '/impressions'];
    await done(person.ask(paths[index % paths.length]!));
    if (index % 50 === 0) least = Math.min(least, await memory());
  }
  return least / 1024 / 1024;
}
// The first ones fill what is kept at hand.
await mixedRequests(2000);
const after = [await mixedRequests(5000), await mixedRequests(5000)] as const;
report('least memory in 5,000 mixed requests', after[0], 'MB');
report('in 5,000 further ones, more', after[1] - after[0], 'MB', 20);

await beside('nothing', () => rest(3000));

await beside('500 lines of one reader to a topic', async () => {
  const { pathname } = new URL((await mira!.ask('/items')).url);
  const sockets = Array.from({ length: 500 }, (_, index) => {
    const socket = new WebSocket(`ws://${host}${pathname.replace('/items', '/live/alarms')}`, {
      headers: { cookie: mira!.cookie },
    });
    socket.on('open', () => socket.send(JSON.stringify({ kind: 'open', client: `c${index}` })));
    socket.on('error', () => undefined);
    return socket;
  });
  await rest(6000);
  for (const socket of sockets) socket.terminate();
});

await beside('100 passwords at once', () =>
  times(100, (index) =>
    done(
      fetch(`http://${host}/api/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ email: 'yuki@brinewell.example', password: `guess ${index}` }),
      }),
    ),
  ),
);

await beside('texts of 100,000 elements', async () => {
  for (let count = 0; count < 4; count += 1) {
    const { id, version } = await newTopic(`Many ${count}`);
    const text = concept(id, '<p>tide</p>'.repeat(99_000));
    await done(noor!.ask(`/items/${id}`, 'PUT', { text, version }));
  }
});
await beside('reading a text of 4 MB 60 times', async () => {
  const { id, version } = await newTopic('Long');
  const text = concept(id, `<p>${'tide '.repeat(830_000)}</p>`);
  await done(noor!.ask(`/items/${id}`, 'PUT', { text, version }));
  for (let count = 0; count < 6; count += 1)
    await times(10, async () => (await mira!.ask(`/items/${id}`)).arrayBuffer());
});

await beside('five who type in the longest topic that the page takes', async () => {
  const { id, version } = await newTopic('Longest');
  const text = concept(id, '<p>tide</p>'.repeat(liveLimits.elements - 10));
  await done(noor!.ask(`/items/${id}`, 'PUT', { text, version }));
  const { pathname } = new URL((await noor!.ask('/items')).url);
  const slice = { content: [{ type: 'text', text: 'a' }] };
  const step = { stepType: 'replace', from: 2, to: 2, slice };
  let steps = 0;
  const sockets = Array.from({ length: 5 }, (_, index) => {
    const socket = new WebSocket(`ws://${host}${pathname.replace('/items', `/live/${id}`)}`, {
      headers: { cookie: noor!.cookie },
    });
    let epoch = '';
    let at = 0;
    const say = (message: LiveRequest): void => socket.send(JSON.stringify(message));
    socket.on('open', () => say({ kind: 'open', client: `c${index}` }));
    socket.on('message', (data: Buffer) => {
      const answer = JSON.parse(data.toString()) as LiveAnswer;
      if (answer.kind === 'document') ({ epoch, version: at } = answer);
      else if (answer.kind === 'steps') at = answer.version + answer.steps.length;
      else return;
      steps += 1;
      setTimeout(() => say({ kind: 'steps', epoch, version: at, steps: [step] }), 40);
    });
    socket.on('error', () => undefined);
    return socket;
  });
  await rest(20_000);
  console.log(`  ${steps} answers`);
  for (const socket of sockets) socket.terminate();
});

const agreed = (await (await ada!.ask('/agreements')).json()) as object;
const rules = Array.from({ length: 500 }, (_, index) => ({
  id: `r${index}`,
  severity: 'warning',
  ...(index % 2 === 0
    ? { kind: 'phrase', phrase: `wording ${index}`, instead: '' }
    : { kind: 'pattern', element: 'p', pattern: `^[a-z]+ ${index}` }),
}));
await ada!.ask('/agreements', 'PUT', { ...agreed, rules });
await beside('a paragraph of 4 MB under 500 rules', async () => {
  const { id, version } = await newTopic('Ruled');
  const text = concept(id, `<p>${'tide '.repeat(830_000)}</p>`);
  await done(noor!.ask(`/items/${id}`, 'PUT', { text, version }));
});
const now = (await (await ada!.ask('/agreements')).json()) as object;
await ada!.ask('/agreements', 'PUT', { ...now, rules: [] });

// Packed before: the others must not wait for this program.
const longTexts = zipSync(
  Object.fromEntries(
    Array.from({ length: 24 }, (_, index): [string, Uint8Array] => [
      `t${index}.dita`,
      strToU8(concept(`t${index}`, `<p>${'tide '.repeat(830_000)}</p>`)),
    ]),
  ),
);
await beside('a package of 24 texts of 4 MB', async () => {
  const status = await done(teo!.upload('/package', 'a.zip', longTexts));
  console.log(`  answered with ${status}`);
});
const manyEntries = zipSync(
  Object.fromEntries(
    Array.from({ length: 65_000 }, (_, index) => [`${index}.txt`, new Uint8Array()]),
  ),
  { level: 0 },
);
await beside('a package of 65,000 entries', () =>
  done(teo!.upload('/package', 'b.zip', manyEntries)),
);
await beside('20 packages at once', () => times(20, () => done(mira!.ask('/package'))));
await beside('drawings of 4 MB', () =>
  times(6, (index) => {
    const shapes = '<path style="fill:red" d="M0 0L1 1"/>'.repeat(70_000);
    const svg = `<svg xmlns="http://www.w3.org/2000/svg">${shapes}</svg>`;
    return done(noor!.upload('/assets', `d${index}.svg`, strToU8(svg)));
  }),
);
await beside('60 whole proofs at once', async () => {
  const editions = (await (await mira!.ask('/editions')).json()) as { id: string }[];
  await times(60, (index) =>
    done(mira!.ask(`/editions/${editions[index % editions.length]!.id}/readers`)),
  );
});
await beside('200 requests that do not end', async () => {
  const sockets = Array.from({ length: 200 }, (_, index) => {
    const socket = connect(port, '127.0.0.1');
    socket.on('error', () => undefined);
    socket.resume();
    socket.write(
      index % 2 === 0
        ? 'GET /api/health HTTP/1.1\r\nHost: x\r\nX: '
        : 'POST /api/session HTTP/1.1\r\nHost: x\r\nContent-Length: 9999\r\n\r\n{',
    );
    return socket;
  });
  await rest(25_000);
  report('of them still open after 25 s', sockets.filter((one) => !one.destroyed).length, '', 0);
  for (const socket of sockets) socket.destroy();
});

await stop();
