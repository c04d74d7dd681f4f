import { expect, test } from './test.ts';
import { faults } from './faults.ts';
import { choose, isSaved, newTopic, stored } from './pages.ts';
import { openLibrary, signIn } from './people.ts';
import { xml } from './xml.ts';

test.beforeEach(({ page }) => signIn(page, 'noor'));

test('a task is written by keyboard alone, step after step', async ({ page }) => {
  await newTopic(page, 'Task', 'Polish the lens');
  await expect(page.locator('.is-shortdesc')).toHaveAttribute('data-guidance', /When or why/u);
  await page.locator('.is-title').first().click();
  await page.keyboard.press('End');
  await page.keyboard.press('Enter');
  await page.keyboard.type('A clean lens sees further.');
  const guidance = page
    .locator('.is-shortdesc')
    .evaluate((line) => getComputedStyle(line, '::after').content);
  expect(await guidance).toBe('none');
  await page.locator('.is-cmd').click();
  await page.keyboard.type('Breathe on the lens.');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Wipe it with a soft cloth.');
  await choose(page, 'result of the step');
  await page.keyboard.type('It shines.');
  await isSaved(page);
  const text = await stored(page);
  expect(text).toContain('<shortdesc>A clean lens sees further.</shortdesc>');
  expect(text).toMatch(
    xml`<step><cmd>Breathe on the lens.</cmd></step><step><cmd>Wipe it with a soft cloth.</cmd>
      <stepresult>It shines.</stepresult>`,
  );
  await page.getByRole('tab', { name: 'Problems' }).click();
  await expect(page.getByText('This topic is valid.')).toBeVisible();
});

test('lists grow, end and undo; paragraphs split and join', async ({ page }) => {
  await newTopic(page, 'Concept', 'Lamps');
  await page.locator('p[data-element="p"]').click();
  await page.keyboard.type('Two kinds of lamp.');
  await choose(page, 'bullet');
  await page.keyboard.type('oil');
  await page.keyboard.press('Enter');
  await page.keyboard.type('electric');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Both need care.');
  await isSaved(page);
  expect(await stored(page)).toMatch(
    /<ul>\s*<li>oil<\/li>\s*<li>electric<\/li>\s*<\/ul>\s*<p>Both need care\.<\/p>/u,
  );
  for (let count = 0; count < 4; count += 1) await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Enter');
  await isSaved(page);
  expect(await stored(page)).toMatch(/<p>Both need c<\/p>\s*<p>are\.<\/p>/u);
  await page.keyboard.press('Backspace');
  await isSaved(page);
  expect(await stored(page)).toContain('<p>Both need care.</p>');
  await page.keyboard.press('Control+z');
  await expect(page.locator('p[data-element="p"]')).toHaveCount(3);
});

test('elements are put around, made into others, moved, nested and named', async ({ page }) => {
  await newTopic(page, 'Concept', 'Knots');
  await page.locator('p[data-element="p"]').click();
  await page.keyboard.type('bowline');
  await page.keyboard.press('Control+Space');
  await page
    .getByRole('listbox')
    .getByRole('option', { name: /^Put around: Bullet list around Paragraph/u })
    .click();
  await page.keyboard.press('End');
  await page.keyboard.press('Control+Space');
  await page
    .getByRole('listbox')
    .getByRole('option', { name: /^Make into: Numbered list instead of Bullet list/u })
    .click();
  await page.keyboard.press('End');
  await page.keyboard.press('Enter');
  await page.keyboard.type('clove hitch');
  await isSaved(page);
  expect((await stored(page)).replace(/\s*\n\s*/gu, '')).toContain(
    '<ol><li><p>bowline</p></li><li><p>clove hitch</p></li></ol>',
  );
  await page.keyboard.press('Alt+ArrowUp');
  await isSaved(page);
  expect((await stored(page)).replace(/\s*\n\s*/gu, '')).toContain(
    '<ol><li><p>clove hitch</p></li><li><p>bowline</p></li></ol>',
  );
  await page.keyboard.press('Alt+ArrowDown');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Shift+Home');
  await choose(page, 'term');
  await isSaved(page);
  expect((await stored(page)).replace(/\s*\n\s*/gu, '')).toContain(
    '<ol><li><p>bowline</p><ol><li><p><term>clove hitch</term></p></li></ol></li></ol>',
  );
  await page.getByRole('tab', { name: 'Problems' }).click();
  await expect(page.getByText('This topic is valid.')).toBeVisible();
});

test('the foot line shows every open element and selects it', async ({ page }) => {
  await page.goto('/write/fit-the-bracket');
  await page.locator('.is-cmd').nth(1).click();
  await expect(page.locator('#foot-path')).toHaveText(
    'Task / Task body / Steps / Step / Instruction',
  );
  await page.locator('#foot-path').getByRole('button', { name: 'Steps', exact: true }).click();
  await expect(page.locator('.ProseMirror-selectednode')).toHaveAttribute('data-element', 'steps');
});

test('a reader may read and not write', async ({ page }) => {
  await openLibrary(page, 'mira');
  await expect(page.getByRole('button', { name: 'New topic' })).toHaveCount(0);
  await page.goto('/write/alarms');
  await expect(page.locator('.ProseMirror')).toHaveAttribute('contenteditable', 'false');
});

test('topics are filtered, images uploaded, and an image that is none is refused', async ({
  page,
}) => {
  await openLibrary(page, 'noor');
  await page.getByLabel('Filter topics').fill('battery');
  await expect(page.getByRole('status').filter({ hasText: 'of' })).toContainText(/^\d+ of \d+/u);
  await expect(page.getByRole('link', { name: /Replace the battery/u })).toBeVisible();
  await expect(page.getByRole('link', { name: /Menu tree/u })).toHaveCount(0);
  const upload = page.locator('input[type=file][multiple]');
  await upload.setInputFiles({
    name: 'buoy.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 10"><script>alert(1)</script>' +
        '<circle r="4" cx="5" cy="5" onclick="x()"/></svg>',
    ),
  });
  await expect(page.getByText('buoy.svg', { exact: true })).toBeVisible();
  const source = await page.locator('img[src*="buoy"]').getAttribute('src');
  const kept = await (await page.request.get(source!)).text();
  expect(kept).not.toMatch(/script|onclick/u);
  await upload.setInputFiles({
    name: 'fake.png',
    mimeType: 'image/png',
    buffer: Buffer.from('not an image at all'),
  });
  await expect(page.getByText(/fake\.png: This is not an image/u)).toBeVisible();
});

for (const address of [
  '/library',
  '/write/fit-the-bracket',
  '/arrange/help',
  '/publish',
  '/agreements',
]) {
  test(`${address} has no fault that axe finds, by day and by night`, async ({ page }) => {
    for (const colorScheme of ['light', 'dark'] as const) {
      await page.emulateMedia({ colorScheme });
      await page.goto(address);
      await page.waitForLoadState('networkidle');
      expect(await faults(page), colorScheme).toEqual([]);
    }
  });
}
