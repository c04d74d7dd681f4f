import { spawnSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { basename, dirname, join } from 'node:path';

const jar = join(
  dirname(createRequire(import.meta.url).resolve('vnu-jar/package.json')),
  'build/dist/vnu.jar',
);

/**
 * Errors that the Nu HTML checker of the W3C finds in pages (npm `vnu-jar`, MIT): all of them in
 * one run of Java.
 */
export function checkedHtml(
  pages: readonly (readonly [path: string, content: string])[],
): string[] {
  const folder = mkdtempSync(join(tmpdir(), 'ukiyo-html-'));
  for (const [path, content] of pages)
    writeFileSync(join(folder, path.replaceAll('/', '_')), content);
  const { stderr, status } = spawnSync(
    'java',
    ['-Xss4m', '-jar', jar, '--format', 'json', '--exit-zero-always', folder],
    { encoding: 'utf8', maxBuffer: 1 << 28 },
  );
  if (status !== 0) throw new Error(stderr.slice(0, 2000));
  const { messages } = JSON.parse(stderr) as {
    messages: readonly { type: string; url: string; lastLine?: number; message: string }[];
  };
  return messages
    .filter(({ type }) => type !== 'info')
    .map(({ url, message }) => `${basename(url)}: ${message}`);
}
