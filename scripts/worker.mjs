#!/usr/bin/env node
/**
 * A further process that builds: `DATABASE_URL` and `DATA_FOLDER` name the database and the folder
 * that it shares with the server.
 */
import { fork } from 'node:child_process';
import { join } from 'node:path';
import { ensureBuilt, ensurePackages, log, root } from './prepare.mjs';
import { supervise } from './supervise.mjs';

if (!process.env.DATABASE_URL || !process.env.DATA_FOLDER) {
  console.error('Set DATABASE_URL and DATA_FOLDER to those of the server.');
  process.exit(1);
}
await ensurePackages();
await ensureBuilt({ web: false });
const { stop } = supervise(
  () =>
    fork(join(root, 'packages/server/dist/main.js'), {
      stdio: 'inherit',
      env: { ...process.env, WORKER_ONLY: '1' },
    }),
  { log, ready: () => log('the worker is ready'), givenUp: () => process.exit(1) },
);
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
  process.on(signal, () => void stop().then(() => process.exit(0)));
