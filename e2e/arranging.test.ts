import { expect, test, type Page } from './test.ts';
import { faults } from './faults.ts';
import { isSaved, newTopic, pickFound, projectOf, stored } from './pages.ts';
import { openLibrary, signIn } from './people.ts';
import { xml } from './xml.ts';

const entry = (page: Page, name: string | RegExp) => page.getByRole('treeitem', { name });
const texts = (page: Page) =>
  page.getByRole('tree', { name: 'Map' }).getByRole('treeitem').locator('.title');
/** A map with these topics, in this order. */
async function newMap(page: Page, title: string, topics: readonly string[]): Promise<void> {
  await newTopic(page, 'Map', title);
  for (const topic of topics) {
    await page.getByLabel('Filter topics').fill(topic);
    await page.getByRole('button', { name: `Add ${topic} to the map` }).click();
  }
  await page.getByLabel('Filter topics').fill('');
  await expect(texts(page)).toHaveText([...topics]);
}

test('several entries are chosen, moved and folded by keys; topics are added together', async ({
  page,
}) => {
  await openLibrary(page, 'noor');
  await newMap(page, 'Moved by keys', ['Alarms', 'Care plan', 'Menu tree']);
  await page.getByLabel('Choose Alarm codes').check();
  await page.getByLabel('Choose Clean the well').check();
  await page.getByRole('button', { name: 'Add the 2 chosen' }).click();
  await expect(texts(page)).toHaveText([
    'Alarms',
    'Care plan',
    'Menu tree',
    'Alarm codes',
    'Clean the well',
  ]);
  await entry(page, 'Care plan').click();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Alt+ArrowRight');
  for (const name of ['Care plan', 'Menu tree'])
    await expect(entry(page, name)).toHaveAttribute('aria-level', '2');
  await page.keyboard.press('Alt+ArrowUp');
  await expect(page.getByText('That would not be valid here.')).toBeVisible();
  await entry(page, 'Alarms').focus();
  await entry(page, 'Alarms').click();
  await page.keyboard.press('ArrowLeft');
  await expect(texts(page)).toHaveText(['Alarms', 'Alarm codes', 'Clean the well']);
  await expect(entry(page, 'Alarms')).toHaveAttribute('aria-expanded', 'false');
  await page.getByLabel('Find in this map').fill('menu');
  await page.keyboard.press('Enter');
  await expect(entry(page, 'Menu tree')).toHaveAttribute('aria-selected', 'true');
  await entry(page, 'Care plan').click();
  await entry(page, 'Alarm codes').click({ modifiers: ['Control'] });
  await entry(page, 'Alarm codes').dragTo(entry(page, 'Alarms'), {
    targetPosition: { x: 80, y: 2 },
  });
  await expect(texts(page)).toHaveText([
    'Care plan',
    'Alarm codes',
    'Alarms',
    'Menu tree',
    'Clean the well',
  ]);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  for (const name of ['Care plan', 'Menu tree'])
    await expect(entry(page, name)).toHaveAttribute('aria-level', '1');
  await isSaved(page);
});

test('an entry gets a title with a variable, skips an output, and appears once per lens', async ({
  page,
}) => {
  await openLibrary(page);
  await newMap(page, 'In parts', ['Alarms', 'Care plan']);
  await entry(page, 'Alarms').click();
  const panel = page.getByRole('region', { name: 'Entry', exact: true });
  await panel.getByRole('textbox', { name: 'Title here' }).click();
  await page.keyboard.type('Alarms of the %%product');
  await page.keyboard.press('Enter');
  const title = panel.getByRole('textbox', { name: 'Title here' });
  await expect(title).toHaveText('Alarms of the product');
  await page.keyboard.press('Enter');
  await expect(texts(page).first()).toHaveText('Alarms of the Tern');
  await panel.getByLabel('in help sites').uncheck();
  await expect(panel.getByLabel('in print')).toBeDisabled();
  await panel.getByLabel('in the contents').uncheck();
  for (const lens of ['installer-tern-q', 'reader-chooses']) await panel.getByLabel(lens).check();
  await expect(entry(page, /^Alarms/u)).toContainText(
    'once for each of installer-tern-q, reader-chooses',
  );
  await isSaved(page);
  const text = await stored(page);
  expect(text).toMatch(
    xml`<topicref deliveryTarget="print" href="topic:alarms" locktitle="yes" toc="no"><topicmeta>
      <navtitle>Alarms of the <ph keyref="product"/></navtitle>`,
  );
  expect(text).toContain('<ditavalref format="ditaval" href="lens:reader-chooses">');
  expect(text).toContain('<dvrResourceSuffix>-reader-chooses</dvrResourceSuffix>');
  expect(await faults(page)).toEqual([]);
});

test('a map has a title with a variable, readers, key scopes and a set of variables', async ({
  page,
}) => {
  await openLibrary(page, 'noor');
  await newMap(page, 'About itself', ['Alarms']);
  await page.getByRole('tab', { name: 'Map', exact: true }).click();
  const about = page.getByRole('region', { name: 'About this map' });
  await about.getByRole('textbox', { name: 'Title of the map' }).click();
  await page.keyboard.press('End');
  await page.keyboard.type(', of the %%product');
  await page.keyboard.press('Enter');
  await expect(about.getByRole('textbox', { name: 'Title of the map' })).toHaveText(
    'About itself, of the product',
  );
  await about.getByRole('button', { name: 'Keep the title' }).click();
  await about.getByRole('button', { name: 'Only for …' }).click();
  await page.getByRole('combobox', { name: 'The whole map: only for' }).fill('operator');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await about.getByLabel('Key scopes').fill('own');
  await about.getByLabel('Key scopes').press('Tab');
  await isSaved(page);
  await about.getByLabel('Variables', { exact: true }).check();
  await expect
    .poll(() => stored(page))
    .toContain('<mapref format="ditamap" href="map:variables" processing-role="resource-only"/>');
  const text = await stored(page);
  expect(text).toMatch(/<map id="[^"]+" audience="operator" keyscope="own">/u);
  expect(text).toContain('<title>About itself, of the <ph keyref="product"/></title>');
});

test('relations are edited as a grid; branches become maps; maps are compared and made', async ({
  page,
}) => {
  await openLibrary(page);
  await newMap(page, 'With links', ['Alarms', 'Care plan', 'Menu tree']);
  await entry(page, 'Care plan').click();
  await page.keyboard.press('Alt+ArrowRight');
  await page.getByRole('button', { name: 'Links', exact: true }).click();
  const grids = page.getByRole('region', { name: 'Links between topics' });
  await grids.getByRole('button', { name: 'Add a table' }).click();
  const choose = async (column: number, topic: string) => {
    await grids.getByRole('button', { name: `Add a topic to row 1, column ${column}` }).click();
    await page.getByRole('combobox', { name: 'Where the link leads' }).fill(topic);
    await page.keyboard.press('Enter');
    await expect(grids.getByRole('listitem').filter({ hasText: topic })).toBeVisible();
  };
  await choose(1, 'Alarms');
  await choose(2, 'Menu tree');
  await grids.getByLabel('Title of column 1').fill('Ideas');
  await grids.getByLabel('Title of column 1').press('Tab');
  await isSaved(page);
  expect(await stored(page)).toMatch(
    xml`<relcolspec><title>Ideas</title>${/[\s\S]*/u}<relcell><topicref href="topic:alarms"/>
      </relcell><relcell><topicref href="topic:menu-tree"/>`,
  );

  await page.getByRole('button', { name: 'Order', exact: true }).click();
  await entry(page, 'Alarms').click();
  await page.getByRole('button', { name: 'Make it a map of its own' }).click();
  await expect(page.getByText('is a map of its own now')).toBeVisible();
  await expect(texts(page)).toHaveText(['Alarms', 'Menu tree']);
  await isSaved(page);
  await page.getByRole('link', { name: 'Alarms', exact: true }).first().click();
  await expect(texts(page)).toHaveText(['Alarms', 'Care plan']);

  await page.getByLabel('Filter topics').fill('alarm');
  await page.getByRole('button', { name: /^Make a map of these/u }).click();
  await page.getByLabel('Title of the new map').fill('All about alarms');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'All about alarms' })).toBeVisible();
  await expect(texts(page).filter({ hasText: 'Acknowledge an alarm' })).toBeVisible();
  await page.getByRole('button', { name: 'Beside another' }).click();
  await pickFound(page, 'The other map', 'With links');
  const table = page.getByRole('table', { name: 'Two maps' });
  await expect(table.getByRole('row').filter({ hasText: 'Menu tree' })).toContainText('only there');
  await expect(table.getByRole('row').filter({ hasText: 'Acknowledge an alarm' })).toContainText(
    'only here',
  );
});

test('the outline is numbered as an edition numbers it, with what it drops and why', async ({
  page,
}) => {
  await signIn(page, 'teo', '/arrange/installation-manual');
  await expect(page.getByLabel('As the edition')).toHaveValue(/.+/u);
  const row = (title: string) =>
    page
      .getByRole('treeitem')
      .filter({ has: page.locator('.title', { hasText: new RegExp(`^${title}$`, 'u') }) });
  await expect(row('Fit the bracket').locator('.number')).toHaveText('3.2');
  await expect(row('Set the pile clamp').locator('.number')).toHaveText('–');
  await row('Set the pile clamp').click();
  await expect(page.getByRole('region', { name: 'Entry', exact: true })).toContainText(
    'Not in this edition',
  );
  await page.getByRole('tab', { name: 'Contents' }).click();
  await expect(
    page
      .getByRole('region', { name: 'Contents as numbered' })
      .getByRole('listitem')
      .filter({ hasText: 'Terminal strip' }),
  ).toContainText('4.2');
  await page.getByRole('tab', { name: 'Map', exact: true }).click();
  const about = page.getByRole('region', { name: 'About this map' });
  await expect(about.getByLabel('Variables', { exact: true })).toBeChecked();
  await expect(about.getByRole('textbox', { name: 'Title of the map' })).toContainText(
    'Installation Manual',
  );
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('checkbox', { name: 'Kind' }).check();
  await expect(row('Fit the bracket')).toContainText('Task');
});

test('a map becomes a book with facts, lists and a preface, and is numbered as one', async ({
  page,
}) => {
  await openLibrary(page);
  await newMap(page, 'Boat book', ['Alarms', 'Care plan']);
  await page.getByRole('tab', { name: 'Map', exact: true }).click();
  const about = page.getByRole('region', { name: 'About this map' });
  await expect(about.getByLabel('Subtitle')).toHaveCount(0);
  await about.getByRole('button', { name: 'Make it a book' }).click();
  for (const [label, value] of [
    ['Subtitle', 'For the yard'],
    ['Authors', 'Ada Lind, Ines Kroll'],
    ['Number under which it is ordered', 'BM-7'],
  ] as const) {
    await about.getByLabel(label).fill(value);
    await about.getByLabel(label).press('Tab');
  }
  await about.getByLabel('Index', { exact: true }).selectOption('at the back');
  await expect(texts(page)).toHaveText([
    'Front matter',
    'Lists',
    'Contents',
    'Alarms',
    'Care plan',
    'Back matter',
    'Lists',
    'Index',
  ]);
  // A topic is dragged before the chapters and becomes a preface there.
  await entry(page, /^Alarms/u).dragTo(entry(page, /^Front matter/u), {
    targetPosition: { x: 80, y: 15 },
  });
  await expect(texts(page)).toHaveText([
    'Front matter',
    'Lists',
    'Contents',
    'Alarms',
    'Care plan',
    'Back matter',
    'Lists',
    'Index',
  ]);
  await entry(page, /^Alarms/u).click();
  await page.getByRole('tab', { name: 'Entry' }).click();
  await page.getByRole('combobox', { name: 'What it is' }).selectOption('Preface');
  await isSaved(page);
  const text = await stored(page);
  expect(text).toMatch(
    xml`<booktitle><mainbooktitle>Boat book</mainbooktitle>
      <booktitlealt>For the yard</booktitlealt>`,
  );
  expect(text).toMatch(
    /<author>Ada Lind<\/author>\s*<author>Ines Kroll<\/author>\s*<bookid>\s*<booknumber>BM-7/u,
  );
  expect(text).toMatch(
    xml`<toc/></booklists><preface href="topic:alarms"/></frontmatter>
      <chapter href="topic:care-plan"/>`,
  );
  expect(await faults(page)).toEqual([]);
});

test('a map of 1,500 entries is gone through and changed by keys', async ({ page }) => {
  await signIn(page, 'noor');
  await newTopic(page, 'Map', 'Very long');
  const address = `${await projectOf(page)}/items/very-long`;
  const { version } = (await (await page.request.get(address)).json()) as { version: number };
  const topics = ['alarms', 'care-plan', 'menu-tree'];
  const entries = Array.from(
    { length: 1_500 },
    (_, at) => `<topicref href="topic:${topics[at % 3]}"/>`,
  );
  const text = `<map id="very-long"><title>Very long</title>${entries.join('')}</map>`;
  expect((await page.request.put(address, { data: { text, version } })).status()).toBe(200);
  await page.reload();
  await expect(page.getByText('1500 entries')).toBeVisible();
  await expect(texts(page).first()).toHaveText('Alarms');
  expect(await texts(page).count()).toBeLessThan(600);
  await entry(page, 'Alarms').first().click();
  await page.keyboard.press('End');
  const here = page.locator('.entry.at');
  await expect(here).toBeFocused();
  await expect(here).toContainText('Menu tree');
  await expect(here).toBeInViewport();
  await page.keyboard.press('ArrowUp');
  await expect(here).toContainText('Care plan');
  await page.keyboard.press('Delete');
  await expect(page.getByText('1499 entries')).toBeVisible();
  await isSaved(page);
  await page.keyboard.press('Home');
  await expect(here).toBeFocused();
  await expect(here).toContainText('Alarms');
  await expect(here).toBeInViewport();
});
