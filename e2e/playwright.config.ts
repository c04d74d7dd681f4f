import { defineConfig } from '@playwright/test';

/**
 * Each worker has a server of its own with the demo library (`test.ts`); the files that it runs one
 * after the other leave the parts that others look at as they were.
 */
export default defineConfig({
  testDir: '.',
  timeout: 300_000,
  // Shared machines are up to ten times slower on some days.
  expect: { timeout: 40_000 },
  workers: 2,
  fullyParallel: false,
  reporter: [
    ['list'],
    ['json', { outputFile: process.env['PLAYWRIGHT_JSON_OUTPUT_NAME'] ?? 'test-results/e2e.json' }],
  ],
  outputDir: '../test-results',
  globalSetup: './seed.ts',
  use: {
    viewport: { width: 1280, height: 800 },
    // Nothing moves before it can be clicked: a busy machine draws few frames in a second.
    contextOptions: { reducedMotion: 'reduce' },
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
      ],
    },
  },
});
