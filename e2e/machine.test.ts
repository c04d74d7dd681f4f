import { spawnSync } from 'node:child_process';
import {
  chmodSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { expect, test } from './test.ts';

const root = join(import.meta.dirname, '..');

/**
 * A folder to be the whole PATH: the shell, and a package manager that writes down what it is asked
 * and “installs” by making the program.
 */
function machine(): string {
  const folder = mkdtempSync(join(tmpdir(), 'ukiyo-machine-'));
  chmodSync(folder, 0o777);
  for (const name of ['sh', 'mkdir', 'touch', 'chmod', 'echo'])
    symlinkSync(`/bin/${name}`, join(folder, name));
  const programs =
    'for name in "$@"; do case $name in chromium-headless-shell|qpdf|git|epubcheck) ' +
    'made=$name;; default-jre-headless) made=java;; poppler-utils) made=pdftotext;; ' +
    'libxml2-utils) made=xmllint;; *) continue;; esac; touch "$here/$made"; chmod 755 ' +
    '"$here/$made"; done';
  writeFileSync(
    join(folder, 'apt-get'),
    `#!/bin/sh\nhere=${folder}\necho "$@" >> "$here/asked"\n` +
      `[ "$1" = install ] || exit 0\n${programs}\n`,
  );
  chmodSync(join(folder, 'apt-get'), 0o755);
  return folder;
}
const ensure = (path: string): { status: number | null; output: string } => {
  const script =
    `import('${join(root, 'scripts/system.mjs')}').then(({ ensurePrograms }) => ` +
    "ensurePrograms('test', console.log)).then((found) => console.log(JSON.stringify(found)), " +
    '(error) => { console.error(error.message); process.exit(1); })';
  const { status, stdout, stderr } = spawnSync(process.execPath, ['-e', script], {
    env: { PATH: path },
    encoding: 'utf8',
  });
  return { status, output: stdout + stderr };
};

test('missing Debian programs are installed as root; nothing is asked when all are there', () => {
  const path = machine();
  const first = ensure(path);
  // Who is not root and may not use sudo gets the command instead: the next test.
  if (process.getuid?.() === 0) {
    expect(first.output).toContain(`"chromium":"${join(path, 'chromium-headless-shell')}"`);
    const asked = readFileSync(join(path, 'asked'), 'utf8');
    expect(asked).toBe(
      'update -qq\ninstall -y -qq --no-install-recommends chromium-headless-shell poppler-utils ' +
        'qpdf git default-jre-headless epubcheck libxml2-utils docbook-xml\n',
    );
    expect(ensure(path).status).toBe(0);
    expect(readFileSync(join(path, 'asked'), 'utf8')).toBe(asked);
  } else expect(first.output).toContain("sudo sh -c '");
});

test('who may not install gets the exact command', () => {
  const path = machine();
  const script = join(mkdtempSync(join(tmpdir(), 'ukiyo-script-')), 'system.mjs');
  chmodSync(dirname(script), 0o755);
  writeFileSync(script, readFileSync(join(root, 'scripts/system.mjs')));
  const asNobody =
    process.getuid?.() === 0
      ? ['/usr/bin/setpriv', '--reuid=65534', '--regid=65534', '--clear-groups']
      : [];
  const code =
    `import('${script}').then(({ ensurePrograms }) => ensurePrograms('test', ` +
    'console.log)).catch((error) => { console.error(error.message); process.exit(1); })';
  const [program, ...rest] = [...asNobody, process.execPath, '-e', code];
  const { status, stderr } = spawnSync(program, rest, { env: { PATH: path }, encoding: 'utf8' });
  expect(status).toBe(1);
  expect(stderr).toContain(
    "sudo sh -c 'apt-get update -qq && apt-get install -y -qq --no-install-recommends " +
      'chromium-headless-shell poppler-utils qpdf git default-jre-headless epubcheck ' +
      "libxml2-utils docbook-xml'",
  );
});

test('the layers of the house are really checked', () => {
  const house = mkdtempSync(join(tmpdir(), 'ukiyo-house-'));
  const check = (files: Readonly<Record<string, string>>): string => {
    for (const [path, text] of Object.entries(files)) {
      mkdirSync(dirname(join(house, path)), { recursive: true });
      writeFileSync(join(house, path), text);
    }
    return spawnSync(
      join(root, 'node_modules/.bin/depcruise'),
      ['--config', join(root, '.dependency-cruiser.cjs'), '--output-type', 'err', 'packages'],
      { cwd: house, encoding: 'utf8' },
    ).stdout;
  };
  const sound = {
    'packages/core/a/index.ts': 'export const a = 1;\n',
    'packages/web/b.ts': "import { a } from '../core/a/index.ts';\nexport const b = a;\n",
  };
  expect(check(sound)).toContain('no dependency violations found');
  const planted = {
    'packages/core/a/up.ts': "import { b } from '../../web/b.ts';\nexport const up = b;\n",
    'packages/core/a/node.ts':
      "import { readFileSync } from 'node:fs';\nexport const read = readFileSync;\n",
    'packages/core/c/inner.ts': 'export const c = 1;\n',
    'packages/core/a/past.ts': "import { c } from '../c/inner.ts';\nexport const past = c;\n",
    'packages/web/server.ts': "import { s } from '../server/s.ts';\nexport const t = s;\n",
    'packages/server/s.ts': 'export const s = 1;\n',
  };
  const found = check(planted);
  for (const rule of ['core-is-alone', 'core-is-pure', 'through-the-door', 'web-without-server'])
    expect(found, rule).toContain(rule);
});
