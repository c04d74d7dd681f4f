#!/usr/bin/env node
/**
 * From an empty machine to a page that one can sign in to. `npm start -- --help` lists the options.
 */
import { fork } from 'node:child_process';
import { mkdirSync, rmSync } from 'node:fs';
import net from 'node:net';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { startPostgres } from './postgres.mjs';
import { ensureBuilt, ensurePackages, log, root } from './prepare.mjs';
import { supervise } from './supervise.mjs';
import { ensurePrograms } from './system.mjs';

const help = `npm start -- [options]
  --fresh        start over with the demo library; everything in the data folder is deleted
  --port PORT    serve on this port or the next free one (4600)
  --data FOLDER  keep the database, images and builds here (.data)
  --no-demo      start with an empty library
`;
const { values } = parseArgs({
  options: {
    fresh: { type: 'boolean' },
    port: { type: 'string', default: '4600' },
    data: { type: 'string', default: join(root, '.data') },
    'no-demo': { type: 'boolean' },
    help: { type: 'boolean' },
  },
});
if (values.help) {
  process.stdout.write(help);
  process.exit(0);
}

const dataFolder = resolve(values.data);
let database;
let supervised;
let stopping = false;

async function stop(code) {
  if (stopping) return;
  stopping = true;
  await supervised?.stop();
  await database?.stop();
  log('stopped');
  process.exit(code);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));

async function freePort(wanted) {
  for (let port = wanted; port < wanted + 100; port += 1) {
    const free = await new Promise((done) => {
      const probe = net.createServer().once('error', () => done(false));
      probe.listen({ port, host: '127.0.0.1', exclusive: true }, () =>
        probe.close(() => done(true)),
      );
    });
    if (free) return port;
  }
  throw new Error(`No port between ${wanted} and ${wanted + 99} is free.`);
}

function welcome(port, account) {
  const lines = [`Ukiyo is at http://127.0.0.1:${port}`];
  if (account)
    lines.push(
      '',
      `Sign in as ${account.email} with the password ${account.password}`,
      'This password is shown once.',
    );
  else if (!values['no-demo'])
    lines.push(
      '',
      'Sign-ins of the demo (password of all: lanternfish)',
      '  ada@brinewell.example    administrator',
      '  teo@brinewell.example    publisher',
      '  noor@brinewell.example   writer',
      '  ines@brinewell.example   reviewer',
      '  yuki@brinewell.example   translator',
      '  mira@brinewell.example   reader',
    );
  lines.push('', 'Ctrl-C stops it.');
  console.log(lines.join('\n'));
}

try {
  const { postgres } = ensurePrograms('serve', log);
  if (values.fresh)
    for (const name of ['pg', 'pg.json', 'pg.log', 'blobs', 'impressions'])
      rmSync(join(dataFolder, name), { recursive: true, force: true });
  mkdirSync(dataFolder, { recursive: true });
  await ensurePackages();
  const [started] = await Promise.all([
    startPostgres({ bin: postgres, dataFolder, log }),
    ensureBuilt(),
  ]);
  database = started;
  const port = await freePort(Number(values.port));
  supervised = supervise(
    () =>
      fork(join(root, 'packages/server/dist/main.js'), {
        cwd: root,
        detached: true,
        execArgv: ['--enable-source-maps'],
        stdio: ['ignore', 2, 2, 'ipc'],
        env: {
          ...process.env,
          NODE_ENV: 'production',
          // With threads, memory that is free again is else kept in many places.
          MALLOC_ARENA_MAX: '2',
          LOG_LEVEL: process.env.LOG_LEVEL ?? 'warn',
          DATABASE_URL: database.url('postgres'),
          DATA_FOLDER: dataFolder,
          PORT: `${port}`,
          WEB_FOLDER: join(root, 'packages/web/dist'),
          ...(values['no-demo'] ? {} : { DEMO_FOLDER: join(root, 'demo') }),
        },
      }),
    { log, ready: (message) => welcome(port, message.account), givenUp: () => void stop(1) },
  );
  void database.exited.then(() => void (stopping || (log('the database ended'), stop(1))));
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  await stop(1);
}
