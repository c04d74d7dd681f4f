/** A new database cluster and data folder for each run of tests or measurements. */
import { mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { startPostgres } from './postgres.mjs';
import { log, root } from './prepare.mjs';

/**
 * @param name of the folder, below `.data`
 * @param programs from `ensurePrograms`
 * @returns `env`, in which tests and measurements find it all, and `stop`
 */
export async function openGround(name, programs) {
  const dataFolder = join(root, '.data', name);
  rmSync(dataFolder, { recursive: true, force: true });
  mkdirSync(dataFolder, { recursive: true });
  const database = await startPostgres({ bin: programs.postgres, dataFolder, log });
  return {
    env: {
      ...process.env,
      DATABASE_URL: database.url('postgres'),
      POSTGRES: programs.postgres,
      TEST_DATA: dataFolder,
      CHROMIUM: programs.chromium,
      LOG_LEVEL: 'error',
    },
    stop: () => database.stop(),
  };
}
