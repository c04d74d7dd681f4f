import { execFile, execFileSync, spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { expect, test } from '@playwright/test';
import { freshGround, serve } from './serving.ts';

const run = promisify(execFile);
const demoAddress = 'http://127.0.0.1:4781';
const root = join(import.meta.dirname, '..');
const signIn = async (
  address: string,
  email = 'ada@brinewell.example',
): Promise<{ cookie: string; project: string }> => {
  const answer = await fetch(`${address}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email, password: 'lanternfish' }),
  });
  const { projects } = (await answer.json()) as { projects: { id: string }[] };
  return {
    cookie: answer.headers.get('set-cookie')!.split(';')[0]!,
    project: `${address}/api/projects/${projects[0]!.id}`,
  };
};

/** Takes the library of one server into an empty one, and back into its own. */
async function copyLibrary(empty: { email: string; password: string } | undefined): Promise<void> {
  const file = join(mkdtempSync(join(tmpdir(), 'ukiyo-library-')), 'library.zip');
  const library = (
    direction: string,
    port: number,
    { email, password } = { email: 'ada@brinewell.example', password: 'lanternfish' },
  ) =>
    run(process.execPath, ['scripts/library.mjs', direction, file], {
      cwd: root,
      env: {
        ...process.env,
        UKIYO_URL: `http://127.0.0.1:${port}`,
        UKIYO_EMAIL: email,
        UKIYO_PASSWORD: password,
      },
    });
  expect((await library('out', 4781)).stdout).toContain('Tern stations is in');
  expect((await library('in', 4782, empty)).stdout).toContain(
    '154 topics and maps, 45 images, 7 lenses, 10 editions taken in',
  );
  expect((await library('in', 4781)).stdout).toContain('0 topics and maps, 0 images');
  const { cookie, project } = await signIn(demoAddress);
  expect(
    (
      await fetch(`${project}/items/alarms?by=alarm-codes`, {
        method: 'DELETE',
        headers: { cookie },
      })
    ).status,
  ).toBe(204);
  expect((await library('in', 4781)).stdout).toContain('1 topics and maps, 0 images');
  await expect(
    library('out', 4781, { email: 'ada@brinewell.example', password: 'wrong' }),
  ).rejects.toThrow(/password/u);
  await expect(
    run(process.execPath, ['scripts/library.mjs', 'sideways', file], { cwd: root }),
  ).rejects.toMatchObject({ code: 2 });
}

/** Builds editions as a person who signs in, and fails as the options say. */
async function publishEditions(out: string): Promise<void> {
  const account = {
    UKIYO_URL: demoAddress,
    UKIYO_EMAIL: 'teo@brinewell.example',
    UKIYO_PASSWORD: 'lanternfish',
  };
  const publish = (...args: string[]) =>
    run(process.execPath, ['scripts/publish.mjs', ...args], {
      cwd: root,
      env: { ...process.env, ...account },
    });
  const { stdout } = await publish(
    '--edition',
    'Tern Station Interface',
    '--edition',
    'Tern Operator’s Handbook',
    '--out',
    out,
    '--fail-on',
    'error',
  ).catch((error: unknown) => error as { stdout: string });
  expect(stdout).toMatch(/Tern Station Interface, number 1: done, \d+ pages, 0 problems/u);
  expect(stdout).toContain(
    'error: A link leads to “pilot-set.dita#pilot-set”, which is not in the library. ' +
      '(share-with-pilots)',
  );
  expect(statSync(join(out, 'Tern Station Interface.zip')).size).toBeGreaterThan(100_000);
  expect(statSync(join(out, 'Tern Operator_s Handbook.pdf')).size).toBeGreaterThan(100_000);
  await expect(publish('--edition', 'Tern Operator’s Handbook')).rejects.toMatchObject({ code: 1 });
  await expect(
    publish('--edition', 'Tern Station Interface', '--fail-on', 'info'),
  ).resolves.toBeDefined();
  await expect(publish('--edition', 'None')).rejects.toMatchObject({
    code: 1,
    stderr: expect.stringContaining('There is no edition “None”'),
  });
  await expect(publish('--edition', 'Tern Help', '--fail-on', 'never')).rejects.toMatchObject({
    code: 2,
  });
}

/** Builds with a token instead of a password, and in other languages. */
async function publishByToken(out: string): Promise<void> {
  const { cookie, project } = await signIn(demoAddress);
  const made = await fetch(`${project}/tokens`, {
    method: 'POST',
    headers: { cookie, 'content-type': 'application/json' },
    body: JSON.stringify({ name: 'CI', access: 'build' }),
  });
  const { secret } = (await made.json()) as { secret: string };
  const byToken = {
    ...process.env,
    UKIYO_URL: demoAddress,
    UKIYO_TOKEN: secret,
    UKIYO_EMAIL: '',
    UKIYO_PASSWORD: '',
  };
  await run(
    process.execPath,
    [
      'scripts/publish.mjs',
      '--edition',
      'Tern Station Interface',
      '--locale',
      'de',
      '--locale',
      'ar',
      '--out',
      out,
    ],
    { cwd: root, env: byToken },
  );
  for (const locale of ['de', 'ar'])
    expect(statSync(join(out, `${locale}-Tern Station Interface.zip`)).size).toBeGreaterThan(
      100_000,
    );
  await expect(
    run(process.execPath, ['scripts/publish.mjs', '--edition', 'Tern Station Interface'], {
      cwd: root,
      env: { ...byToken, UKIYO_TOKEN: 'ukiyo_wrong' },
    }),
  ).rejects.toThrow(/sign in/iu);
}

/** Builds give way to everything else that the machine does: beside that they take minutes. */
const longestBuilding = 900_000;

test('the command line exports a library, imports it into an empty one and publishes', async () => {
  test.setTimeout(longestBuilding);
  const demo = await serve(await freshGround('library_out'), 4781, {
    DEMO_FOLDER: join(root, 'demo'),
  });
  const empty = await serve(await freshGround('library_in'), 4782);
  const out = mkdtempSync(join(tmpdir(), 'ukiyo-published-'));
  await test.step('a library out and in', () => copyLibrary(empty.account));
  await test.step('editions, by a person', () => publishEditions(out));
  await test.step('editions, by a token', () => publishByToken(out));
  await demo.stop();
  await empty.stop();
});

test('a further worker builds what the server that made the order does not', async () => {
  test.setTimeout(longestBuilding);
  const ground = await freshGround('workers');
  const server = await serve(ground, 4783, { DEMO_FOLDER: join(root, 'demo') });
  const { cookie, project } = await signIn('http://127.0.0.1:4783');
  const ask = async <Answer>(path: string, method = 'GET'): Promise<Answer> =>
    (await fetch(`${project}${path}`, { method, headers: { cookie } })).json() as Promise<Answer>;
  const editions = await ask<{ id: string; output: string }[]>('/editions');
  const site = editions.find(({ output }) => output === 'site')!.id;
  const env = { ...process.env, DATABASE_URL: ground.databaseUrl, DATA_FOLDER: ground.dataFolder };
  const worker = spawn(process.execPath, ['scripts/worker.mjs'], {
    cwd: root,
    env,
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  // Two at once: the server builds one at a time, so the other begins before the first has ended.
  const states = async (): Promise<string[]> =>
    (await ask<{ state: string }[]>('/impressions')).map(({ state }) => state);
  await expect
    .poll(
      async () => {
        await ask(`/editions/${site}/impressions`, 'POST');
        await ask(`/editions/${site}/impressions`, 'POST');
        let together = 0;
        while ((await states()).some((state) => state === 'queued' || state === 'running')) {
          together = Math.max(
            together,
            (await states()).filter((state) => state === 'running').length,
          );
          await new Promise((resolve) => setTimeout(resolve, 60));
        }
        return together;
      },
      { timeout: longestBuilding },
    )
    .toBe(2);
  expect(new Set(await states())).toEqual(new Set(['done']));
  const ended = new Promise((resolve) => worker.once('exit', resolve));
  worker.kill('SIGTERM');
  expect(await ended).toBe(0);
  await server.stop();
});

test('the server logs JSON without secrets, and finishes requests when stopped', async () => {
  const ground = await freshGround('logging');
  const child = spawn(process.execPath, ['packages/server/dist/main.js'], {
    cwd: root,
    env: {
      ...process.env,
      NODE_ENV: 'production',
      LOG_LEVEL: 'info',
      DATABASE_URL: ground.databaseUrl,
      DATA_FOLDER: ground.dataFolder,
      PORT: '4784',
      DEMO_FOLDER: join(root, 'demo'),
    },
    stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
  });
  let log = '';
  child.stdout!.on('data', (chunk: Buffer) => (log += chunk.toString()));
  await new Promise((resolve) => child.once('message', resolve));
  const { cookie, project } = await signIn('http://127.0.0.1:4784');
  let finish: () => void = () => undefined;
  const half = new ReadableStream<Uint8Array>({
    start(body) {
      const text = new TextEncoder();
      body.enqueue(text.encode('{"type":"concept",'));
      finish = () => {
        body.enqueue(text.encode('"title":"The last one"}'));
        body.close();
      };
    },
  });
  // The types of browsers do not know `duplex` yet, without which a stream is not sent.
  const request = {
    method: 'POST',
    headers: { cookie, 'content-type': 'application/json' },
    body: half,
    duplex: 'half',
  };
  const slow = fetch(`${project}/items`, request);
  await expect.poll(() => log).toMatch(/"method":"POST","url":"[^"]*\/items"/u);
  const ended = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  finish();
  expect((await slow).status).toBe(201);
  expect(await ended).toBe(0);
  const lines = log
    .trim()
    .split('\n')
    .map(
      (line) =>
        JSON.parse(line) as {
          level: number;
          req?: { method: string; url: string };
          res?: { statusCode: number };
        },
    );
  expect(lines.some(({ req }) => req?.method === 'POST' && req.url === '/api/session')).toBe(true);
  expect(lines.some(({ res }) => res?.statusCode === 200)).toBe(true);
  expect(log).not.toContain('lanternfish');
  expect(log).not.toContain(cookie.split('=')[1]);
});

test('another user than root starts it, with a database and data of their own', async () => {
  const home = mkdtempSync(join(tmpdir(), 'ukiyo-nobody-'));
  const isRoot = process.getuid?.() === 0;
  const asNobody = ['--reuid=65534', '--regid=65534', '--clear-groups'];
  let project = root;
  if (isRoot) {
    execFileSync('chown', ['65534:65534', home]);
    const readable =
      spawnSync('setpriv', [...asNobody, 'test', '-r', join(root, 'package.json')]).status === 0;
    if (!readable) {
      project = join(home, 'project');
      execFileSync('cp', ['-a', root, project]);
      execFileSync('chown', ['65534:65534', project]);
    }
  }
  const command = [
    process.execPath,
    'scripts/start.mjs',
    '--data',
    join(home, 'data'),
    '--port',
    '4890',
  ];
  const child = spawn(
    isRoot ? 'setpriv' : command[0]!,
    isRoot ? [...asNobody, ...command] : command.slice(1),
    {
      cwd: project,
      env: { ...process.env, HOME: home },
      stdio: ['ignore', 'pipe', 'pipe'],
    },
  );
  let output = '';
  for (const stream of [child.stdout, child.stderr])
    stream.on('data', (chunk: Buffer) => (output += chunk.toString()));
  await expect.poll(() => output, { timeout: 120_000 }).toContain('Ctrl-C stops it.');
  expect(statSync(join(home, 'data', 'pg')).uid).not.toBe(0);
  const address = /Ukiyo is at (\S+)/u.exec(output)![1]!;
  expect((await fetch(`${address}/api/health`)).status).toBe(200);
  const ended = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGINT');
  expect(await ended).toBe(0);
});
