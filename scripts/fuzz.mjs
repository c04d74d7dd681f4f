#!/usr/bin/env node
/**
 * `npm run fuzz -- [minutes] [seed]`: changed inputs for everything that takes what comes from
 * outside. The seed repeats a run.
 */
import { ensureBuilt, ensurePackages, run } from './prepare.mjs';

await ensurePackages();
await ensureBuilt({ web: false });
try {
  const args = ['--expose-gc', '--enable-source-maps', 'packages/server/dist/fuzz/run.js'];
  await run(process.execPath, [...args, ...process.argv.slice(2)], { stdio: 'inherit' });
} catch (error) {
  console.error(error.message);
  process.exit(1);
}
