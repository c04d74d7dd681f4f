import { fork, type ChildProcess } from 'node:child_process';
import { cp, rm } from 'node:fs/promises';
import { join } from 'node:path';
import pg from 'pg';

const { DATABASE_URL: base, TEST_DATA: data } = process.env;

/** The database and data folder of one run. */
export interface Ground {
  readonly databaseUrl: string;
  readonly dataFolder: string;
}

function groundOf(name: string): Ground & { readonly name: string; readonly cluster: string } {
  if (base === undefined || data === undefined)
    throw new Error('Run this through npm test or npm run bench, which start the database.');
  return {
    name,
    cluster: base,
    databaseUrl: base.replace(/\/[^/]*$/u, `/${name}`),
    dataFolder: join(data, name),
  };
}
async function administer(cluster: string, ...statements: string[]): Promise<void> {
  const admin = new pg.Client({ connectionString: cluster });
  await admin.connect();
  for (const statement of statements) await admin.query(statement);
  await admin.end();
}

/** A new, empty database of that name in the cluster that the command has started. */
export async function freshGround(name: string): Promise<Ground> {
  const { cluster, ...ground } = groundOf(name);
  await administer(cluster, `DROP DATABASE IF EXISTS ${name}`, `CREATE DATABASE ${name}`);
  await rm(ground.dataFolder, { recursive: true, force: true });
  return ground;
}

/** The ground with the demo library, of which each worker gets a copy. */
const seed = 'demo';

/** Makes the ground that others are copied from: the demo library, read and checked. */
export async function seedGround(): Promise<void> {
  const { stop } = await serveDemo(await freshGround(seed), 4780);
  await stop();
}
/** A copy of the ground with the demo library. @see seedGround */
export async function copiedGround(name: string): Promise<Ground> {
  const { cluster, ...ground } = groundOf(name);
  await administer(
    cluster,
    `DROP DATABASE IF EXISTS ${name}`,
    `CREATE DATABASE ${name} TEMPLATE ${seed}`,
  );
  await rm(ground.dataFolder, { recursive: true, force: true });
  await cp(groundOf(seed).dataFolder, ground.dataFolder, { recursive: true });
  return ground;
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

/** Starts the built server with the built interface; an empty database gets the demo library. */
export const serveDemo = (ground: Ground, port: number): Promise<Served> =>
  serve(ground, port, {
    WEB_FOLDER: join(process.cwd(), 'packages/web/dist'),
    DEMO_FOLDER: join(process.cwd(), 'demo'),
  });
