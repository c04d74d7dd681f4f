/**
 * Writing beside ten builds: `npm run bench -- beside`. Needs the database that the command starts.
 */
import { spawn } from 'node:child_process';
import { constants, setPriority } from 'node:os';
import { join } from 'node:path';
import { Robot } from '../e2e/robot.ts';
import { freshGround, serve } from '../e2e/serving.ts';
import { report, undisturbed } from './measure.ts';

const { stop } = await serve(await freshGround('beside'), 4791, {
  DEMO_FOLDER: join(process.cwd(), 'demo'),
});
const origin = 'http://127.0.0.1:4791/api';
const signIn = await fetch(`${origin}/session`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ email: 'ada@brinewell.example', password: 'lanternfish' }),
});
const cookie = signIn.headers.get('set-cookie')!.split(';')[0]!;
const { projects } = (await signIn.json()) as { projects: { id: string }[] };
const project = `${origin}/projects/${projects[0]!.id}`;
const ask = async <Answer>(path: string, method = 'GET'): Promise<Answer> =>
  (await (await fetch(`${project}${path}`, { method, headers: { cookie } })).json()) as Answer;
const rest = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds));

const robot = new Robot(`${project.replace('http', 'ws')}/live/alarms`, cookie, 'writer', 0);
await robot.open();
/** From a key to the answer that it is kept. */
async function keyTime(): Promise<number> {
  const began = performance.now();
  robot.type('x');
  while (!robot.isSafe) await rest(0);
  const time = performance.now() - began;
  await rest(50);
  return time;
}
const p95 = (times: readonly number[]): number =>
  times.toSorted((a, b) => a - b)[Math.floor(times.length * 0.95)]!;
const editions = await ask<{ id: string; output: string }[]>('/editions');
const isBuilding = async (): Promise<boolean> =>
  (await ask<{ state: string }[]>('/impressions')).some(
    ({ state }) => state === 'queued' || state === 'running',
  );

for (let count = 0; count < 20; count += 1) await keyTime();
const alone: number[] = [];
const counting: number[] = [];
const beside: number[] = [];
// In turns: what else happens on a shared machine then falls on all of them.
for (let turn = 0; turn < 6; turn += 1) {
  alone.push(...(await undisturbed(100, keyTime)));
  // What a machine of few processors gives to whoever comes while anything else is running, however
  // low its priority.
  const counter = spawn(process.execPath, ['-e', 'for (;;);']);
  setPriority(counter.pid!, constants.priority.PRIORITY_LOW);
  counting.push(...(await undisturbed(100, keyTime)));
  counter.kill('SIGKILL');
  for (let count = 0; count < 10; count += 1)
    await ask(`/editions/${editions[count % editions.length]!.id}/impressions`, 'POST');
  while (await isBuilding()) beside.push(...(await undisturbed(10, keyTime)));
}
report('a key to the answer that it is kept, nothing else to do, p95', p95(alone), 'ms');
report('… beside a process that only counts, p95', p95(counting), 'ms');
report(`… beside ten builds, p95 of ${beside.length} keys`, p95(beside), 'ms');
report('… against nothing else to do', p95(beside) / p95(alone), '×', 1.5);
robot.close();
await stop();
