import { expect, test } from './test.ts';
import { isSaved } from './pages.ts';
import { signIn } from './people.ts';

test.beforeEach(({ page }) => signIn(page));

test('a map is written as one document, from topic to topic by keys', async ({ page }) => {
  await page.goto('/arrange/installation-manual');
  await page.getByRole('link', { name: 'Write as one' }).click();
  const contents = page.getByRole('navigation', { name: 'Contents' });
  const sheets = page.locator('.desk .ProseMirror');
  await expect(sheets.first()).toContainText('Safety at the quay');
  const count = await contents.getByRole('button').count();
  expect(count).toBeGreaterThan(50);
  expect(await sheets.count()).toBeLessThan(20);

  await test.step('the contents lead to a topic far below, which keeps what is typed', async () => {
    await contents.getByRole('button', { name: 'Clean the well' }).click();
    const topic = page.getByRole('region', { name: 'Clean the well' });
    await expect(topic.locator('.ProseMirror')).toBeFocused();
    await page.keyboard.press('End');
    await page.keyboard.type(' by hand');
    await isSaved(page);
    await expect(page.locator('#foot-path')).toContainText('Task');
    await page.keyboard.press('Control+z');
    await isSaved(page);
  });
  await test.step('the arrow goes from the last line into the next topic, and back', async () => {
    await page.keyboard.press('Control+End');
    // What was taken back is gone from the contents as well. Other tests arrange this map too.
    await expect(
      contents.getByRole('button', { name: 'Clean the well', exact: true }),
    ).toBeVisible();
    const titles = await contents.getByRole('button').allTextContents();
    const title = titles[titles.indexOf('Clean the well') + 1]!;
    const [here, next] = ['Clean the well', title].map((name) =>
      page.getByRole('region', { name }).locator('.ProseMirror'),
    );
    await expect(async () => {
      if (await here!.evaluate((shown) => shown === document.activeElement))
        await page.keyboard.press('ArrowDown');
      await expect(next!).toBeFocused({ timeout: 5000 });
    }).toPass();
    await expect(contents.locator('[aria-current]')).toHaveText(title);
    await page.keyboard.press('ArrowUp');
    await expect(
      page.getByRole('region', { name: 'Clean the well' }).locator('.ProseMirror'),
    ).toBeFocused();
  });
  await test.step('topics that are far away again are closed', async () => {
    await contents.getByRole('button', { name: 'About this manual' }).click();
    await expect(
      page.getByRole('region', { name: 'About this manual' }).locator('.ProseMirror'),
    ).toBeFocused();
    await expect.poll(() => sheets.count()).toBeLessThan(12);
    await expect(
      page.getByRole('region', { name: 'Clean the well' }).locator('.ProseMirror'),
    ).toHaveCount(0);
  });
});
