/** The start program over the demo, first and second time: `npm run bench -- start`. */
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { measure, report } from './measure.ts';

const folder = join(process.env['TEST_DATA'] ?? '.data', 'start');

/** Runs `npm start` until it prints its address, then asks it to stop. */
function startAndStop(): Promise<number> {
  const began = performance.now();
  const child = spawn(process.execPath, ['scripts/start.mjs', '--data', folder, '--port', '4870'], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  return new Promise((resolve, reject) => {
    let seconds = Number.NaN;
    child.stdout.on('data', (chunk: Buffer) => {
      if (!chunk.toString().includes('Ukiyo is at')) return;
      seconds = (performance.now() - began) / 1000;
      child.kill('SIGINT');
    });
    child.once('exit', () =>
      Number.isNaN(seconds) ? reject(new Error('It did not start.')) : resolve(seconds),
    );
  });
}

console.log('npm start');
report('first: makes the database and the demo', await startAndStop(), 's');
const times: number[] = [];
const all = await measure(async () => {
  for (let run = 0; run < 3; run += 1) times.push(await startAndStop());
});
report('second, to the address', times.sort((a, b) => a - b)[1]!, 's', 5);
report('starting and stopping it', all.wall / 3, 's');
