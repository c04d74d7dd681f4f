#!/usr/bin/env node
/**
 * `npm run chaos -- [rounds]`: people work while server, database and workers are killed; in the
 * end all that was acknowledged must be there. It is the end-to-end test of that name, for longer.
 */
import { join } from 'node:path';
import { openGround } from './ground.mjs';
import { ensureBuilt, ensurePackages, log, root, run } from './prepare.mjs';
import { ensurePrograms } from './system.mjs';

const [rounds = '20'] = process.argv.slice(2);
const programs = ensurePrograms('test', log);
await ensurePackages();
await ensureBuilt();
const { env, stop } = await openGround('chaos', programs);
try {
  await run(
    join(root, 'node_modules', '.bin', 'playwright'),
    ['test', '--config', 'e2e/chaos/playwright.config.ts'],
    { stdio: 'inherit', env: { ...env, CHAOS_ROUNDS: rounds } },
  );
} catch (error) {
  console.error(error.message);
  process.exitCode = 1;
} finally {
  await stop();
}
