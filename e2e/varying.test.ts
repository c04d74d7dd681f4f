import { expect, test } from './test.ts';
import { faults } from './faults.ts';
import { choose, hasCaret, isSaved, newTopic, stored } from './pages.ts';
import { signIn } from './people.ts';

test.beforeEach(({ page }) => signIn(page, 'noor'));
const paragraphs = '.ProseMirror .is-conbody > p';

test('words, paragraphs and rows are set for models by keys, and seen through a lens', async ({
  page,
}) => {
  await newTopic(page, 'Concept', 'For two models');
  await page.locator(paragraphs).click();
  const asked = page.getByRole('dialog', { name: /only for/u });
  const value = (name: string) => asked.getByRole('option', { name });

  await test.step('selected words differ in mid-sentence', async () => {
    await page.keyboard.type('It is fitted with a pressure');
    for (let count = 0; count < 'pressure'.length; count += 1)
      await page.keyboard.press('Shift+ArrowLeft');
    await page.keyboard.press('Control+;');
    await page.getByRole('combobox', { name: 'The selected words: only for' }).fill('tern q');
    await page.keyboard.press('Enter');
    await expect(value('Model: Tern Q')).toHaveAccessibleName(/set$/u);
    await page.keyboard.press('Escape');
    await page.keyboard.press('ArrowRight');
    const words = page.locator('.ProseMirror span.varies');
    await expect(words).toHaveText('pressure');
    await expect(words).toHaveAttribute('data-letters', 'Q');
    await expect(words).toHaveAttribute('title', 'Model: Tern Q');
    await isSaved(page);
    expect(await stored(page)).toContain('fitted with a <ph product="tern-q">pressure</ph>');
  });
  await test.step('a paragraph is for several at once, by the palette', async () => {
    await page.keyboard.press('Enter');
    await page.keyboard.type('Both need the sun.');
    await choose(page, 'only for');
    await page.keyboard.type('solar');
    await expect(asked.getByRole('option')).toHaveCount(3);
    await page.keyboard.press('Enter');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await expect(value('Power: Solar, 40 W')).toHaveAccessibleName(/set$/u);
    await page.keyboard.press('Escape');
    await expect(page.locator(paragraphs).nth(1)).toHaveAttribute('data-letters', 'S 40');
    await isSaved(page);
    expect(await stored(page)).toContain('<p platform="solar solar-40">Both need the sun.</p>');
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await expect(page.locator(paragraphs).nth(1)).not.toHaveAttribute('data-letters', /./u);
  });
  await test.step('the signs can be switched off', async () => {
    await page.keyboard.press('Alt+8');
    await expect(page.locator('.ProseMirror .varies')).toHaveCount(0);
    await page.keyboard.press('Alt+8');
    await expect(page.locator('.ProseMirror .varies')).toHaveCount(1);
  });
  await test.step('a lens shows the page as that reader gets it, on every screen', async () => {
    await page.goto('/write/how-the-station-measures');
    const deep = page.getByText('The acoustic sensor hangs above');
    await page.getByLabel('Lens').selectOption('installer-tern-q');
    await expect(deep).toHaveClass(/unseen/u);
    await expect(deep).toBeVisible();
    await expect(page.getByText('The pressure sensor hangs below')).not.toHaveClass(/unseen/u);
    await page.getByRole('button', { name: 'dropped is grey' }).click();
    await expect(deep).toBeHidden();
    await page.goto('/write/technical-data');
    await expect(page.locator('.ProseMirror td', { hasText: 'Tern Q' })).toBeVisible();
    await expect(page.locator('.ProseMirror td', { hasText: 'Tern D' })).toBeHidden();
    await page.getByLabel('Lens').selectOption('every reader');
    await expect(page.locator('.ProseMirror td', { hasText: 'Tern D' })).toBeVisible();
  });
  expect(await faults(page)).toEqual([]);
});

test('an entry of a map is for one model only, with all that it holds', async ({ page }) => {
  await newTopic(page, 'Map', 'Two models');
  for (const title of ['Alarms', 'Care plan']) {
    await page.getByLabel('Filter topics').fill(title);
    await page.getByRole('button', { name: `Add ${title} to the map` }).click();
  }
  await page.getByRole('treeitem', { name: 'Care plan' }).click();
  await page.keyboard.press('Alt+ArrowRight');
  const alarms = page.getByRole('treeitem', { name: /^Alarms/u });
  await alarms.click();
  await page.keyboard.press('Control+;');
  await page.getByRole('combobox', { name: 'Alarms: only for' }).fill('tern d');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expect(alarms).toHaveText('AlarmsD');
  await expect(alarms).toBeFocused();
  await isSaved(page);
  expect(await stored(page)).toContain('<topicref href="topic:alarms" product="tern-d">');
  await page.getByLabel('Lens').selectOption('installer-tern-q');
  for (const title of ['Alarms', 'Care plan'])
    await expect(page.getByRole('treeitem', { name: new RegExp(`^${title}`, 'u') })).toHaveClass(
      /unseen/u,
    );
  await page.getByRole('button', { name: 'dropped is grey' }).click();
  await expect(page.getByRole('treeitem')).toHaveCount(0);
});

test('a topic that varies as a whole is dimmed in library, list, search and map', async ({
  page,
}) => {
  await signIn(page);
  await newTopic(page, 'Concept', 'Only for deep water');
  await page.getByRole('button', { name: 'Concept', exact: true }).click();
  await page.keyboard.press('Control+;');
  await page.getByRole('combobox', { name: /only for/u }).fill('tern d');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await isSaved(page);
  await page.getByLabel('Lens', { exact: true }).selectOption('installer-tern-q');
  await page.goto('/library');
  await page.getByLabel('Filter topics').fill('only for deep');
  const row = page.getByRole('link', { name: /Only for deep water/u });
  await expect(row).toHaveClass(/dropped/u);
  await page.getByRole('button', { name: 'dropped is grey' }).click();
  await expect(row).toHaveCount(0);
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Find or do' }).fill('only for deep');
  await expect(page.getByRole('option', { name: /Only for deep water/u })).toHaveCount(0);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'dropped is hidden' }).click();
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Find or do' }).fill('only for deep');
  await expect(page.getByRole('option', { name: /Only for deep water/u })).toContainText(
    'dropped by the lens',
  );
  await page.keyboard.press('Enter');
  const list = page.getByRole('complementary', { name: 'Topics' });
  await list.getByLabel('Filter topics').fill('only for deep');
  await expect(list.getByRole('link', { name: /Only for deep water/u })).toHaveClass(/dropped/u);
  await page.getByLabel('Lens', { exact: true }).selectOption('every reader');
});

test('what is around the caret is asked for by the same keys: a cell, its column, its row', async ({
  page,
}) => {
  await page.goto('/write/care-plan');
  // The first row is for one model already.
  const cells = page.locator('.ProseMirror tbody tr').nth(1).locator('td');
  await cells.nth(1).click();
  await page.keyboard.press('Control+;');
  await expect(page.getByRole('combobox', { name: 'Cell: only for' })).toBeVisible();
  await page.keyboard.press('Control+;');
  const column = page.getByRole('combobox', { name: 'Column 2: only for' });
  await column.fill('mains');
  await page.keyboard.press('Enter');
  await expect(page.locator('.ProseMirror tr > td:nth-child(2)[data-letters="M"]')).toHaveCount(
    await page.locator('.ProseMirror tr').count(),
  );
  await page.keyboard.press('Enter');
  await expect(page.locator('.ProseMirror td[data-letters="M"]')).toHaveCount(0);
  await column.fill('');
  await page.getByRole('option', { name: /Something around it: Row/u }).click();
  await page.getByRole('combobox', { name: 'Row: only for' }).fill('mains');
  await page.keyboard.press('Enter');
  await expect(page.locator('.ProseMirror tr[data-letters="M"]')).toHaveCount(1);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await isSaved(page);
});

test('a key acts where the last click was, even before the browser has told of the click', async ({
  page,
}) => {
  await page.goto('/write/care-plan');
  await hasCaret(page);
  // A click moves the caret at once; the event that tells so comes in a task of its own.
  await page
    .locator('.ProseMirror tbody td')
    .nth(5)
    .evaluate((cell) => {
      document.getSelection()!.collapse(cell.querySelector('p') ?? cell, 0);
      const init = { key: ';', ctrlKey: true, bubbles: true, cancelable: true };
      cell.dispatchEvent(new KeyboardEvent('keydown', init));
    });
  await expect(page.getByRole('combobox', { name: 'Cell: only for' })).toBeVisible();
});
