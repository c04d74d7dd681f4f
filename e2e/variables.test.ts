import { expect, test, type Page } from './test.ts';
import { faults } from './faults.ts';
import { choose, isSaved, newTopic, pickFound, stored } from './pages.ts';
import { signIn } from './people.ts';

const form = (page: Page) => page.getByRole('form', { name: 'Variable', exact: true });
const says = (page: Page) => form(page).getByRole('textbox', { name: 'What it says' });
const row = (page: Page, words: string) =>
  page.getByRole('table', { name: 'Variables' }).getByRole('row').filter({ hasText: words });

test('a variable is made, typed into a text, varied for readers, and renamed', async ({ page }) => {
  await signIn(page, 'noor', '/variables');
  await page.getByLabel('Name of the new set').fill('Terms of sale');
  await page.getByRole('button', { name: 'Make a set' }).click();
  await expect(
    page.getByRole('group', { name: 'Where “Terms of sale” holds' }).getByLabel('in every map'),
  ).toBeChecked();
  await page.getByRole('button', { name: 'Add a variable' }).click();
  await form(page).getByLabel('Name').fill('guarantee');
  await says(page).click();
  await page.keyboard.type('24 ');
  await page.keyboard.press('Control+b');
  await page.keyboard.type('months');
  await page.keyboard.press('Enter');
  await expect(row(page, 'guarantee')).toContainText('24 months');

  await newTopic(page, 'Concept', 'How long we stand for it');
  const paragraph = page.locator('.ProseMirror .is-conbody > p');
  await paragraph.click();
  await page.keyboard.type('It is %%guar');
  await page.keyboard.press('Enter');
  await page.keyboard.type(' long.');
  const variable = paragraph.locator('.variable-known');
  await expect(variable).toHaveAttribute('data-shown', '24 months');
  await expect(variable).toHaveAttribute('title', /^guarantee · Terms of sale/u);
  await isSaved(page);
  expect(await stored(page)).toContain('<p>It is <ph keyref="guarantee"/> long.</p>');
  const topic = page.url();

  await page.goto('/variables');
  await page.getByRole('button', { name: 'guarantee for others' }).click();
  await says(page).press('Control+a');
  await page.keyboard.type('five years');
  await form(page).getByRole('button', { name: 'Only for …' }).click();
  await page.getByRole('combobox', { name: /only for/u }).fill('Tern Q');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await form(page).getByRole('button', { name: 'Keep' }).click();
  await expect(row(page, 'five years')).toContainText('Q');
  await page.goto(topic);
  // The first definition holds that a lens does not drop: without a lens that for some readers.
  await expect(variable).toHaveAttribute('data-shown', 'five years');
  await page.getByLabel('Lens', { exact: true }).selectOption({ label: 'installer-tern-d' });
  await expect(variable).toHaveAttribute('data-shown', '24 months');
  await page.getByLabel('Lens', { exact: true }).selectOption('every reader');

  await page.goto('/variables');
  await row(page, '24 months').getByRole('button', { name: '1 place in 1' }).click();
  await expect(page.getByRole('region', { name: 'Where guarantee is used' })).toContainText(
    'How long we stand for it',
  );
  await page.getByRole('button', { name: 'Change guarantee' }).first().click();
  await form(page).getByLabel('Name').fill('warranty-time');
  await expect(form(page).getByRole('status')).toContainText('1 place in 1 topic or map');
  await form(page).getByRole('button', { name: 'Keep, and rename everywhere' }).click();
  await expect(row(page, 'warranty-time')).toHaveCount(2);
  await expect(row(page, 'guarantee')).toHaveCount(0);
  await page.goto(topic);
  await expect(variable).toHaveAttribute('data-shown', 'five years');
  expect(await stored(page)).toContain('keyref="warranty-time"');
  // What is used keeps at least one definition.
  await page.goto('/variables');
  await row(page, 'five years').getByRole('button', { name: 'Remove warranty-time' }).click();
  await expect(row(page, 'five years')).toHaveCount(0);
  await row(page, '24 months').getByRole('button', { name: 'Remove warranty-time' }).click();
  await expect(page.getByText('is used at 1 place in 1 of the topics and maps')).toBeVisible();
  expect(await faults(page, { without: '.n-message-container', withPractices: true })).toEqual([]);
});

test('a variable is dropped into the text, and defined when it is missing', async ({ page }) => {
  await signIn(page, 'noor', '/variables');
  await page.getByRole('button', { name: 'Add a variable' }).click();
  await form(page).getByLabel('Name').fill('front-view');
  await form(page).getByLabel('Stands for').selectOption('an image');
  await pickFound(form(page), 'Image', 'cabinet.svg');
  await form(page).getByRole('button', { name: 'Keep' }).click();
  await expect(row(page, 'front-view')).toContainText('cabinet.svg');
  await page.getByRole('button', { name: 'Add a variable' }).click();
  await form(page).getByLabel('Name').fill('forum');
  await form(page).getByLabel('Stands for').selectOption('something to follow');
  await form(page).getByRole('textbox', { name: 'Words of the link' }).click();
  await page.keyboard.type('our forum');
  await form(page).getByLabel('Leads to').fill('https://tides.example/forum');
  await form(page).getByRole('button', { name: 'Keep' }).click();
  await expect(row(page, 'forum')).toContainText('our forum');

  await newTopic(page, 'Concept', 'Shown by variables');
  const paragraph = page.locator('.ProseMirror .is-conbody > p');
  await paragraph.click();
  await page.keyboard.type('Look: ');
  await choose(page, 'variable');
  await page.getByRole('combobox', { name: 'Which variable' }).fill('front-view');
  await page.keyboard.press('Enter');
  await expect(paragraph.locator('.picture img')).toHaveAttribute('src', /cabinet/u);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.type(' %%forum');
  await page.keyboard.press('Enter');
  await expect(paragraph.locator('.is-xref, [data-element="xref"]')).toHaveAttribute(
    'data-shown',
    'our forum',
  );
  await page.getByRole('button', { name: 'Variables', exact: true }).click();
  await page.getByLabel('Filter variables').fill('maker');
  await page
    .getByRole('listitem')
    .filter({ hasText: 'Brinewell' })
    .dragTo(paragraph, { targetPosition: { x: 8, y: 10 } });
  await expect(paragraph.locator('[data-shown^="Brinewell"]')).toBeVisible();
  await isSaved(page);
  const text = await stored(page);
  expect(text).toMatch(/<image keyref="front-view"/u);
  expect(text).toContain('<xref keyref="forum"/>');
  expect(text).toContain('<ph keyref="maker"/>');

  const id = page.url().split('/').at(-1)!;
  const item = await page.evaluate(async (wanted) => {
    const { projects } = (await (await fetch('/api/session')).json()) as {
      projects: { id: string }[];
    };
    const base = `/api/projects/${projects[0]!.id}`;
    const made = (await (
      await fetch(`${base}/items`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ type: 'concept', title: 'Uses what is not there' }),
      })
    ).json()) as { id: string; text: string; version: number };
    const text = made.text.replace(
      /<conbody>[\s\S]*<\/conbody>|<conbody\/>/u,
      '<conbody><p><ph keyref="berth-count"/></p></conbody>',
    );
    await fetch(`${base}/items/${made.id}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ text, version: made.version, note: '' }),
    });
    return { wanted, text };
  }, id);
  expect(item.text).toContain('berth-count');
  await page.goto('/variables');
  const missing = page.getByRole('region', { name: 'Used and defined nowhere' });
  await expect(missing).toContainText('Uses what is not there');
  await missing.getByRole('button', { name: 'Define berth-count' }).click();
  await says(page).click();
  await page.keyboard.type('twelve');
  await page.keyboard.press('Enter');
  await expect(row(page, 'berth-count')).toContainText('twelve');
  await expect(missing.getByText('berth-count')).toHaveCount(0);
});

test('an edition sets a variable by picking it, and one of its texts', async ({ page }) => {
  await signIn(page, 'teo', '/variables');
  await page.getByRole('button', { name: 'Add a variable' }).click();
  await form(page).getByLabel('Name').fill('berth-depth');
  await says(page).click();
  await page.keyboard.type('4 m');
  await form(page).getByLabel('Other texts').fill('6 m\n8 m');
  await form(page).getByRole('button', { name: 'Keep' }).click();
  await expect(row(page, 'berth-depth')).toContainText('4 m or 6 m, 8 m');
  await page.goto('/publish');
  await page.getByRole('link', { name: /Quayside manual for Kisara/u }).click();
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('button', { name: 'Add variable' }).click();
  await page.getByLabel('Variable', { exact: true }).last().selectOption('berth-depth');
  await page.locator('select[aria-label="Text"]').selectOption('6 m');
  await page.getByRole('button', { name: 'Save edition' }).click();
  await expect(page.getByText('berth-depth = 6 m')).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('button', { name: 'Remove variable' }).last().click();
  await page.getByRole('button', { name: 'Save edition' }).click();
  await expect(page.getByText('berth-depth = 6 m')).toHaveCount(0);
  // It is used nowhere; what is used goes out of sight.
  await page.goto('/variables');
  await expect(row(page, 'rescue-number').first()).toBeVisible();
  await page.getByRole('checkbox', { name: /^only the \d+ that nothing uses/u }).check();
  await expect(row(page, 'berth-depth')).toContainText('4 m');
  await expect(row(page, 'rescue-number')).toHaveCount(0);
});
