import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const require = createRequire(import.meta.url);

/** This folder among the sources: the compiled program reads styles and built scripts there too. */
function sourceFolder(): string {
  const here = dirname(fileURLToPath(import.meta.url));
  return here.includes(join('press', 'dist')) ? join(here, '../../site') : here;
}

const fonts: readonly (readonly [packageName: string, file: string])[] = [
  ['@fontsource-variable/source-serif-4', 'source-serif-4-latin-wght-normal.woff2'],
  ['@fontsource-variable/source-serif-4', 'source-serif-4-latin-wght-italic.woff2'],
  ['@fontsource-variable/source-sans-3', 'source-sans-3-latin-wght-normal.woff2'],
  ['@fontsource/source-code-pro', 'source-code-pro-latin-400-normal.woff2'],
];

/** Of proofs alone: it lets the workshop change the page. */
export const proofScript = 'proofed.js';

let remembered: ReadonlyMap<string, Uint8Array> | undefined;

/** The files that every site has: styles, scripts (built by `npm run build`) and fonts. */
export function siteRuntime(): ReadonlyMap<string, Uint8Array> {
  if (remembered) return remembered;
  const files = new Map<string, Uint8Array>();
  const folder = sourceFolder();
  for (const name of ['style.css', 'tablet.css', 'phone.css'])
    files.set(name, readFileSync(join(folder, name)));
  for (const name of readdirSync(join(folder, 'built')).filter((one) => one !== proofScript))
    files.set(name, readFileSync(join(folder, 'built', name)));
  for (const [packageName, file] of fonts)
    files.set(
      `fonts/${file}`,
      readFileSync(join(dirname(require.resolve(`${packageName}/package.json`)), 'files', file)),
    );
  remembered = files;
  return files;
}

/** The script of proofs. */
export const proofScriptContent = (): Uint8Array =>
  readFileSync(join(sourceFolder(), 'built', proofScript));
