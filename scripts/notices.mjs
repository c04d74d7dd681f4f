/**
 * The licences of what is shipped with the program and with what it makes: read from the lock file
 * and from the packages that it names.
 */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const lock = () => JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8')).packages;
const isText = (name) => /^(licen[cs]e|notice|copying)/iu.test(name) && !/\.(js|ts)$/u.test(name);

/** The texts of the licences that a package comes with. */
function textsOf(path) {
  const folder = join(root, path);
  // What another system needs is in the lock file, and not here.
  if (!existsSync(folder)) return [];
  return readdirSync(folder, { withFileTypes: true })
    .filter((entry) => entry.isFile() && isText(entry.name))
    .map(({ name }) => readFileSync(join(folder, name), 'utf8').replaceAll('\r\n', '\n').trim());
}

/** Packages with the same licence text are listed above it, once. */
function written(packages) {
  const byText = new Map();
  for (const [path, { version, license }] of packages) {
    const name = path.slice(path.lastIndexOf('node_modules/') + 'node_modules/'.length);
    const text = textsOf(path).join('\n\n');
    byText.set(text, [...(byText.get(text) ?? []), `${name} ${version} (${license})`]);
  }
  return [...byText]
    .map(([text, names]) => [...new Set(names)].join('\n') + (text === '' ? '' : `\n\n${text}`))
    .join(`\n\n${'-'.repeat(80)}\n\n`)
    .concat('\n');
}

/** @param head what the text says first; it names what the packages are part of */
const notices = (head, packages) => `${head}\n\n${'='.repeat(80)}\n\n${written(packages)}`;

/** Of everything that the server and the interface need. */
export const programNotices = () =>
  notices(
    'Ukiyo is licensed under the Apache License 2.0. It comes with these packages of others:',
    Object.entries(lock()).filter(
      ([path, { dev, link }]) => path.includes('node_modules/') && !dev && !link,
    ),
  );

/**
 * Of what a help site carries.
 * @param names packages whose files or code are in it
 */
export const siteNotices = (names) =>
  notices(
    'This help site carries typefaces and a search of others, under these licences:',
    Object.entries(lock()).filter(([path]) =>
      names.some((name) => path === `node_modules/${name}`),
    ),
  );
