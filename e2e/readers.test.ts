import { expect, test } from './test.ts';
import { signIn } from './people.ts';

test('an edition is checked for every reader, and what is found leads to its place', async ({
  page,
}) => {
  await signIn(page, 'teo', '/publish');
  await page.getByRole('link', { name: /Tern Q Installation Manual/u }).click();
  const readers = page.getByRole('region', { name: 'Every reader' });
  await readers.getByRole('button', { name: 'Check for every reader' }).click();
  await expect(readers.getByRole('listitem')).toContainText([
    /This row lacks a cell for Power Solar/u,
  ]);
  await readers.getByRole('link', { name: 'Alarm codes' }).first().click();
  await expect(page).toHaveURL(/\/write\/alarm-codes\?path=/u);
});

test('of any element it is told in which editions it is, and why not in the others', async ({
  page,
}) => {
  await signIn(page, 'noor', '/write/emergency-contacts');
  await page.locator('.ProseMirror .is-section').first().getByText('Coast rescue').click();
  await page.getByRole('tab', { name: 'Details' }).click();
  await page.getByText('In each edition, and why').click();
  const details = page.getByRole('region', { name: 'Details' });
  await expect(
    details.getByText('emergency-contacts-velmark stands in for this topic'),
  ).toBeVisible();
  await expect(details.locator('dt').filter({ hasText: 'Tern Help' })).toContainText('is there');
});
