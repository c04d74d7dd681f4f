#!/usr/bin/env node
/**
 * `npm run bench` runs all measurements; `npm run bench -- compose|readers|copies|site|reading|print|thousand|proof|server|browser|editor|beside|attacks|start` some of them,
 * each in a process of its own and compiled like what ships.
 */
import { spawnSync } from 'node:child_process';
import { mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { startPostgres } from './postgres.mjs';
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
const dataFolder = join(root, '.data', 'bench');
rmSync(dataFolder, { recursive: true, force: true });
mkdirSync(dataFolder, { recursive: true });
const database = await startPostgres({ bin: programs.postgres, dataFolder, log });
let failed = false;
for (const part of parts) {
  console.log(`\n== ${part}`);
  const env = {
    ...process.env,
    DATABASE_URL: database.url('postgres'),
    TEST_DATA: dataFolder,
    CHROMIUM: programs.chromium,
    LOG_LEVEL: 'error',
  };
  const { status } = spawnSync(process.execPath, [`bench/dist/bench/${part}.js`], {
    cwd: root,
    stdio: 'inherit',
    env,
  });
  failed ||= status !== 0;
}
await database.stop();
process.exit(failed ? 1 : 0);
