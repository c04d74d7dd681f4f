import { expect, test } from './test.ts';
import { faults } from './faults.ts';
import { isSaved, newTopic, pickFound, stored } from './pages.ts';
import { signIn } from './people.ts';

test('where a topic is used is told with the editions that a change touches', async ({ page }) => {
  await signIn(page, 'noor', '/write/safety');
  await page.getByRole('tab', { name: 'Uses' }).click();
  const panel = page.getByRole('tabpanel', { name: 'Uses' });
  await expect(panel.getByRole('region', { name: 'A change touches' })).toContainText(
    'Tern Q Installation Manual',
  );
  await expect(panel.getByRole('region', { name: 'Lends to' })).toContainText('Raise the mast');
  await expect(panel.getByRole('region', { name: 'Stands in' })).toContainText(
    'Installation Manual',
  );
  expect(await faults(page)).toEqual([]);
  await panel.getByRole('link', { name: 'Tern Q Installation Manual' }).click();
  await expect(page.getByRole('heading', { name: 'Tern Q Installation Manual' })).toBeVisible();
  await page.goBack();
  await panel.getByRole('link', { name: 'Raise the mast' }).click();
  await page.locator('.borrowed-from').first().click();
  await expect(
    page
      .getByRole('dialog', { name: /At its home/u })
      .getByRole('status')
      .first(),
  ).toContainText(/topics borrow from here; a change reaches .*Tern Q Installation Manual/u);
});

test('a topic that is used is removed with another one in its place', async ({ page }) => {
  await signIn(page, 'noor');
  for (const title of ['Swivel, old', 'Swivel, new']) await newTopic(page, 'Concept', title);
  await newTopic(page, 'Concept', 'Leads to the swivel');
  await page.locator('.ProseMirror .is-conbody > p').click();
  await page.keyboard.type('See [[');
  await page.getByRole('combobox', { name: 'Where the link leads' }).fill('swivel, old');
  await page.keyboard.press('Enter');
  await isSaved(page);
  const user = page.url();
  await page.goto('/write/swivel-old');
  await page.getByRole('tab', { name: 'Uses' }).click();
  await expect(page.getByRole('region', { name: 'Led to from' })).toContainText(
    'Leads to the swivel',
  );
  await page.getByRole('button', { name: 'Remove this topic …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Remove “Swivel, old”' });
  const remove = dialog.getByRole('button', { name: 'Put it in place and remove' });
  await expect(remove).toBeDisabled();
  await pickFound(dialog, 'A topic in its place', 'Swivel, new');
  await expect(dialog.getByRole('region', { name: 'Before and after' }).locator('ins')).toHaveText([
    'new',
  ]);
  await remove.click();
  await expect(page).toHaveURL(/\/library$/u);
  await page.goto(user);
  await expect(page.locator('.ProseMirror .link-whole')).toHaveAttribute(
    'data-shown',
    'Swivel, new',
  );
  expect(await stored(page)).toContain('topic:swivel-new');
});
