import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vitest/config';

const shared = { resolve: { conditions: ['source'] }, ssr: { resolve: { conditions: ['source'] } } };
const unitTests = ['packages/{core,contracts,intake,press}/**/*.test.ts', 'packages/web/**/*.test.ts'];

export default defineConfig({
  test: {
    projects: [
      {
        ...shared,
        plugins: [vue()],
        // Nothing in the core keeps anything for itself: what the files import is read once for all of them, which halves the time.
        test: { name: 'unit', include: unitTests, exclude: ['**/node_modules/**', '**/dist/**'], environment: 'node', isolate: false, testTimeout: 120_000 },
      },
      {
        ...shared,
        test: { name: 'server', include: ['packages/server/**/*.test.ts'], exclude: ['**/node_modules/**', '**/dist/**'], testTimeout: 60_000, hookTimeout: 60_000 },
      },
    ],
  },
});
