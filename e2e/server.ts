import { fork } from 'node:child_process';
import { join } from 'node:path';
import pg from 'pg';

const root = join(import.meta.dirname, '..');

/** Starts the real server over a database of its own, seeded with the demo; gives back what stops it. */
export default async function start(): Promise<() => Promise<void>> {
  const { DATABASE_URL: base, TEST_DATA: data } = process.env;
  if (base === undefined || data === undefined) throw new Error('Run the end-to-end tests with npm test, which starts the database.');
  const admin = new pg.Client({ connectionString: base });
  await admin.connect();
  await admin.query('DROP DATABASE IF EXISTS e2e');
  await admin.query('CREATE DATABASE e2e');
  await admin.end();
  const server = fork(join(root, 'packages/server/dist/main.js'), {
    stdio: ['ignore', 2, 2, 'ipc'],
    env: {
      ...process.env,
      NODE_ENV: 'production',
      DATABASE_URL: base.replace(/\/[^/]*$/u, '/e2e'),
      DATA_FOLDER: join(data, 'e2e'),
      PORT: '4780',
      WEB_FOLDER: join(root, 'packages/web/dist'),
      DEMO_FOLDER: join(root, 'demo'),
    },
  });
  await new Promise<void>((resolve, reject) => {
    server.once('message', () => resolve());
    server.once('exit', (code) => reject(new Error(`The server ended with ${code}`)));
  });
  return async () => {
    server.removeAllListeners('exit');
    const ended = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    await ended;
  };
}
