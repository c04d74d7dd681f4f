import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';

const root = join(import.meta.dirname, '..');

interface Started {
  readonly process: ChildProcess;
  readonly address: string;
  readonly output: string;
  readonly seconds: number;
}

/** Runs the start program until it prints its address. */
function start(data: string, ...more: string[]): Promise<Started> {
  const began = Date.now();
  const child = spawn(
    process.execPath,
    ['scripts/start.mjs', '--data', data, '--port', '4860', ...more],
    { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] },
  );
  let output = '';
  return new Promise((resolve, reject) => {
    const read = (chunk: Buffer): void => {
      output += chunk.toString();
      const address = /Ukiyo is at (http:\S+)/u.exec(output)?.[1];
      if (address !== undefined && output.includes('Ctrl-C'))
        resolve({ process: child, address, output, seconds: (Date.now() - began) / 1000 });
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
  test.setTimeout(180_000);
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
