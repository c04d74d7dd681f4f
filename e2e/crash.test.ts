import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { isSaved, hasCaret, projectOf, stored } from './pages.ts';
import { Robot } from './robot.ts';
import { freshGround, serve } from './serving.ts';

const root = join(import.meta.dirname, '..');
const port = 4786;
const origin = `http://127.0.0.1:${port}`;
const rest = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds));

/** A topic with a paragraph for each of six people. */
async function stormTopic(page: Page): Promise<{ project: string; id: string }> {
  const project = await projectOf(page);
  const { id, version } = (await (
    await page.request.post(`${project}/items`, {
      data: { type: 'concept', title: 'Storm', folder: '' },
    })
  ).json()) as { id: string; version: number };
  const paragraphs = Array.from({ length: 6 }, (_, index) => `<p>${index}:</p>`).join('');
  await page.request.put(`${project}/items/${id}`, {
    data: {
      text: `<concept id="${id}"><title>Storm</title><conbody>${paragraphs}</conbody></concept>`,
      version,
    },
  });
  return { project, id };
}

/** Five who type without a browser, signed in as the page is. */
async function robotsIn(page: Page, path: string): Promise<Robot[]> {
  const [{ name, value }] = (await page.context().cookies()) as unknown as [
    { name: string; value: string },
  ];
  return Array.from(
    { length: 5 },
    (_, index) =>
      new Robot(`ws://127.0.0.1:${port}${path}`, `${name}=${value}`, `robot-${index}`, index),
  );
}

test('the server dies while six people type: nothing is lost and nobody reloads', async ({
  browser,
}) => {
  const ground = await freshGround('live_crash');
  const folders = { WEB_FOLDER: join(root, 'packages/web/dist'), DEMO_FOLDER: join(root, 'demo') };
  const first = await serve(ground, port, folders);

  const page = await (await browser.newContext({ baseURL: origin })).newPage();
  await page.goto('/sign-in');
  await page.getByLabel('E-mail').fill('noor@brinewell.example');
  await page.getByLabel('Password').fill('lanternfish');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page).toHaveURL(/\/library$/u);
  const { project, id } = await stormTopic(page);
  await page.goto(`/write/${id}`);
  await expect(page.locator('.ProseMirror')).toBeVisible();
  await hasCaret(page);
  const robots = await robotsIn(page, `${project}/live/${id}`);
  await Promise.all(robots.map((robot) => robot.open()));

  let isOver = false;
  const typing = robots.map(async (robot, index) => {
    for (let count = 0; !isOver; count += 1) {
      robot.type(`${'abcde'[index]!}${count} `);
      await rest(60 + index * 7);
    }
  });
  const last = page.locator('.ProseMirror p').last();
  await expect(async () => {
    await last.click();
    expect(
      await last.evaluate((paragraph) =>
        paragraph.contains(document.getSelection()?.anchorNode ?? null),
      ),
    ).toBe(true);
  }).toPass();
  await page.keyboard.press('End');
  await page.keyboard.type('Before the storm.', { delay: 20 });
  first.process.removeAllListeners('exit');
  const died = new Promise((resolve) => first.process.once('exit', resolve));
  first.process.kill('SIGKILL');
  await died;
  await expect(page.getByText('Offline')).toBeVisible();
  await page.keyboard.type(' In the storm.', { delay: 20 });
  await rest(500);
  const second = await serve(ground, port, folders);
  await page.keyboard.type(' After it.', { delay: 20 });
  isOver = true;
  await Promise.all(typing);
  await isSaved(page);
  await expect.poll(() => robots.every((robot) => robot.isSafe)).toBe(true);
  await expect.poll(() => stored(page)).toContain(robots[4]!.typed.trim());
  const text = await stored(page);
  for (const [index, robot] of robots.entries()) {
    expect(robot.typed.length).toBeGreaterThan(20);
    expect(text).toContain(`<p>${index}:${robot.typed.trimEnd()}</p>`);
    await expect(page.locator('.ProseMirror p').nth(index)).toContainText(robot.typed.trim());
    robot.close();
  }
  expect(text).toContain('5:Before the storm. In the storm. After it.');
  await page.context().close();
  await second.stop();
});
