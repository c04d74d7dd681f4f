#!/usr/bin/env node
/**
 * `npm run bench` runs all measurements; `npm run bench --
 * compose|readers|copies|site|reading|print|thousand|proof|server|screens|browser|editor|beside|
 * attacks|start`
 * some of them, each in a process of its own and compiled like what ships.
 */
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { openGround } from './ground.mjs';
import { ensureBuilt, ensurePackages, log, root, run } from './prepare.mjs';
import { ensurePrograms } from './system.mjs';

const asked = process.argv.slice(2);
const parts = [
  'compose',
  'readers',
  'copies',
  'site',
  'reading',
  'print',
  'thousand',
  'proof',
  'server',
  'screens',
  'browser',
  'editor',
  'beside',
  'attacks',
  'start',
].filter((part) => asked.length === 0 || asked.includes(part));
const programs = ensurePrograms('test', log);
await ensurePackages();
await ensureBuilt();
await run(join(root, 'node_modules', '.bin', 'tsc'), ['-p', 'bench']);
const { env, stop } = await openGround('bench', programs);
let failed = false;
for (const part of parts) {
  console.log(`\n== ${part}`);
  const { status } = spawnSync(process.execPath, [`bench/dist/bench/${part}.js`], {
    cwd: root,
    stdio: 'inherit',
    env,
  });
  failed ||= status !== 0;
}
await stop();
process.exit(failed ? 1 : 0);
