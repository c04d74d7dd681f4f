import { expect, test } from './test.ts';
import { choose, isSaved, newTopic, stored } from './pages.ts';
import { signIn } from './people.ts';

test('words in no list are marked, put right by keys, and made right for the whole team', async ({
  page,
}) => {
  await signIn(page, 'noor');
  await newTopic(page, 'Concept', 'Right words');
  await page.locator('.ProseMirror .is-conbody p').click();
  // “Brinewell” is a word of the team; codes and names of controls are nobody's business; without a
  // region any spelling of the language is right.
  await page.keyboard.type('The Brinewell stattion has E42x, levelling, leveling and a ');
  await choose(page, 'control');
  await page.keyboard.type('Qwx');
  const marked = page.locator('.ProseMirror .misspelt');
  await expect(marked).toHaveText(['stattion']);
  await marked.click();
  await page.keyboard.press('Control+.');
  await expect(
    page.getByRole('listbox').getByRole('option', { name: 'Write instead: station', exact: true }),
  ).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(marked).toHaveCount(0);
  await isSaved(page);
  expect(await stored(page)).toContain('The Brinewell station has E42x');

  await page.keyboard.press('Home');
  await page.keyboard.type('Wavestaff ');
  await expect(marked).toHaveText(['Wavestaff']);
  await marked.click({ button: 'right' });
  await page
    .getByRole('listbox')
    .getByRole('option', { name: /“Wavestaff” is right/u })
    .click();
  await expect(marked).toHaveCount(0);
  await page.goto('/agreements');
  await expect(page.getByRole('textbox', { name: 'Words', exact: true })).toHaveValue(/Wavestaff/u);
});

test('words in another language than the dictionary are left alone', async ({ page }) => {
  await signIn(page, 'noor');
  await newTopic(page, 'Concept', 'Two languages');
  await page.locator('.ProseMirror .is-conbody p').click();
  await page.keyboard.type('Not a mistaek: ');
  await choose(page, 'phrase');
  await page.keyboard.type('Ebbe und Flut');
  await expect(page.locator('.ProseMirror .misspelt')).toHaveText([
    'mistaek',
    'Ebbe',
    'und',
    'Flut',
  ]);
  await page.getByRole('tab', { name: 'Details' }).click();
  await page.getByRole('region', { name: 'Details' }).locator('.n-base-selection').last().click();
  await page.keyboard.type('language');
  await page.keyboard.press('Enter');
  await page.getByLabel('Language', { exact: true }).fill('de');
  await page.getByLabel('Language', { exact: true }).press('Enter');
  await expect(page.locator('.ProseMirror .misspelt')).toHaveText(['mistaek']);
});
