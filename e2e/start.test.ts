import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';

const root = join(import.meta.dirname, '..');

interface Started {
  readonly process: ChildProcess;
  readonly address: string;
  /** What it has said so far. */
  readonly said: () => string;
  readonly output: string;
  readonly seconds: number;
}

/** Runs the start program until it prints its address. */
const start = (data: string, ...more: string[]): Promise<Started> =>
  startedBy(process.execPath, ['scripts/start.mjs', '--data', data, '--port', '4860', ...more]);
function startedBy(program: string, args: readonly string[]): Promise<Started> {
  const began = Date.now();
  const child = spawn(program, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
  let output = '';
  return new Promise((resolve, reject) => {
    const read = (chunk: Buffer): void => {
      output += chunk.toString();
      const address = /Ukiyo is at (http:\S+)/u.exec(output)?.[1];
      if (address !== undefined && output.includes('Ctrl-C'))
        resolve({
          process: child,
          address,
          output,
          said: () => output,
          seconds: (Date.now() - began) / 1000,
        });
    };
    child.stdout.on('data', read);
    child.stderr.on('data', read);
    child.once('exit', (code) => reject(new Error(`start ended with ${code}: ${output}`)));
  });
}
const ended = (child: ChildProcess): Promise<number | null> =>
  new Promise((resolve) => child.once('exit', resolve));
const health = async (address: string): Promise<number> =>
  (await fetch(`${address}/api/health`)).status;
/** Processes of any kind that still name the data folder. */
const left = (data: string): string[] =>
  readdirSync('/proc')
    .filter((name) => /^\d+$/u.test(name) && Number(name) !== process.pid)
    .flatMap((pid) => {
      try {
        const command = readFileSync(`/proc/${pid}/cmdline`, 'utf8').replaceAll('\0', ' ');
        return command.includes(data) ? [command] : [];
      } catch {
        return [];
      }
    });

test('starts with the demo, stops cleanly, recovers from a kill, and starts over', async () => {
  const data = mkdtempSync(join(tmpdir(), 'ukiyo-start-'));
  execFileSync('chmod', ['755', data]);

  const first = await start(data);
  expect(first.output).toContain('noor@brinewell.example');
  expect(await health(first.address)).toBe(200);
  const beside = await start(mkdtempSync(join(tmpdir(), 'ukiyo-start-')), '--no-demo');
  expect(beside.address).not.toBe(first.address);
  expect(beside.output).toMatch(/Sign in as admin@localhost with the password [\w-]{36}/u);
  beside.process.kill('SIGINT');
  expect(await ended(beside.process)).toBe(0);

  first.process.kill('SIGKILL');
  await ended(first.process);
  const second = await start(data);
  expect(await health(second.address)).toBe(200);
  const signIn = await fetch(`${second.address}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ email: 'ada@brinewell.example', password: 'lanternfish' }),
  });
  expect(signIn.status).toBe(200);

  second.process.kill('SIGINT');
  expect(await ended(second.process)).toBe(0);
  await expect.poll(() => left(data)).toEqual([]);
  const fresh = await start(data, '--fresh', '--no-demo');
  expect(fresh.output).toContain('admin@localhost');
  fresh.process.kill('SIGTERM');
  expect(await ended(fresh.process)).toBe(0);
});

/** The process of that program that a process has started, by its number. */
const childOf = (parent: number, program: string): number => {
  for (const pid of readdirSync('/proc').filter((name) => /^\d+$/u.test(name)))
    try {
      const own = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]!.split(' ')[1];
      const command = readFileSync(`/proc/${pid}/cmdline`, 'utf8');
      if (Number(own) === parent && command.includes(program)) return Number(pid);
    } catch {
      // it is gone
    }
  throw new Error(`${parent} has started no ${program}`);
};

test('the server is started again after a crash, and stops whatever state it is in', async () => {
  const data = mkdtempSync(join(tmpdir(), 'ukiyo-start-'));
  execFileSync('chmod', ['755', data]);
  const first = await start(data, '--no-demo');
  const crash = (): boolean =>
    process.kill(childOf(first.process.pid!, 'server/dist/main.js'), 'SIGKILL');
  crash();
  await expect.poll(() => first.said(), { timeout: 120_000 }).toContain('it answers again');
  expect(await health(first.address)).toBe(200);
  crash();
  await expect.poll(() => first.said().match(/starting it again/gu)?.length).toBe(2);
  // In the pause before the next start there is no server to be stopped.
  first.process.kill('SIGINT');
  expect(await ended(first.process)).toBe(0);
  await expect.poll(() => left(data)).toEqual([]);
});

test('a signal to npm reaches everything that it has started', async () => {
  const data = mkdtempSync(join(tmpdir(), 'ukiyo-start-'));
  execFileSync('chmod', ['755', data]);
  const args = ['start', '--', '--data', data, '--port', '4880', '--no-demo'];
  const started = await startedBy('npm', args);
  expect(await health(started.address)).toBe(200);
  expect(left(data).length).toBeGreaterThan(0);
  started.process.kill('SIGTERM');
  await ended(started.process);
  await expect.poll(() => left(data), { timeout: 120_000 }).toEqual([]);
});
