import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import vue from '@vitejs/plugin-vue';
import { NaiveUiResolver } from 'unplugin-vue-components/resolvers';
import components from 'unplugin-vue-components/vite';
import { defineConfig } from 'vite';
import { acyclic } from './acyclic.ts';
import { compressed } from './compressed.ts';
import { preloaded } from './preloaded.ts';

export default defineConfig({
  root: dirname(fileURLToPath(import.meta.url)),
  plugins: [
    vue(),
    components({ resolvers: [NaiveUiResolver()], dts: false, dirs: [] }),
    acyclic(),
    preloaded(),
    compressed(),
  ],
  resolve: { conditions: ['source', 'module', 'browser', 'development|production'] },
  build: {
    target: 'es2023',
    outDir: 'dist',
    emptyOutDir: true,
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 1200,
    rolldownOptions: {
      output: {
        // Each request costs some milliseconds: what the first page needs is one file, and what
        // screens share comes in a few. A group takes with it what its modules import, and imports
        // only from groups above it in this list: files that import each other would be read in an
        // order in which one of them is not there yet.
        codeSplitting: {
          groups: [
            // Texts are checked in a worker. The page itself does so only in the source view and
            // for the trial of a rule: without this group, whoever uses the library's addresses
            // would get the checks with them, and their engine for patterns.
            {
              name: 'checks',
              test: /\/core\/(?:source\/|(?:rules|library)\/check\.ts)|\/re2js\//u,
              includeDependenciesRecursively: false,
              priority: 6,
            },
            // These make errors while they are read, and for the traces of those the browser parses
            // the whole script again in which that happens: each has a small script of its own.
            { name: 'lodash', test: /\/lodash-es\//u, priority: 5.5 },
            { name: 'model', test: /\/prosemirror-model\//u, priority: 5.4 },
            // With Vite's helper for `import()`: it runs before the rest is read.
            { name: 'boot', test: /vite\/preload-helper|\/boot\.ts$/u, priority: 5 },
            { name: 'start', test: /\/main\.ts$/u, priority: 4 },
            { name: 'frame', test: /packages\/web\/shell\/(?:SignIn|WorkShop)/u, priority: 3 },
            {
              name: 'parts',
              test: /packages\/web\/parts\/|\/naive-ui\/|\/icons-vue\//u,
              minShareCount: 2,
              priority: 2,
            },
            {
              name: 'editor',
              test: /packages\/web\/(?:editor|sheet)\//u,
              minShareCount: 2,
              priority: 1,
            },
            {
              name: 'designs',
              test: /packages\/web\/stages\/style\//u,
              minShareCount: 2,
              priority: 0.5,
            },
            { name: 'shared', minShareCount: 2, priority: 0 },
          ],
        },
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:4600' } },
});
