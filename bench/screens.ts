/**
 * How long the Library, a topic and a map take to be shown after a cold start of the page, with
 * 1,000 and with 10,000 topics: `npm run bench -- screens`.
 */
import { chromium, type Browser, type Page } from '@playwright/test';
import { join } from 'node:path';
import { serve } from '../e2e/serving.ts';
import { libraryGround } from './ground.ts';
import { report, undisturbed } from './measure.ts';

const port = 4792;
const origin = `http://127.0.0.1:${port}`;
const turns = 5;
/** Entries of the map that is opened. */
const entries = 2_000;

const entryMap =
  '<map id="long"><title>Long map</title>' +
  Array.from({ length: entries }, (_, at) => `<topicref href="topic:t${at % 1_000}"/>`).join('') +
  '</map>';

interface Screen {
  readonly what: string;
  readonly path: string;
  /** What stands on the page once it can be used. */
  readonly shown: string;
  readonly bound?: number;
}
const library = { what: 'Library', path: '/library', shown: '.list .item' };
const screens: readonly Screen[] = [
  library,
  {
    what: 'topic',
    path: '/write/t471',
    shown: '.ProseMirror[contenteditable="true"] p',
    bound: 600,
  },
  {
    what: `map of ${entries} entries`,
    path: '/arrange/long',
    shown: '.entry .title',
    bound: 1_000,
  },
];

interface Account {
  readonly email: string;
  readonly password: string;
}
interface Opened {
  /** Milliseconds. */
  readonly time: number;
  /** Requests to the server. */
  readonly calls: number;
}

/** Resolves in the frame in which something is on the page, with the time since it was opened. */
const timeOf = (page: Page, shown: string): Promise<number> =>
  page.evaluate(async (selector) => {
    while (!document.querySelector(selector))
      await new Promise((resolve) => requestAnimationFrame(resolve));
    return performance.now();
  }, shown);

/** From the start of the navigation to the frame in which the screen can be used. */
async function openCold(
  browser: Browser,
  account: Account,
  { path, shown }: Screen,
): Promise<Opened> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  await context.request.post(`${origin}/api/session`, { data: account });
  const page = await context.newPage();
  let calls = 0;
  page.on('request', (request) => (calls += request.url().includes('/api/') ? 1 : 0));
  await page.goto(`${origin}${path}`, { waitUntil: 'commit' });
  const time = await timeOf(page, shown);
  await context.close();
  return { time, calls };
}

/** From the key that sends the sign-in form to the frame in which the Library can be used. */
async function signIn(browser: Browser, { email, password }: Account): Promise<Opened> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await page.goto(`${origin}/sign-in`);
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password').fill(password);
  let calls = 0;
  page.on('request', (request) => (calls += request.url().includes('/api/') ? 1 : 0));
  const before = await page.evaluate(() => performance.now());
  await page.keyboard.press('Enter');
  const time = (await timeOf(page, library.shown)) - before;
  await context.close();
  return { time, calls };
}

const browser = await chromium.launch({
  executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
/** Milliseconds of each screen in the smaller library. */
const smaller = new Map<string, number>();
for (const size of [1_000, 10_000]) {
  const { ground, account } = await libraryGround('bench', size, [
    { id: 'long', kind: 'map', text: entryMap },
  ]);
  const { stop } = await serve(ground, port, {
    WEB_FOLDER: join(process.cwd(), 'packages/web/dist'),
  });
  console.log(`${size} topics, start of the navigation to the screen`);
  const ways = [
    { what: 'Library after sign-in', bound: 500, open: () => signIn(browser, account) },
    ...screens.map((screen) => ({ ...screen, open: () => openCold(browser, account, screen) })),
  ];
  for (const { what, bound, open } of ways) {
    // The first one warms up the server.
    await open();
    const found = [...(await undisturbed(turns, open))].sort((a, b) => a.time - b.time);
    const { time, calls } = found[Math.floor(found.length / 2)]!;
    report(`${what} (${calls} calls)`, time, 'ms', bound);
    const before = smaller.get(what);
    smaller.set(what, time);
    if (before !== undefined) report('… against 1,000 topics', time / before, '×', 1.25);
  }
  await stop();
}
await browser.close();
