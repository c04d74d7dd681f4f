/**
 * What every command needs before its own work: packages installed, parts built, each only when
 * stale.
 */
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { programNotices } from './notices.mjs';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));
const marks = join(root, '.data', 'built');
const unwatched = new Set(['dist', 'node_modules', 'built', 'components.d.ts']);
const started = Date.now();

export const log = (message) =>
  console.error(`${((Date.now() - started) / 1000).toFixed(1).padStart(6)} s  ${message}`);

/** Runs a command to its end; throws when it fails. Its output goes to standard error. */
export function run(program, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, { cwd: root, stdio: ['ignore', 2, 2], ...options });
    child.once('error', reject);
    child.once('exit', (code, signal) =>
      code === 0
        ? resolve()
        : reject(new Error(`${program} ${args.join(' ')} ended with ${signal ?? code}`)),
    );
  });
}

function fingerprint(inputs) {
  const hash = createHash('sha256');
  const visit = (path) => {
    const found = statSync(path);
    if (!found.isDirectory()) {
      if (!/\.(test|spec)\.ts$/.test(path))
        hash.update(`${relative(root, path)}\0`).update(readFileSync(path));
      return;
    }
    for (const name of readdirSync(path).sort()) if (!unwatched.has(name)) visit(join(path, name));
  };
  for (const input of inputs) if (existsSync(join(root, input))) visit(join(root, input));
  return hash.digest('hex');
}

/** Does `work` when an input has changed since the last time, or when the output is not there. */
async function whenStale(name, inputs, output, work) {
  const mark = join(marks, name);
  const now = fingerprint(inputs);
  if (existsSync(join(root, output)) && existsSync(mark) && readFileSync(mark, 'utf8') === now)
    return;
  log(`${name}`);
  await work();
  mkdirSync(marks, { recursive: true });
  writeFileSync(mark, now);
}

/** Installs the packages of the lock file when they are missing or of another lock file. */
export async function ensurePackages() {
  await whenStale(
    'installing packages',
    ['package-lock.json'],
    'node_modules/.package-lock.json',
    async () => {
      const { status } = spawnSync('npm', ['ci'], { cwd: root, stdio: ['ignore', 2, 2] });
      if (status !== 0) throw new Error('npm ci failed');
    },
  );
}

const bin = (name) => join(root, 'node_modules', '.bin', name);

/** Builds the scripts of help sites, the server and the interface. */
export async function ensureBuilt({ web = true, server = true } = {}) {
  const shared = ['packages/core', 'packages/contracts', 'tsconfig.base.json', 'package-lock.json'];
  const jobs = [
    whenStale(
      'building the scripts of help sites',
      [
        'packages/press/site/client',
        'packages/press/shared',
        'packages/press/package.json',
        'package-lock.json',
      ],
      'packages/press/site/built/notices.txt',
      async () => {
        await run(process.execPath, [
          '-e',
          "import('./packages/press/site/client/build.mjs').then((built) => " +
            'built.buildSiteScripts())',
        ]);
      },
    ),
  ];
  if (server)
    jobs.push(
      whenStale(
        'building the server',
        [...shared, 'packages/intake', 'packages/press', 'packages/server'],
        'packages/server/dist/main.js',
        () => run(bin('tsc'), ['-b', 'packages/server']),
      ),
    );
  if (web)
    jobs.push(
      whenStale(
        'building the interface',
        [...shared, 'packages/web'],
        'packages/web/dist/index.html',
        async () => {
          await run(bin('vite'), [
            'build',
            'packages/web',
            '--config',
            'packages/web/vite.config.ts',
            '--logLevel',
            'warn',
          ]);
          writeFileSync(join(root, 'packages/web/dist/notices.txt'), programNotices());
        },
      ),
    );
  await Promise.all(jobs);
}
