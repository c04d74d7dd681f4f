import { test as base } from '@playwright/test';
import { copiedGround, serveDemo } from './serving.ts';

export {
  expect,
  type Browser,
  type BrowserContext,
  type Locator,
  type Page,
} from '@playwright/test';

/** Ports from here on: one for each worker of a run, and for those that follow failed tests. */
const firstPort = 4800;

/** The server of a worker. */
interface Site {
  readonly origin: string;
  readonly dataFolder: string;
}

/**
 * Tests with a server, a database and a data folder of their own for each worker: copies of those
 * with the demo library that the run has made once. No file finds what another one left behind.
 */
export const test = base.extend<object, { readonly site: Site }>({
  site: [
    async ({}, use, { workerIndex }) => {
      const port = firstPort + workerIndex;
      const ground = await copiedGround(`e2e_${workerIndex}`);
      const { stop } = await serveDemo(ground, port);
      await use({ origin: `http://127.0.0.1:${port}`, dataFolder: ground.dataFolder });
      await stop();
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  baseURL: ({ site }, use) => use(site.origin),
});
