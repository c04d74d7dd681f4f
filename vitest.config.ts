import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vitest/config';

/**
 * No file leaves anything behind for another one, so what they import is read once for all of them.
 */
const isolate = false;
const shared = {
  resolve: { conditions: ['source'] },
  ssr: { resolve: { conditions: ['source'] } },
};
const unitTests = [
  'packages/{core,contracts,intake,press}/**/*.test.ts',
  'packages/web/**/*.test.ts',
  'standard/**/*.test.ts',
];

export default defineConfig({
  test: {
    projects: [
      {
        ...shared,
        plugins: [vue()],
        test: {
          name: 'unit',
          include: unitTests,
          exclude: ['**/node_modules/**', '**/dist/**'],
          environment: 'node',
          isolate,
          testTimeout: 120_000,
        },
      },
      {
        ...shared,
        test: {
          name: 'server',
          include: ['packages/server/**/*.test.ts'],
          globalSetup: 'packages/server/testing.ts',
          exclude: ['**/node_modules/**', '**/dist/**'],
          isolate,
          // Builds have the lowest priority: on a busy machine they take minutes, and still end.
          testTimeout: 300_000,
          hookTimeout: 300_000,
          expect: { poll: { timeout: 120_000 } },
        },
      },
    ],
  },
});
