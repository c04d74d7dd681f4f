/**
 * Pages beside the text, over the running server and the demo library: `npm run bench -- proof`.
 */
import { chromium } from '@playwright/test';
import { demoPassword } from '@ukiyo/server';
import { shippedPlans, shippedSheets, withValue } from '@ukiyo/core/styles';
import { join } from 'node:path';

import { freshGround, serve } from '../e2e/serving.ts';
import { report, undisturbed } from './measure.ts';

const { stop } = await serve(await freshGround('proof'), 4791, {
  WEB_FOLDER: join(process.cwd(), 'packages/web/dist'),
  DEMO_FOLDER: join(process.cwd(), 'demo'),
});

const server = 'http://127.0.0.1:4791';
const origin = `${server}/api`;
const signIn = await fetch(`${origin}/session`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ email: 'teo@brinewell.example', password: demoPassword }),
});
const headers = {
  cookie: signIn.headers.get('set-cookie')!.split(';')[0]!,
  'content-type': 'application/json',
};
const { projects } = (await (await fetch(`${origin}/session`, { headers })).json()) as {
  projects: { id: string }[];
};
const project = projects[0]!.id;
const get = async <Answer>(path: string): Promise<Answer> =>
  (await (await fetch(`${origin}/projects/${project}${path}`, { headers })).json()) as Answer;
interface Timed {
  readonly wall: number;
  readonly server: number;
  readonly placed: boolean;
}
async function proof(path: string, body: object): Promise<Timed> {
  const started = performance.now();
  const answer = await fetch(`${origin}/projects/${project}${path}`, {
    method: 'POST',
    headers,
    body: JSON.stringify(body),
  });
  const { milliseconds, placed } = (await answer.json()) as {
    milliseconds: number;
    placed: boolean;
  };
  return { wall: performance.now() - started, server: milliseconds, placed };
}
const slowest = (values: readonly number[]): number =>
  values.toSorted((a, b) => a - b)[Math.floor(values.length * 0.95)]!;

const editions = await get<{ id: string; name: string }[]>('/editions');
const manual = editions.find(({ name }) => name === 'Tern Q Installation Manual')!;
const { text } = await get<{ text: string }>('/items/fit-the-bracket');
const page = (turn: number): Promise<Timed> =>
  proof(`/editions/${manual.id}/proof`, {
    item: 'fit-the-bracket',
    text: text.replace('</title>', ` ${turn}</title>`),
  });
const first = await page(0);
report('first proof of all: process, library, faces', first.wall, 'ms');
while (!(await page(0)).placed) await new Promise((resolve) => setTimeout(resolve, 2000));
const pages = await undisturbed(100, page);
report(
  'a topic changed → its pages, p95, at the server',
  slowest(pages.map(({ server }) => server)),
  'ms',
  120,
);
report('… until they have come over the wire', slowest(pages.map(({ wall }) => wall)), 'ms', 250);
const styles = await undisturbed(40, (turn) =>
  proof('/designs/specimen', {
    sheet: withValue(shippedSheets['workshop']!, 'paragraph', {
      name: 'size',
      medium: 'print',
      value: `${9 + turn / 100}pt`,
    }),
    plan: shippedPlans['a4-margin'],
    locale: 'en',
  }),
);
report('a style changed → the specimen, p95', slowest(styles.map(({ wall }) => wall)), 'ms', 300);

/** From a key to the end of the frame that shows the new page, in the browser's own time. */
const browser = await chromium.launch({
  executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const writer = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await writer.goto(`${server}/sign-in`);
await writer.getByLabel('E-mail').fill('noor@brinewell.example');
await writer.getByLabel('Password').fill(demoPassword);
await writer.getByRole('button', { name: 'Sign in' }).click();
await writer.waitForURL('**/library');
await writer.evaluate(
  (id) => localStorage.setItem('ukiyo-proof-editions', JSON.stringify([id])),
  manual.id,
);
await writer.goto(`${server}/write/fit-the-bracket`);
await writer.getByRole('tab', { name: 'Proof' }).click();
await writer.getByText(/in its place/u).waitFor({ timeout: 60_000 });
await writer.locator('.ProseMirror .is-cmd').first().click();
await writer.keyboard.press('End');
/**
 * From a key to the end of the frame in which its letter is seen, and of that in which its page is.
 */
async function key(): Promise<{ readonly letter: number; readonly page: number }> {
  // Set up before the key is pressed: the two go different ways into the page.
  await writer.evaluate(() => {
    const frame = (began: number): Promise<number> =>
      new Promise((resolve) =>
        requestAnimationFrame(() => {
          const { port1, port2 } = new MessageChannel();
          port1.onmessage = () => resolve(performance.now() - began);
          port2.postMessage(null);
        }),
      );
    const shown = new Promise<{ letter: number; page: number }>((resolve) => {
      const watch = (began: number): void => {
        const letter = frame(began);
        const drawn = new MutationObserver(() => {
          drawn.disconnect();
          void Promise.all([letter, frame(began)]).then(([letter, page]) =>
            resolve({ letter, page }),
          );
        });
        drawn.observe(document.querySelector('.proof .pages')!, { subtree: true, childList: true });
      };
      window.addEventListener('keydown', ({ timeStamp }) => watch(timeStamp), {
        once: true,
        capture: true,
      });
    });
    Object.assign(window, { shown });
  });
  await writer.keyboard.press('a');
  const shown = await writer.evaluate(
    () => (window as unknown as { shown: Promise<{ letter: number; page: number }> }).shown,
  );
  await writer.waitForTimeout(250);
  return shown;
}
const keys = await undisturbed(60, key);
const middle = (values: readonly number[]): number =>
  values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)]!;
report(
  'a key → its letter, beside the proof, p95',
  slowest(keys.map(({ letter }) => letter)),
  'ms',
  33,
);
report('a key → the new page on the screen, p50', middle(keys.map(({ page }) => page)), 'ms');
report('… p95', slowest(keys.map(({ page }) => page)), 'ms', 250);
await browser.close();
await stop();
