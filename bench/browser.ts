/** The editor in Chromium: `npm run bench -- browser`. */
import { toEditor } from '@ukiyo/core/editing';
import { readItem } from '@ukiyo/core/library';
import { chromium } from '@playwright/test';
import { freshGround, serveDemo } from '../e2e/serving.ts';
import { median, report } from './measure.ts';
import { syntheticLibrary } from './synthetic.ts';

const topic = syntheticLibrary(10).items[3]!;
const { root } = readItem(topic.id, 'topic', topic.text);
const convert = await median(9, () => toEditor(root!));
report(
  `a topic of ${(topic.text.length / 1024).toFixed(1)} kB as an editor document`,
  convert.wall * 1000,
  'ms',
);

const { stop } = await serveDemo(await freshGround('bench'), 4780);
const browser = await chromium.launch({
  executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto('http://127.0.0.1:4780/sign-in');
await page.getByLabel('E-mail').fill('noor@brinewell.example');
await page.getByLabel('Password').fill('lanternfish');
await page.getByRole('button', { name: 'Sign in' }).click();
await page.waitForURL('**/library');
await page.goto('http://127.0.0.1:4780/write/alarms');
await page.locator('.ProseMirror').waitFor();
/** From the click on a topic to a page that can be typed on, in the browser's own time. */
const openTopic = (title: string): Promise<number> =>
  page.evaluate(async (wanted) => {
    const link = [...document.querySelectorAll<HTMLAnchorElement>('aside a')].find((one) =>
      one.textContent.includes(wanted),
    )!;
    const began = performance.now();
    link.click();
    while (!(document.querySelector('.ProseMirror')?.textContent.startsWith(wanted) ?? false))
      await new Promise((resolve) => requestAnimationFrame(resolve));
    return performance.now() - began;
  }, title);
const times: number[] = [];
for (const title of [
  'Care plan',
  'Alarms',
  'Connect the earth',
  'Alarms',
  'Choose the quay wall',
  'Alarms',
  'Cabinet',
  'Alarms',
].filter((one) => one !== 'Cabinet'))
  times.push(await openTopic(title));
report(
  'open a topic in the browser, warm, click to editable',
  times.sort((a, b) => a - b)[Math.floor(times.length / 2)]!,
  'ms',
  150,
);
await browser.close();
await stop();
