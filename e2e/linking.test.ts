import { expect, test } from './test.ts';
import { choose, isSaved, newTopic, stored } from './pages.ts';
import { signIn } from './people.ts';

test.beforeEach(({ page }) => signIn(page));

test('links are made by typing, from a selection, to parts, to the web and by dropping', async ({
  page,
}) => {
  await newTopic(page, 'Concept', 'Where to go on');
  await page.locator('.ProseMirror .is-conbody p').click();
  await page.keyboard.type('First [[');
  const where = page.getByRole('combobox', { name: 'Where the link leads' });
  await expect(where).toBeFocused();
  await page.keyboard.type('set the dat');
  await expect(page.getByRole('listbox').getByRole('option').first()).toContainText(
    'Set the datum',
  );
  await page.keyboard.press('Enter');
  await page.keyboard.type(' then [[');
  await where.fill('https://tides.example/tables');
  await page.keyboard.press('Enter');
  await page.keyboard.type('.');
  await expect(page.locator('.ProseMirror [data-shown="Set the datum"]')).toBeVisible();
  await isSaved(page);
  expect(await stored(page)).toContain(
    '<p>First <xref href="topic:set-the-datum"/> then ' +
      '<xref format="html" href="https://tides.example/tables" scope="external"/>.</p>',
  );

  // A part of a topic: Tab goes into it.
  await page.keyboard.type(' See [[');
  await where.fill('technical data');
  await page.keyboard.press('Tab');
  await expect(page.getByRole('combobox', { name: /A part of Technical data/u })).toBeFocused();
  const part = page.getByRole('listbox').getByRole('option').first();
  const title = (await part.locator('.label').innerText()).trim();
  await page.keyboard.press('Enter');
  await expect(page.locator(`.ProseMirror [data-shown="${title}"]`)).toBeVisible();

  // In which words it names its target: by the palette, or in the details.
  await choose(page, 'link: number');
  await expect(page.locator(`.ProseMirror [data-shown="№ ${title}"]`)).toBeVisible();
  await page.locator(`.ProseMirror [data-shown="№ ${title}"]`).click();
  await page.getByRole('tab', { name: 'Details' }).click();
  await page.getByLabel('Words of the link').selectOption('page alone');
  await expect(page.locator(`.ProseMirror [data-shown="page of ${title}"]`)).toBeVisible();
  await isSaved(page);
  expect(await stored(page)).toContain('outputclass="words-page"');
  await page.locator('.ProseMirror .is-conbody p').click();
  await page.keyboard.press('Control+End');

  // Selected words keep what they say.
  await page.keyboard.press('Enter');
  await page.keyboard.type('Mind the tides');
  for (let count = 0; count < 5; count += 1) await page.keyboard.press('Shift+ArrowLeft');
  await choose(page, 'cross-ref');
  await where.fill('choose the quay');
  await page.keyboard.press('Enter');
  await isSaved(page);
  expect(await stored(page)).toContain(
    'Mind the <xref href="topic:choose-the-quay-wall">tides</xref>',
  );

  await page.getByLabel('Filter topics').fill('care plan');
  await page
    .locator('aside a[href="/write/care-plan"]')
    .dragTo(page.locator('.ProseMirror .is-shortdesc'));
  await expect(page.locator('.ProseMirror .is-shortdesc [data-shown="Care plan"]')).toBeVisible();

  // Escape leaves what was typed.
  await page.locator('.ProseMirror .is-conbody p').last().click();
  await page.keyboard.press('End');
  await page.keyboard.type(' a[[');
  await page.keyboard.press('Escape');
  await page.keyboard.type('0]');
  await isSaved(page);
  expect(await stored(page)).toContain('a[[0]');
});

test('a broken link is marked at once and named; a working one is followed', async ({ page }) => {
  await newTopic(page, 'Concept', 'Loose ends');
  await page.locator('.ProseMirror .is-conbody p').click();
  await page.keyboard.type('See [[');
  await page.getByRole('combobox', { name: 'Where the link leads' }).fill('alarm codes');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+Enter');
  await expect(page).toHaveURL(/\/write\/alarm-codes$/u);
  await page.goBack();
  await expect(page.locator('.ProseMirror')).toContainText('Loose ends');
  await page.locator('.ProseMirror [data-shown="Alarm codes"]').click();
  await page.getByRole('tab', { name: 'Details' }).click();
  await page.getByLabel('Target').click();
  await page.keyboard.type('topic:nowhere-at-all');
  await page.keyboard.press('Enter');
  await expect(page.locator('.ProseMirror .link-broken')).toBeVisible();
  await page.getByRole('tab', { name: /Problems/u }).click();
  await page.getByRole('button', { name: /“nowhere-at-all” is not in the library/u }).click();
  await expect(page.locator('#foot-path')).toContainText('Paragraph');
});
