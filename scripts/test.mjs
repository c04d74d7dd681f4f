#!/usr/bin/env node
/**
 * Everything that must hold, with nothing set up by hand. `npm test` runs all; `npm test --
 * check|unit|server|e2e` one part. Ends with the line `N passed, N failed`; the exit code tells as
 * well.
 */
import { spawn } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { join } from 'node:path';
import { openGround } from './ground.mjs';
import { ensureBuilt, ensurePackages, log, root } from './prepare.mjs';
import { ensurePrograms } from './system.mjs';

const asked = process.argv.slice(2);
const wanted = (part) => asked.length === 0 || asked.includes(part);
const bin = (name) => join(root, 'node_modules', '.bin', name);
// Reports, and all that tests put into the folder for temporary files; one runs as another user.
const scratch = mkdtempSync(join(tmpdir(), 'ukiyo-tests-'));
chmodSync(scratch, 0o1777);
const totals = { passed: 0, failed: 0 };
let ground;

function outcome(name, passed, failed) {
  totals.passed += passed;
  totals.failed += failed;
  log(`${name}: ${passed} passed, ${failed} failed`);
}

/**
 * Runs a program and gives its exit code; what it prints is shown at once, or only when it fails.
 */
function runProgram(program, args, { env = {}, quiet = false } = {}) {
  return new Promise((resolve) => {
    const child = spawn(program, args, {
      cwd: root,
      env: { ...process.env, TMPDIR: scratch, ...env },
      stdio: ['ignore', quiet ? 'pipe' : 2, quiet ? 'pipe' : 2],
    });
    const kept = [];
    child.stdout?.on('data', (chunk) => kept.push(chunk));
    child.stderr?.on('data', (chunk) => kept.push(chunk));
    child.once('error', () => resolve(1));
    child.once('exit', (code) => {
      if (quiet && code !== 0) process.stderr.write(Buffer.concat(kept));
      resolve(code ?? 1);
    });
  });
}

/** A check that holds or does not. */
async function check(name, program, args) {
  const code = await runProgram(program, args, { quiet: true });
  outcome(name, code === 0 ? 1 : 0, code === 0 ? 0 : 1);
}

/** Reads the counts of a test runner's JSON report; a runner that left none has failed. */
async function suite({ name, program, args, count, env }) {
  const report = join(scratch, `${name}.json`);
  const code = await runProgram(program, args(report), {
    env: { ...env, PLAYWRIGHT_JSON_OUTPUT_NAME: report },
  });
  if (!existsSync(report)) return outcome(name, 0, 1);
  const { passed, failed } = count(JSON.parse(readFileSync(report, 'utf8')));
  // A runner can fail without a failed test: a file that does not load, an error outside any test.
  outcome(name, passed, code === 0 ? failed : Math.max(1, failed));
}

const vitest = (project, env) =>
  suite({
    name: project,
    program: bin('vitest'),
    args: (report) => [
      'run',
      '--project',
      project,
      '--reporter=dot',
      '--reporter=json',
      `--outputFile.json=${report}`,
    ],
    count: ({ numPassedTests, numFailedTests }) => ({
      passed: numPassedTests,
      failed: numFailedTests,
    }),
    env,
  });

const playwright = (env) =>
  suite({
    name: 'e2e',
    program: bin('playwright'),
    args: () => ['test', '--config', 'e2e/playwright.config.ts'],
    count: ({ stats }) => ({ passed: stats.expected, failed: stats.unexpected + stats.flaky }),
    env,
  });

/**
 * Prints what each failed page showed, as assistive technology hears it: nobody can look at the
 * pictures of a machine that is gone.
 */
function printFailedPages() {
  const results = join(root, 'test-results');
  if (!existsSync(results)) return;
  for (const name of readdirSync(results)) {
    const context = join(results, name, 'error-context.md');
    if (!existsSync(context)) continue;
    const [, snapshot = ''] = readFileSync(context, 'utf8').split('# Page snapshot');
    process.stderr.write(`\nThe page of ${name}:\n${snapshot.split('# Test source')[0]}\n`);
  }
}

const checks = () => [
  () => check('lint', bin('eslint'), ['.', '--max-warnings', '0']),
  () => check('types', bin('vue-tsc'), ['--noEmit']),
  () => check('format', bin('prettier'), ['--check', '.', '--log-level', 'warn']),
  () => check('layers', bin('depcruise'), ['--config', '.dependency-cruiser.cjs', 'packages']),
  () => check('dependencies', process.execPath, ['scripts/audit.mjs']),
  () => check('unused code', bin('knip'), ['--no-config-hints']),
  () => check('names', process.execPath, ['scripts/names.mjs']),
];

/** At most as many at once as there are processors. */
async function inParallel(works) {
  const left = [...works];
  await Promise.all(
    Array.from({ length: Math.min(2, cpus().length) }, async () => {
      for (let work = left.shift(); work; work = left.shift()) await work();
    }),
  );
}

let failure;
try {
  const needsBrowser = wanted('e2e');
  const needsDatabase = wanted('server') || needsBrowser;
  const programs = ensurePrograms('test', log);
  await ensurePackages();
  const starting = needsDatabase ? openGround('test', programs) : undefined;
  starting?.catch(() => undefined);
  await ensureBuilt({ web: false, server: false });
  ground = await starting;
  const env = ground?.env;
  const built = async () => {
    await ensureBuilt({ web: needsBrowser, server: needsDatabase });
    if (wanted('server')) await vitest('server', env);
  };
  // The longest first, so that both ends meet.
  await inParallel([
    built,
    ...(wanted('unit') ? [() => vitest('unit', env)] : []),
    ...(wanted('check') ? checks() : []),
  ]);
  if (needsBrowser) {
    await playwright(env);
    printFailedPages();
  }
} catch (error) {
  failure = error;
} finally {
  await ground?.stop();
  rmSync(scratch, { recursive: true, force: true });
}
if (failure) {
  console.error(failure instanceof Error ? failure.message : failure);
  totals.failed += 1;
}
console.log(`${totals.passed} passed, ${totals.failed} failed`);
process.exit(totals.failed > 0 || totals.passed === 0 ? 1 : 0);
