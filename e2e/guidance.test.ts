import { expect, test } from './test.ts';
import { faults } from './faults.ts';
import { choose, isSaved, newTopic, stored } from './pages.ts';
import { signIn } from './people.ts';

test.beforeEach(({ page }) => signIn(page));
const paragraph = '.ProseMirror .is-conbody p';

test('an empty place offers what usually goes there, once the hand rests', async ({ page }) => {
  await newTopic(page, 'Concept', 'An empty place');
  await page.locator(paragraph).click();
  const offers = page.getByRole('toolbar', { name: 'What usually goes here' });
  await expect(offers.getByRole('button')).toHaveText([
    'Bullet list',
    'Numbered list',
    'Note',
    'Figure',
    'Table',
    '…',
  ]);
  expect(await faults(page, { within: '.selection-bar', withPractices: true })).toEqual([]);
  await offers.getByRole('button', { name: 'Note' }).click();
  await page.keyboard.type('Mind the edge.');
  await expect(offers).toHaveCount(0);
  await isSaved(page);
  expect(await stored(page)).toMatch(/<note>\s*(<p>)?Mind the edge\./u);

  await newTopic(page, 'Task', 'An empty step');
  await page.locator('.ProseMirror .is-cmd').click();
  await expect(offers.getByRole('button').first()).toHaveText('More on the step');
});

test('data of a topic are fields on the page, as is a missing short description', async ({
  page,
}) => {
  await newTopic(page, 'Concept', 'Data on the page');
  const fields = page.getByRole('group', { name: 'Fields of the topic' });
  await fields.getByLabel('Made on').fill('2031-04-05');
  await fields.getByLabel('Made on').blur();
  await isSaved(page);
  await expect.poll(() => stored(page)).toContain('<created date="2031-04-05"/>');
  expect(await faults(page, { within: '.page-fields', withPractices: true })).toEqual([]);

  // Without a short description there is a field for it.
  await page.locator('.ProseMirror .is-shortdesc').click();
  await page.keyboard.press('Control+Shift+Backspace');
  await fields.getByLabel('Short description').fill('What the tide does.');
  await fields.getByLabel('Short description').blur();
  await expect(page.locator('.ProseMirror .is-shortdesc')).toHaveText('What the tide does.');
  await expect(fields.getByLabel('Short description')).toHaveCount(0);

  await page.getByRole('tab', { name: 'Facts' }).click();
  const short = page.getByRole('region', { name: 'Facts' }).getByLabel('Short description');
  await expect(short).toHaveValue('What the tide does.');
  await short.fill('What the tide does, and when.');
  await short.blur();
  await expect(page.locator('.ProseMirror .is-shortdesc')).toHaveText(
    'What the tide does, and when.',
  );
});

test('a drawing of the stock collection joins the library', async ({ page }) => {
  await newTopic(page, 'Concept', 'From the stock');
  await page.locator(paragraph).click();
  await page.keyboard.type('Look.');
  await choose(page, 'figure');
  await page.getByRole('combobox', { name: 'Which image' }).fill('anchor');
  await expect(page.getByText('Stock collection (a stand-in that ships with Ukiyo)')).toBeVisible();
  await page.getByRole('option', { name: /Anchor/u }).click();
  const words = page.getByRole('dialog', { name: 'Alternative text' }).getByRole('textbox');
  await words.fill('An anchor');
  await page.keyboard.press('Enter');
  await isSaved(page);
  expect(await stored(page)).toMatch(/<image href="asset:anchor(-\d+)?">/u);
});

test('a stock collection that does not answer says so, and nothing else happens', async ({
  page,
}) => {
  await page.route('**/stock/anchor.svg', (route) =>
    route.request().resourceType() === 'fetch' ? route.abort() : route.continue(),
  );
  await newTopic(page, 'Concept', 'Out of stock');
  await page.locator(paragraph).click();
  await choose(page, 'figure');
  await page.getByRole('combobox', { name: 'Which image' }).fill('anchor');
  await page.getByRole('option', { name: /Anchor/u }).click();
  await expect(page.getByText('The stock collection does not answer.')).toBeVisible();
  await expect(page.locator('.ProseMirror img')).toHaveCount(0);
});

test('a link that leads nowhere gives way to its words, one or all at once', async ({ page }) => {
  await newTopic(page, 'Concept', 'Dead ends');
  await page.keyboard.press('Alt+6');
  await page.locator('.cm-line', { hasText: '<conbody>' }).click();
  await page.keyboard.press('End');
  await page.keyboard.insertText(
    '<p>See <xref href="topic:gone">the tide</xref> and <xref href="topic:lost">the ' +
      'ebb</xref>.</p>',
  );
  await expect(page.getByText('Not in the topic yet')).toHaveCount(0);
  await page.keyboard.press('Alt+2');
  await page.getByRole('tab', { name: /Problems/u }).click();
  await page.getByRole('button', { name: 'Do so for all 2 of this kind' }).click();
  await isSaved(page);
  expect(await stored(page)).toContain('<p>See the tide and the ebb.</p>');
});
