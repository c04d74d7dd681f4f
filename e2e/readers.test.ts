import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { signIn } from './people.ts';

async function isAccessible(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze();
  expect(violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html).join()}`)).toEqual([]);
}

test('an edition is checked for every reader, and what is found leads to its place', async ({ page }) => {
  await signIn(page, 'teo', '/publish');
  await page.getByRole('link', { name: /Tern Q Installation Manual/u }).click();
  const readers = page.getByRole('region', { name: 'Every reader' });
  await readers.getByRole('button', { name: 'Check for every reader' }).click();
  await expect(readers.getByRole('listitem')).toContainText([/This row has no cell in column 2 for Power Solar/u]);
  await readers.getByRole('link', { name: 'Alarm codes' }).first().click();
  await expect(page).toHaveURL(/\/write\/alarm-codes\?path=/u);
});

test('topics by editions tell what appears where, and by which rule not', async ({ page }) => {
  await signIn(page);
  const session = (await (await page.request.get('/api/session')).json()) as { projects: { id: string }[] };
  const base = `/api/projects/${session.projects[0]!.id}`;
  const headers = { origin: new URL(page.url()).origin };
  const map = (await (await page.request.post(`${base}/items`, { headers, data: { type: 'map', title: 'Quay card' } })).json()) as { id: string };
  const text = `<map id="${map.id}"><title>Quay card</title><topicref href="topic:alarms"/><topicref href="topic:raise-the-mast" product="tern-d"/></map>`;
  expect((await page.request.put(`${base}/items/${map.id}`, { headers, data: { text, version: 1 } })).ok()).toBe(true);
  const edition = { name: 'Quay card', output: 'print', map: map.id, lens: 'installer-tern-q', variables: {}, locale: 'en' };
  const { id } = (await (await page.request.post(`${base}/editions`, { headers, data: edition })).json()) as { id: string };

  await page.goto('/appearances');
  const table = page.getByRole('table', { name: 'Topics by editions' });
  await page.getByLabel('Which topics').selectOption('where editions differ');
  await expect(table.getByRole('row', { name: /^Raise the mast/u })).toContainText(/dropped: an entry of the map: Model is Tern D, which “installer-tern-q” drops/u);
  await expect(table.getByRole('row', { name: /^Raise the mast/u })).toContainText(/3\.\d: Raise the mast/u);
  await expect(table.getByRole('row', { name: /^Alarms/u })).toHaveCount(0);
  await expect(table.getByRole('row', { name: /^Safety at the quay/u })).toBeVisible();
  await isAccessible(page);
  await page.getByLabel('Filter topics').fill('no such topic');
  await expect(page.getByText('0 topics')).toBeVisible();
  await page.request.delete(`${base}/editions/${id}`, { headers });
  await page.request.delete(`${base}/items/${map.id}`, { headers });
});

test('of any element it is told in which editions it is, and why not in the others', async ({ page }) => {
  await signIn(page, 'noor', '/write/emergency-contacts');
  await page.locator('.ProseMirror .is-section').first().getByText('Coast rescue').click();
  await page.getByRole('tab', { name: 'Details' }).click();
  await page.getByText('In each edition, and why').click();
  const details = page.getByRole('region', { name: 'Details' });
  await expect(details.getByText('emergency-contacts-velmark stands in for this topic')).toBeVisible();
  await expect(details.locator('dt').filter({ hasText: 'Tern Help' })).toContainText('is there');
});
