import { test as base } from '@playwright/test';
import { copiedGround, serveDemo } from './serving.ts';

export { expect, type Browser, type Locator, type Page } from '@playwright/test';

/** Ports from here on: one for each worker of a run, and for those that follow failed tests. */
const firstPort = 4800;

/**
 * Tests with a server, a database and a data folder of their own for each worker: copies of those
 * with the demo library that the run has made once. No file finds what another one left behind.
 */
export const test = base.extend<object, { readonly origin: string }>({
  origin: [
    async ({}, use, { workerIndex }) => {
      const port = firstPort + workerIndex;
      const { stop } = await serveDemo(await copiedGround(`e2e_${workerIndex}`), port);
      await use(`http://127.0.0.1:${port}`);
      await stop();
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  baseURL: ({ origin }, use) => use(origin),
});
