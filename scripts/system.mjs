/** Debian programs that are needed: finds them and, where it may, installs them. */
import { spawnSync } from 'node:child_process';
import { accessSync, constants, existsSync, readdirSync } from 'node:fs';
import { delimiter, join } from 'node:path';

const onPath = (name) => {
  for (const folder of (process.env.PATH ?? '').split(delimiter)) {
    try {
      accessSync(join(folder, name), constants.X_OK);
      return join(folder, name);
    } catch {
      // the next folder
    }
  }
  return undefined;
};

/** The folder with the newest `initdb` and `postgres`. */
function findPostgres() {
  const base = '/usr/lib/postgresql';
  if (!existsSync(base)) return undefined;
  const versions = readdirSync(base)
    .filter((name) => /^\d+$/.test(name))
    .sort((a, b) => Number(b) - Number(a));
  return versions
    .map((version) => join(base, version, 'bin'))
    .find((bin) => existsSync(join(bin, 'initdb')) && existsSync(join(bin, 'postgres')));
}

/** Debian's Chromium; the one without windows takes a fifth less of the processor. */
const findBrowser = () => onPath('chromium-headless-shell') ?? onPath('chromium');

const needs = {
  serve: [{ found: findPostgres, packages: ['postgresql'] }],
  test: [
    { found: findPostgres, packages: ['postgresql'] },
    { found: findBrowser, packages: ['chromium-headless-shell'] },
    { found: () => onPath('pdftotext'), packages: ['poppler-utils'] },
    { found: () => onPath('qpdf'), packages: ['qpdf'] },
    { found: () => onPath('git'), packages: ['git'] },
    { found: () => onPath('java'), packages: ['default-jre-headless'] },
    { found: () => onPath('epubcheck'), packages: ['epubcheck'] },
    {
      found: () => existsSync('/usr/share/snowball/data/english/voc.txt'),
      packages: ['snowball-data'],
    },
    {
      found: () =>
        onPath('xmllint') && existsSync('/usr/share/xml/docbook/schema/dtd/4.5/soextblx.dtd'),
      packages: ['libxml2-utils', 'docbook-xml'],
    },
  ],
};

/**
 * Makes sure that the programs for `serve` or `test` are there.
 * Throws an Error whose message is the command to type where installing is not allowed.
 */
export function ensurePrograms(purpose, log) {
  const missing = needs[purpose]
    .filter(({ found }) => !found())
    .flatMap(({ packages }) => packages);
  if (missing.length > 0) install(missing, log);
  const postgres = findPostgres();
  if (!postgres) throw new Error('PostgreSQL is still not found after the installation.');
  return { postgres, chromium: findBrowser() };
}

function install(packages, log) {
  const isRoot = process.getuid?.() === 0;
  const hasSudo =
    !isRoot &&
    onPath('sudo') !== undefined &&
    spawnSync('sudo', ['-n', 'true'], { stdio: 'ignore' }).status === 0;
  // Debian's package would otherwise make and start a cluster of its own on port 5432.
  const quiet = packages.includes('postgresql')
    ? 'mkdir -p /etc/postgresql-common && { [ -e /etc/postgresql-common/createcluster.conf ] ' +
      '|| echo "create_main_cluster = false" > /etc/postgresql-common/createcluster.conf; } && '
    : '';
  const command =
    `${quiet}apt-get update -qq && apt-get install -y -qq --no-install-recommends ` +
    `${packages.join(' ')}`;
  if (onPath('apt-get') === undefined || (!isRoot && !hasSudo))
    throw new Error(
      `These programs are missing: ${packages.join(', ')}. Install them with\n` +
        `\n    sudo sh -c '${command}'\n\nand start again.`,
    );
  log(`installing ${packages.join(', ')}`);
  const [program, ...before] = isRoot ? ['sh'] : ['sudo', 'sh'];
  const { status } = spawnSync(program, [...before, '-c', command], {
    stdio: ['ignore', 2, 2],
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  });
  if (status !== 0)
    throw new Error(`The installation failed. Try by hand:\n\n    sudo sh -c '${command}'\n`);
}
