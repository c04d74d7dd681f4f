import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'vite';

const here = dirname(fileURLToPath(import.meta.url));

/**
 * Builds the scripts that every help site carries, plain files that also run from a folder, and
 * that of proofs.
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
}
