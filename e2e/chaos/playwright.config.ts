import { defineConfig } from '@playwright/test';

/** For `npm run chaos`, which needs no browser and no server but its own. */
export default defineConfig({
  testDir: '..',
  testMatch: 'chaos.test.ts',
  reporter: 'list',
  outputDir: '../../test-results',
});
