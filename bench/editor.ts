/** Writing in long topics, and by many at once, in Chromium: `npm run bench -- editor`. */
import { chromium, type Page } from '@playwright/test';
import { Robot } from '../e2e/robot.ts';
import { freshGround, serveDemo } from '../e2e/serving.ts';
import { report } from './measure.ts';
import { longTopic } from './synthetic.ts';

const origin = 'http://127.0.0.1:4780';
const { stop } = await serveDemo(await freshGround('bench'), 4780);
const browser = await chromium.launch({
  executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(`${origin}/sign-in`);
await page.getByLabel('E-mail').fill('noor@brinewell.example');
await page.getByLabel('Password').fill('lanternfish');
await page.getByRole('button', { name: 'Sign in' }).click();
await page.waitForURL('**/library');
const session = (await (await page.request.get(`${origin}/api/session`)).json()) as {
  projects: { id: string }[];
};
const items = `${origin}/api/projects/${session.projects[0]!.id}/items`;

async function makeTopic(blocks: number): Promise<string> {
  const title = `Long ${blocks}`;
  const made = (await (
    await page.request.post(items, { data: { type: 'concept', title, folder: 'bench' } })
  ).json()) as { id: string; version: number };
  await page.request.put(`${items}/${made.id}`, {
    data: { text: longTopic(made.id, title, blocks), version: made.version },
  });
  return made.id;
}
const percentile = (values: readonly number[], share: number): number =>
  values.toSorted((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))]!;

/** From the click on its name to a page that can be typed on, in the browser's own time. */
async function openTopic(on: Page, id: string): Promise<number> {
  // Of a long list only what is in sight is drawn.
  await on.getByLabel('Filter topics').fill(id.replaceAll('-', ' '));
  await on.locator(`aside a[href="/write/${id}"]`).waitFor();
  return on.evaluate(async (wanted) => {
    const link = document.querySelector<HTMLAnchorElement>(`aside a[href="/write/${wanted}"]`)!;
    const began = performance.now();
    link.click();
    while (
      !location.pathname.endsWith(wanted) ||
      document.querySelector('.ProseMirror .is-section') === null
    )
      await new Promise((resolve) => requestAnimationFrame(resolve));
    await new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)));
    return performance.now() - began;
  }, id);
}

/**
 * Types in the middle of the topic: for each key, the time from the event to the end of the frame
 * that shows it.
 */
async function keyTimes(on: Page, count: number): Promise<number[]> {
  await on.evaluate(() => {
    const times: number[] = [];
    Object.assign(window, { times });
    window.addEventListener(
      'keydown',
      ({ timeStamp }) =>
        requestAnimationFrame(() => {
          const { port1, port2 } = new MessageChannel();
          port1.onmessage = () => times.push(performance.now() - timeStamp);
          port2.postMessage(null);
        }),
      true,
    );
  });
  const paragraphs = on.locator('.ProseMirror p');
  await paragraphs.nth(Math.floor((await paragraphs.count()) / 2)).click();
  const words = 'the tide comes in and goes out again ';
  for (let at = 0; at < count; at += 1) {
    await on.keyboard.press(words[at % words.length] === ' ' ? 'Space' : words[at % words.length]!);
    await on.waitForTimeout(40);
  }
  return on.evaluate(() => (window as unknown as { times: number[] }).times);
}

/** From the choice of a lens to the end of the frame that shows what it leaves, to and fro. */
const lensTimes = (on: Page, count: number): Promise<number[]> =>
  on.evaluate(async (most) => {
    const select = document.querySelector<HTMLSelectElement>('select[aria-label="Lens"]')!;
    const times: number[] = [];
    for (let run = 0; run < most; run += 1) {
      select.value = run % 2 === 0 ? 'installer-tern-q' : '';
      const began = performance.now();
      select.dispatchEvent(new Event('change'));
      await new Promise<void>((resolve) =>
        requestAnimationFrame(() => {
          const { port1, port2 } = new MessageChannel();
          port1.onmessage = () => resolve();
          port2.postMessage(null);
        }),
      );
      times.push(performance.now() - began);
      await new Promise((resolve) => setTimeout(resolve, 200));
    }
    return times;
  }, count);

for (const [blocks, keyBound, openBound] of [
  [3000, 33, 600],
  [10_000, 70, undefined],
] as const) {
  const id = await makeTopic(blocks);
  await page.goto(`${origin}/write/alarms`);
  await page.locator('.ProseMirror').waitFor();
  await openTopic(page, id);
  const opened: number[] = [];
  for (let run = 0; run < 3; run += 1) {
    await openTopic(page, 'choose-the-quay-wall');
    opened.push(await openTopic(page, id));
  }
  report(`${blocks} blocks: open, click to editable`, percentile(opened, 0.5), 'ms', openBound);
  const times = await keyTimes(page, 150);
  report('… key to the end of its frame, p50', percentile(times, 0.5), 'ms');
  report('… p95', percentile(times, 0.95), 'ms', keyBound);
  report(
    '… looked at through another lens',
    percentile(await lensTimes(page, 10), 0.5),
    'ms',
    blocks === 3000 ? 100 : undefined,
  );
}

/** A map of 1,000 entries, every third for deep water alone. */
const title = 'A thousand entries';
const map = (await (
  await page.request.post(items, { data: { type: 'map', title, folder: 'bench' } })
).json()) as { id: string; text: string; version: number };
const entries = Array.from(
  { length: 1000 },
  (_, at) =>
    `<topicref href="topic:${at % 2 === 0 ? 'alarms' : 'care-plan'}"` +
    `${at % 3 === 0 ? ' product="tern-d"' : ''}/>`,
);
await page.request.put(`${items}/${map.id}`, {
  data: {
    text: map.text.replace('</map>', `${entries.join('')}</map>`),
    version: map.version,
    note: '',
  },
});
await page.goto(`${origin}/arrange/${map.id}`);
await page.locator('.entry').nth(999).waitFor({ state: 'attached' });
report(
  'map of 1,000 entries looked at through another lens',
  percentile(await lensTimes(page, 10), 0.5),
  'ms',
  300,
);

/**
 * From the key to the report of the worker: problems and words come together, and the words always
 * change.
 */
const id = await makeTopic(3001);
await page.goto(`${origin}/write/${id}`);
await page.locator('.ProseMirror .is-section').first().waitFor();
await page.waitForTimeout(1000);
await page.locator('.ProseMirror p').nth(200).click();
// Behind a word: the next letters make a new one.
await page.keyboard.press('End');
await page.keyboard.press('Space');
const settled: number[] = [];
for (let run = 0; run < 30; run += 1) {
  await page.evaluate(() => {
    const words = (): string =>
      [...document.querySelectorAll('.foot span')]
        .map((one) => one.textContent)
        .find((text) => text.endsWith(' words')) ?? '';
    const before = words();
    const watch = (began: number): void => {
      if (words() === before) setTimeout(watch, 2, began);
      else Object.assign(window, { settled: performance.now() - began });
    };
    window.addEventListener('keydown', ({ timeStamp }) => watch(timeStamp), {
      once: true,
      capture: true,
    });
  });
  // A letter after a space is a word more.
  await page.keyboard.press('w');
  await page.waitForFunction(() => 'settled' in window);
  settled.push(await page.evaluate(() => (window as unknown as { settled: number }).settled));
  await page.evaluate(() => Reflect.deleteProperty(window, 'settled'));
  await page.keyboard.press('Space');
  await page.waitForTimeout(150);
}
report('3000 blocks: key to the checked topic, p50', percentile(settled, 0.5), 'ms');
report('… p95', percentile(settled, 0.95), 'ms', 150);

// Twenty people in one topic: nineteen without a browser, each about four keys a second, and one
// who looks on.
const [cookie] = await page.context().cookies();
const crowd = await makeTopic(60);
await page.goto(`${origin}/write/${crowd}`);
await page.locator('.ProseMirror .is-section').first().waitFor();
await page.evaluate(() => {
  const seen: Record<string, number> = {};
  Object.assign(window, { seen });
  new MutationObserver(() =>
    requestAnimationFrame(() => {
      for (const [found] of document.querySelector('.ProseMirror')!.textContent.matchAll(/k\d+/gu))
        seen[found] ??= Date.now();
    }),
  ).observe(document.querySelector('.ProseMirror')!, {
    subtree: true,
    characterData: true,
    childList: true,
  });
});
const robots = Array.from(
  { length: 19 },
  (_, index) =>
    new Robot(
      `${items.replace('http', 'ws').replace(/items$/u, 'live')}/${crowd}`,
      `${cookie!.name}=${cookie!.value}`,
      `robot-${index}`,
      index,
    ),
);
await Promise.all(robots.map((robot) => robot.open()));
const rest = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds));
const sent: Record<string, number> = {};
let isOver = false;
const others = robots.slice(1).map(async (robot) => {
  while (!isOver) {
    robot.type('x');
    await rest(200 + Math.random() * 100);
  }
});
for (let count = 0; count < 100; count += 1) {
  sent[`k${count}`] = Date.now();
  robots[0]!.type(`k${count} `);
  await rest(150);
}
isOver = true;
await Promise.all(others);
await rest(1000);
const seen = await page.evaluate(
  () => (window as unknown as { seen: Record<string, number> }).seen,
);
const delays = Object.entries(sent).map(
  ([token, at]) => (seen[token] ?? Number.POSITIVE_INFINITY) - at,
);
report('20 people in one topic: another person’s key visible, p50', percentile(delays, 0.5), 'ms');
report('… p95', percentile(delays, 0.95), 'ms', 100);
for (const robot of robots) robot.close();
await browser.close();
await stop();
