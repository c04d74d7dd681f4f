import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { tmpdir } from 'node:os';
import { expect, test, type BrowserContext, type Locator } from './test.ts';
import { stored } from './pages.ts';
import { openLibrary, signIn } from './people.ts';

const sentence = 'Rinse the quillwort brush in the harbour.';

/** The manual has the sentence, in the topic where it now stands. */
async function readManual(context: BrowserContext, impression: Locator): Promise<void> {
  const address = await impression.getByRole('link', { name: 'Open' }).getAttribute('href');
  const pdf = await (await context.request.get(address!)).body();
  const file = join(tmpdir(), 'ukiyo-e2e.pdf');
  writeFileSync(file, pdf);
  const text = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' }).replace(
    /\s+/gu,
    ' ',
  );
  const at = text.lastIndexOf('Rinse the quillwort brush');
  expect(at).toBeGreaterThan(0);
  expect(text.lastIndexOf('7.1 Clean the well', at)).toBeGreaterThan(
    text.lastIndexOf('Download the readings', at),
  );
  expect(text.indexOf('7.2 Care plan', at)).toBeGreaterThan(at);
}

/** The site has the sentence, and finds it; its index lists words. */
async function searchSite(context: BrowserContext, impression: Locator): Promise<void> {
  const [site] = await Promise.all([
    context.waitForEvent('page'),
    impression.getByRole('link', { name: 'Open' }).click(),
  ]);
  await site.getByRole('searchbox').fill('quillwort');
  await site.locator('#results').getByRole('link', { name: 'Clean the well' }).click();
  await expect(site.locator('#content')).toContainText(sentence);
  await expect(site.locator('mark')).toHaveText(['quillwort']);
  await site.getByRole('button', { name: /Marked/u }).click();
  await expect(site.locator('mark')).toHaveCount(0);
  await site.getByRole('link', { name: /Next Care plan/u }).click();
  await expect(site.getByRole('heading', { level: 1 })).toContainText('Care plan');
  await site.waitForLoadState();
  await site.getByRole('tab', { name: 'Index' }).click();
  await site.getByLabel('Type to narrow the index').fill('desicc');
  await expect(site.locator('.words li')).toHaveText(['desiccant']);
}

test('a changed sentence travels from the page to the manual and the site', async ({
  page,
  context,
}) => {
  await openLibrary(page);

  await test.step('change a sentence', async () => {
    await page.getByLabel('Filter topics').fill('Clean the well');
    await page.getByRole('link', { name: /Clean the well/u }).click();
    const step = page.locator('.is-cmd').last();
    await step.click();
    await page.keyboard.press('End');
    await page.keyboard.type(` ${sentence}`);
    await expect(page.getByText('Saved', { exact: true })).toBeVisible();
    await page.reload();
    await expect(page.locator('.is-cmd').last()).toContainText(sentence);
  });

  await test.step('move the topic in both maps', async () => {
    for (const map of ['installation-manual', 'help']) {
      await page.goto(`/arrange/${map}`);
      const entry = page.getByRole('treeitem', { name: /Clean the well/u });
      await entry.click();
      await page.keyboard.press('Alt+ArrowUp');
      await expect(page.getByText('Saved', { exact: true })).toBeVisible();
      const titles = await page.getByRole('treeitem').locator('.title').allTextContents();
      const at = (title: string): number => titles.findIndex((one) => one.trim().startsWith(title));
      expect(at('Clean the well')).toBe(at('Care plan') - 1);
    }
  });

  await test.step('build the manual and read it', async () => {
    await page.goto('/publish');
    await page.getByRole('link', { name: /Tern Q Installation Manual/u }).click();
    await page.getByRole('button', { name: 'Build', exact: true }).click();
    const impression = page.getByRole('article').first();
    await expect(impression.getByText('Built')).toBeVisible({ timeout: 120_000 });
    await expect(impression.getByText('No problems.')).toBeVisible();
    await readManual(context, impression);
  });

  await test.step('build the site, search it and find the page', async () => {
    await page.getByRole('link', { name: /Tern Help/u }).click();
    await page.getByRole('button', { name: 'Build', exact: true }).click();
    const impression = page.getByRole('article').first();
    await expect(impression.getByText('Built')).toBeVisible({ timeout: 120_000 });
    await searchSite(context, impression);
  });

  await test.step('change it once more, and see before and after in each edition', async () => {
    await page.goto('/write/clean-the-well');
    await page.locator('.is-cmd').last().click();
    await page.keyboard.press('End');
    await page.keyboard.type(' Twice a year.');
    // “Saved” may still be said of what was there before: what is compared is what the server has.
    await expect.poll(() => stored(page)).toContain('Twice a year.');
    await page.getByRole('tab', { name: 'Uses' }).click();
    await page.getByRole('button', { name: /Changes of Tern Help since/u }).click();
    await expect(
      page.getByRole('region', { name: 'Before and after in Tern Help' }).locator('ins'),
    ).toContainText('Twice a year.');
  });
});

test('four publications are built, inspected and signed off, one with a reason', async ({
  page,
}) => {
  await signIn(page, 'teo', '/publish');
  const names = [
    'Tern Q Installation Manual',
    'Tern D Installation Manual',
    'Tern Operator’s Handbook',
    'Tern Help',
  ];
  const list = page.getByRole('complementary', { name: 'Editions' });
  for (const name of names)
    await list.getByRole('checkbox', { name: `Build ${name} with others` }).check();
  await list.getByRole('button', { name: 'Build the 4 chosen' }).click();
  const newest = page.getByRole('article').first();
  for (const name of names) {
    await list.getByRole('link', { name: new RegExp(`^${name}`, 'u') }).click();
    await expect(page.getByRole('heading', { name, level: 1 })).toBeVisible();
    await expect(newest.getByText('Built', { exact: true })).toBeVisible({ timeout: 120_000 });
    // Others build too: from here on it is this one.
    const own = page.getByRole('article', {
      name: (await newest.getAttribute('aria-label'))!,
      exact: true,
    });
    await expect(own.getByText('Built', { exact: true })).toBeVisible({ timeout: 120_000 });
    // What is wrong with the handbook on purpose keeps it back.
    const anyway = own.getByRole('button', { name: 'Sign off all the same …' });
    if (await anyway.isVisible()) {
      await anyway.click();
      for (const reason of await own.getByLabel(/: why it may go out$/u).all())
        await reason.fill('Comes with release 4.3');
    }
    await own.getByRole('button', { name: 'Sign off', exact: true }).click();
    await expect(own.getByText('Signed off', { exact: true })).toBeVisible();
    await expect(list.getByRole('link', { name: new RegExp(`^${name}`, 'u') })).toContainText(
      'ships',
    );
  }
  await list.getByRole('link', { name: /^Tern Operator’s Handbook/u }).click();
  await expect(page.getByRole('main')).toContainText('goes out with it: Comes with release 4.3.');
  for (const name of names) {
    await list.getByRole('link', { name: new RegExp(`^${name}`, 'u') }).click();
    await expect(page.getByRole('heading', { name, level: 1 })).toBeVisible();
    await page.getByRole('button', { name: 'Take back the sign-off' }).click();
    await expect(page.getByRole('main').getByText('Signed off', { exact: true })).toHaveCount(0);
  }
});
