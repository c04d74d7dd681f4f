import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { expect, test, type Locator, type Page } from './test.ts';
import { faults } from './faults.ts';
import { isSaved } from './pages.ts';
import { openLibrary } from './people.ts';
import { stockOf } from './stock.ts';

/** Writes files into the folder whose folders can be linked. */
const writing =
  (dataFolder: string) =>
  (path: string, text: string): void => {
    const file = join(dataFolder, 'sources', path);
    mkdirSync(dirname(file), { recursive: true });
    writeFileSync(file, text);
  };

/** Links the folder of tides; what cannot be a topic is told. */
async function linkAndRead(page: Page, source: Locator): Promise<void> {
  const spring = source.getByRole('row', { name: 'spring.md' });
  await expect(page.getByRole('navigation', { name: 'Where you are' })).toContainText(
    'Linked sources › tide-tables',
  );
  await expect(spring).toContainText('new');
  await expect(source.getByRole('list', { name: 'What is wrong' })).toContainText(
    '“raw.md” cannot be a topic: line 3: HTML has no place in this topic.',
  );
  await source.getByRole('button', { name: 'Link and read' }).click();
  await expect(page.getByText('2 topics new.')).toBeVisible();
  await expect(spring).toContainText('as outside');
  expect(await faults(page, { without: '.n-message-container' })).toEqual([]);
}

/** Has an edition read its sources before it is built; the ID of the impression. */
async function buildWithSources(page: Page, edition: string): Promise<string> {
  await page.goto(`/publish/${edition}`);
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByText('read again before each build').click();
  await page.getByRole('button', { name: 'Save edition' }).click();
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  const built = page.getByRole('article', { name: 'Impression 1' });
  await expect(built.getByText('Built', { exact: true })).toBeVisible({ timeout: 120_000 });
  await built.getByRole('button', { name: /problem/u }).click();
  await expect(built.getByRole('region', { name: 'Linked sources' })).toContainText(
    '“raw.md” cannot be a topic',
  );
  const { base } = await stockOf(page);
  const all = (await (await page.request.get(`${base}/impressions`)).json()) as {
    id: string;
    edition: string;
  }[];
  return all.find((one) => one.edition === edition)!.id;
}

test('a linked folder is read again before a build, and never overwrites work done here', async ({
  page,
  site,
}) => {
  const put = writing(site.dataFolder);
  put(
    'tide-tables/spring.md',
    '# Spring tides\n\nThey come twice a month. See [neap tides](neap.md).\n',
  );
  put('tide-tables/neap.md', '# Neap tides\n\nThey come in between.\n');
  put('tide-tables/raw.md', '# Raw\n\n<table></table>\n');
  await openLibrary(page);
  await page.getByRole('link', { name: 'Linked sources: files outside' }).click();
  await page.getByRole('link', { name: /tide-tables/u }).click();
  const source = page.getByRole('region', { name: 'tide-tables' });
  const row = (path: string) => source.getByRole('row', { name: path });

  await test.step('it is linked and read', () => linkAndRead(page, source));
  await test.step('its topics say where they come from, and may be written on', async () => {
    await row('neap.md').getByRole('link', { name: 'Neap tides' }).click();
    await expect(page.getByText('Written outside, in neap.md of tide-tables')).toBeVisible();
    await page.locator('.ProseMirror .is-body > p').click();
    await page.keyboard.press('End');
    await page.keyboard.type(' At half moon.');
    await isSaved(page);
    expect(await faults(page, { without: '.n-message-container' })).toEqual([]);
  });
  await test.step('what changes outside is taken, but not over what was written here', async () => {
    put('tide-tables/spring.md', '# Spring tides\n\nThey come with the new moon.\n');
    put('tide-tables/neap.md', '# Neap tides\n\nThey come a week later.\n');
    await page.getByRole('link', { name: 'tide-tables' }).click();
    await expect(row('spring.md')).toContainText('changed outside');
    await source.getByRole('button', { name: 'Read again' }).click();
    await expect(page.getByText('1 topic changed.')).toBeVisible();
    await expect(row('spring.md')).toContainText('as outside');
    await expect(row('neap.md')).toContainText('changed outside and here');
    await row('neap.md').getByRole('button', { name: 'Keep what is here' }).click();
    await expect(row('neap.md')).toContainText('as outside');
    await row('neap.md').getByRole('link', { name: 'Neap tides' }).click();
    await expect(page.locator('.ProseMirror')).toContainText('They come in between. At half moon.');
  });

  const stock = await stockOf(page);
  const list = (await (await page.request.get(`${stock.base}/sources`)).json()) as {
    folder: string;
    files: { path: string; item: string }[];
  }[];
  const files = list.find(({ folder }) => folder === 'tide-tables')!.files;
  const spring = files.find(({ path }) => path === 'spring.md')!.item;
  const map = await stock.item(
    'map',
    'Book of tides',
    `<title>Book of tides</title><topicref href="topic:${spring}"/>`,
  );
  const edition = await stock.edition('Tides site', map, { output: 'site' });
  await test.step('an edition reads it again before it is built, with its problems', async () => {
    put('tide-tables/spring.md', '# Spring tides\n\nThey come with the full moon too.\n');
    const impression = await buildWithSources(page, edition);
    const file = `${stock.base}/impressions/${impression}/files/site/${spring}.html`;
    expect(await (await page.request.get(file)).text()).toContain('with the full moon too');
  });
  await test.step('without the link its topics stay', async () => {
    await page.goto('/sources/tide-tables');
    await source.getByRole('button', { name: 'Unlink' }).click();
    await expect(source.getByText('Not linked.')).toBeVisible();
    await expect(row('spring.md')).toContainText('as outside');
    for (const path of [
      `editions/${edition}`,
      `items/${map}`,
      ...files.map(({ item }) => `items/${item}`),
    ])
      await stock.remove(path);
  });
});

test('who only reads is told nothing of folders of the server', async ({ page }) => {
  await openLibrary(page, 'mira');
  await expect(page.getByRole('link', { name: 'Agreements: rules, facts, words' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Linked sources: files outside' })).toHaveCount(0);
  await page.goto('/sources');
  await expect(page.getByText('Your role does not allow this.')).toBeVisible();
  await expect(
    page.getByRole('complementary', { name: 'Folders outside' }).getByRole('link'),
  ).toHaveCount(0);
});
