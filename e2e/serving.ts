import { fork, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import pg from 'pg';

const { DATABASE_URL: base, TEST_DATA: data } = process.env;

/** The database and data folder of one run. */
export interface Ground {
  readonly databaseUrl: string;
  readonly dataFolder: string;
}

/** A new, empty database of that name in the cluster that the command has started. */
export async function freshGround(name: string): Promise<Ground> {
  if (base === undefined || data === undefined)
    throw new Error('Run this through npm test or npm run bench, which start the database.');
  const admin = new pg.Client({ connectionString: base });
  await admin.connect();
  await admin.query(`DROP DATABASE IF EXISTS ${name}`);
  await admin.query(`CREATE DATABASE ${name}`);
  await admin.end();
  return { databaseUrl: base.replace(/\/[^/]*$/u, `/${name}`), dataFolder: join(data, name) };
}

export interface Served {
  readonly process: ChildProcess;
  /** The first administrator, where the server has just made one. */
  readonly account: { readonly email: string; readonly password: string } | undefined;
  readonly stop: () => Promise<void>;
}

/** Starts the built server, as `npm start` does, and waits until it answers. */
export async function serve(
  { databaseUrl, dataFolder }: Ground,
  port: number,
  more: Readonly<Record<string, string>> = {},
): Promise<Served> {
  const server = fork(join(process.cwd(), 'packages/server/dist/main.js'), {
    stdio: ['ignore', 2, 2, 'ipc'],
    execArgv: [],
    env: {
      ...process.env,
      NODE_ENV: 'production',
      // With threads, memory that is free again is else kept in many places.
      MALLOC_ARENA_MAX: '2',
      DATABASE_URL: databaseUrl,
      DATA_FOLDER: dataFolder,
      PORT: String(port),
      ...more,
    },
  });
  const { account } = await new Promise<Pick<Served, 'account'>>((resolve, reject) => {
    server.once('message', resolve);
    server.once('exit', (code) => reject(new Error(`The server ended with ${code}`)));
  });
  const stop = async (): Promise<void> => {
    server.removeAllListeners('exit');
    const ended = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    await ended;
  };
  return { process: server, account, stop };
}
