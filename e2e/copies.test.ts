import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { clickInto, isSaved, newTopic } from './pages.ts';
import { signIn } from './people.ts';

const sentence = 'Before the first frost drain the stilling well and hang the plug on the red hook beside the ladder.';
const filler = (name: string): string => Array.from({ length: 30 }, (_, at) => `${name}${at}`).join(' ');

test('copies are found with what differs, and become one passage that all borrow', async ({ page }) => {
  await signIn(page, 'noor');
  for (const [title, words] of [
    ['Frost at the quay', sentence],
    ['Frost at the pile', sentence.replace('ladder', 'door')],
  ] as const) {
    await newTopic(page, 'Concept', title);
    await clickInto(page.locator('.ProseMirror .is-conbody > p'));
    await page.keyboard.insertText(words);
    await page.keyboard.press('Enter');
    await page.keyboard.insertText(filler(title.replace(/ /gu, '')));
    await isSaved(page);
  }
  await page.goto('/library');
  await page.getByRole('link', { name: /^Copies/u }).click();
  const drawer = page.getByRole('complementary', { name: 'Copies' });
  await drawer.getByRole('button', { name: /Before the first frost/u }).click();
  await expect(page.getByRole('article', { name: 'Frost at the quay' }).locator('ins, del')).toHaveText(['door', 'ladder']);
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze();
  expect(violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html).join()}`)).toEqual([]);
  await page.getByRole('article', { name: 'Frost at the quay' }).getByLabel('this wording stays').check();
  await page.getByLabel('Name of the topic that will lend it').fill('Before the frost');
  await page.getByRole('button', { name: 'Make 2 one, and borrow it' }).click();
  await expect(page.getByText(/2 of 2 borrow it from “Before the frost”/u)).toBeVisible();
  await expect(drawer.getByRole('button', { name: /Before the first frost/u })).toHaveCount(0);
  await page.goto('/write/frost-at-the-pile');
  await expect(page.locator('.borrowed-text')).toContainText('on the red hook beside the ladder');
});
