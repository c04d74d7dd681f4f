import { readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'vite';
import { siteNotices } from '../../../../scripts/notices.mjs';

const here = dirname(fileURLToPath(import.meta.url));

/** What a site carries of others: its typefaces, and the search. */
function carried() {
  const { dependencies } = JSON.parse(readFileSync(join(here, '../../package.json'), 'utf8'));
  return ['minisearch', ...Object.keys(dependencies).filter((name) => /^@fontsource/u.test(name))];
}

/**
 * Builds the scripts that every help site carries, plain files that also run from a folder, and
 * that of proofs; with them goes the licence of what they are made of.
 */
export async function buildSiteScripts() {
  for (const name of ['site', 'search', 'readers', 'proofed']) {
    await build({
      configFile: false,
      root: here,
      logLevel: 'warn',
      resolve: { conditions: ['source'] },
      build: {
        target: 'es2022',
        outDir: join(here, '../built'),
        emptyOutDir: name === 'site',
        lib: {
          entry: join(here, `${name}.ts`),
          formats: ['iife'],
          name: `site_${name}`,
          fileName: () => `${name}.js`,
        },
      },
    });
  }
  writeFileSync(join(here, '../built/notices.txt'), siteNotices(carried()));
}
