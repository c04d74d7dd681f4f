import { expect, test } from './test.ts';
import { isSaved, newTopic, projectOf, stored } from './pages.ts';
import { openLibrary, signIn } from './people.ts';
import { xml } from './xml.ts';

test.beforeEach(({ page }) => signIn(page));

test('Ctrl+K finds topics and does things; ? lists the shortcuts of the screen', async ({
  page,
}) => {
  await openLibrary(page);
  await page.keyboard.press('Control+k');
  const field = page.getByRole('combobox', { name: 'Find or do' });
  await field.fill('earth');
  // Titles that begin with the words come first.
  await expect(page.getByRole('listbox').getByRole('option')).toContainText([
    'Earth the pile',
    'Connect the earth',
  ]);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/write\/connect-the-earth$/u);
  await page.keyboard.press('Control+k');
  await field.fill('light and dark');
  await page.keyboard.press('Enter');
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark');
  await page.keyboard.press('Control+k');
  await field.fill('go to arr');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/arrange/u);
  await page.getByRole('treeitem').first().click();
  await page.keyboard.press('Shift+?');
  const list = page.getByRole('dialog', { name: 'Shortcuts' });
  await expect(list).toContainText('Take out of the map');
  await expect(list).not.toContainText('What can go here');
  await page.keyboard.press('Escape');
  await expect(list).toBeHidden();

  // All tests ask for less motion; without that, controls change gradually.
  const motion = (): Promise<string> =>
    page
      .locator('.n-button')
      .first()
      .evaluate((button) => getComputedStyle(button).transitionProperty);
  expect(await motion()).toBe('none');
  await page.emulateMedia({ reducedMotion: 'no-preference' });
  expect(await motion()).not.toBe('none');
});

/** What each screen reads of the project before it can be used. */
const asked = {
  '/library': ['folders', 'items?offset=0&limit=100', 'assets?offset=0&limit=100'],
  '/write/fit-the-bracket': [
    'live/fit-the-bracket/document',
    'items?kind=topic&offset=0&limit=100',
    'sources',
    'variables',
  ],
  '/arrange/help': ['editions', 'items/help', 'variables'],
};
for (const [address, own] of Object.entries(asked))
  test(`${address} asks early for what it shows, and for nothing twice`, async ({ page }) => {
    const wanted = ['agreements', 'facets', 'lenses', ...own];
    let paths: string[] = [];
    page.on('request', (request) => {
      const path = /\/api\/projects\/[^/]+\/(.+)/u.exec(request.url())?.[1];
      if (path !== undefined && request.method() === 'GET') paths.push(path);
    });
    const missing = (): string[] => wanted.filter((path) => !paths.includes(path));
    // The program does not arrive: it is the very first script that asks.
    await page.route(/\/assets\/start-[^/]*\.js/u, () => undefined);
    await page.goto(address, { waitUntil: 'commit' });
    await expect.poll(missing).toEqual([]);
    await page.unrouteAll({ behavior: 'ignoreErrors' });

    // A page that hears of a change asks again, rightly: no event arrives.
    await page.route(/\/events$/u, () => undefined);
    paths = [];
    await page.goto(address);
    await expect(page.locator('.list .item, .ProseMirror p, .entry .title').first()).toBeVisible();
    await expect.poll(missing).toEqual([]);
    expect(paths.filter((path, at) => paths.indexOf(path) !== at)).toEqual([]);
    // Topics and images are asked for page by page, images only where they are all shown.
    const lists = paths.filter((path) => /^(items|assets)(\?|$)/u.test(path));
    expect(lists.filter((path) => !path.endsWith('limit=100'))).toEqual([]);
    expect(lists.some((path) => path.startsWith('assets'))).toBe(address === '/library');
  });

test('the Library comes without the editor', async ({ page }) => {
  const scripts: string[] = [];
  page.on('request', (request) =>
    scripts.push(/\/assets\/(\w+)-[^/]*\.js/u.exec(request.url())?.[1] ?? ''),
  );
  await openLibrary(page);
  expect(scripts).toContain('LibraryStage');
  expect(scripts).not.toContain('editor');
  expect(scripts).not.toContain('checks');
});

test('the licences of everything that the program comes with can be read', async ({ page }) => {
  await openLibrary(page);
  await page.getByRole('button', { name: 'Teo Marsh, publisher' }).click();
  const link = page.getByRole('link', { name: 'Licences' });
  const answer = await page.request.get((await link.getAttribute('href'))!);
  expect(answer.headers()['content-type']).toContain('text/plain');
  const text = await answer.text();
  for (const part of ['Apache License 2.0', 'SIL OPEN FONT LICENSE', /^fastify \d/mu, /^vue \d/mu])
    expect(text).toMatch(part);
});

test('a map is arranged by dragging, and every change can be undone', async ({ page }) => {
  await newTopic(page, 'Map', 'Tide pools');
  await page.getByLabel('Filter topics').fill('Alarms');
  await page.getByRole('button', { name: 'Add Alarms to the map' }).click();
  const entry = (name: string) => page.getByRole('treeitem', { name });
  const drag = async (title: string, onto: string): Promise<void> => {
    await page.getByLabel('Filter topics').fill(title);
    await page.locator('.topics li', { hasText: title }).dragTo(entry(onto));
  };
  await drag('Care plan', 'Alarms');
  await drag('Alarm codes', 'Care plan');
  await expect(page.getByRole('treeitem').locator('.title')).toHaveText([
    'Alarms',
    'Care plan',
    'Alarm codes',
  ]);
  await entry('Alarm codes').dragTo(entry('Alarms'), { targetPosition: { x: 60, y: 15 } });
  await expect(entry('Alarm codes')).toHaveAttribute('aria-level', '2');
  await expect(page.getByRole('treeitem').locator('.title')).toHaveText([
    'Alarms',
    'Alarm codes',
    'Care plan',
  ]);
  await isSaved(page);
  expect(await stored(page)).toMatch(
    xml`<topicref href="topic:alarms"><topicref href="topic:alarm-codes"/></topicref>
      <topicref href="topic:care-plan"/>`,
  );
  await entry('Care plan').dragTo(entry('Alarms'), { targetPosition: { x: 60, y: 2 } });
  await expect(page.getByRole('treeitem').locator('.title')).toHaveText([
    'Care plan',
    'Alarms',
    'Alarm codes',
  ]);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('treeitem').locator('.title')).toHaveText([
    'Alarms',
    'Alarm codes',
    'Care plan',
  ]);
  await entry('Care plan').click();
  await page.keyboard.press('Delete');
  await expect(page.getByRole('treeitem').locator('.title')).toHaveText(['Alarms', 'Alarm codes']);
});

test('two people who arrange one map lose nothing unasked', async ({ page, browser }) => {
  await newTopic(page, 'Map', 'Contested map');
  const titles = (on: typeof page) => on.getByRole('treeitem').locator('.title');
  const add = async (on: typeof page, title: string): Promise<void> => {
    await on.getByLabel('Filter topics').fill(title);
    await on.getByRole('button', { name: `Add ${title} to the map` }).click();
  };
  const other = await (await browser.newContext()).newPage();
  await signIn(other, 'ada', page.url());
  await expect(other.getByRole('heading', { name: 'Contested map' })).toBeVisible();
  await add(page, 'Alarms');
  // What nothing unsaved is in the way of is shown at once.
  await expect(titles(other)).toHaveText(['Alarms']);

  // Both change it at the same moment: the first that is saved wins, and the second asks.
  let release = (): void => undefined;
  const isReleased = new Promise<void>((resolve) => (release = resolve));
  await page.route('**/items/*', async (route) => {
    if (route.request().method() === 'PUT') await isReleased;
    await route.continue();
  });
  await add(page, 'Menu tree');
  await expect(page.getByText('Saving …')).toBeVisible();
  await add(other, 'Care plan');
  await expect(titles(other)).toHaveText(['Alarms', 'Care plan']);
  await isSaved(other);
  release();
  await expect(page.getByRole('alert')).toContainText(
    'Ada Lind saved this map after you opened it',
  );
  await page.getByRole('link', { name: 'Publish' }).click();
  await expect(page.getByText('This is not saved yet, so it stays open.')).toBeVisible();
  await expect(titles(page)).toHaveText(['Alarms', 'Menu tree']);
  await page.getByRole('button', { name: 'Show theirs' }).click();
  await expect(titles(page)).toHaveText(['Alarms', 'Care plan']);
});

test('a problem of a build leads to its place', async ({ page }) => {
  await newTopic(page, 'Concept', 'Leaky');
  await page.locator('p[data-element="p"]').click();
  await page.keyboard.type('First.');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Second.');
  await isSaved(page);
  const project = await projectOf(page);
  const topic = (await (await page.request.get(`${project}/items/leaky`)).json()) as {
    text: string;
    version: number;
  };
  const text = topic.text.replace(
    '<p>Second.',
    '<p product="tern-x"><xref href="topic:nowhere"/>Second.',
  );
  expect(
    (
      await page.request.put(`${project}/items/leaky`, { data: { text, version: topic.version } })
    ).ok(),
  ).toBe(true);
  await newTopic(page, 'Map', 'Leaky map');
  await page.getByLabel('Filter topics').fill('Leaky');
  await page.getByRole('button', { name: 'Add Leaky to the map' }).click();
  await isSaved(page);

  await page.goto('/publish');
  await page.getByRole('link', { name: 'New edition' }).click();
  await page.getByLabel('Name').fill('Leaky site');
  await page.getByLabel('Map', { exact: true }).fill('Leaky map');
  await page.locator('.n-base-select-option--pending', { hasText: 'Leaky map' }).click();
  await page.getByRole('button', { name: 'Save edition' }).click();
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  const impression = page.getByRole('article').first();
  await impression.getByRole('button', { name: /2 problems/u }).click();
  await expect(impression).toContainText('“tern-x” is not a value of the facet “Model”.');
  await impression.getByRole('listitem').filter({ hasText: 'nowhere' }).getByRole('link').click();
  await expect(page).toHaveURL(/\/write\/leaky\?path=/u);
  await expect(page.locator('#foot-path')).toContainText('Paragraph');
  const caret = await page.evaluate(() => {
    const node = document.getSelection()?.anchorNode;
    return (node instanceof Element ? node : node?.parentElement)?.closest('[data-element="p"]')
      ?.textContent;
  });
  expect(caret).toContain('Second.');
});
