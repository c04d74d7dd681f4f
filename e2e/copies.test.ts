import { expect, test } from './test.ts';
import { faults } from './faults.ts';
import { isSaved, newTopic, stored } from './pages.ts';
import { openLibrary } from './people.ts';
import { stockOf } from './stock.ts';

const sentence =
  'Before the first frost drain the stilling well and hang the plug on the red hook beside ' +
  'the ladder.';
const filler = (name: string): string =>
  Array.from({ length: 30 }, (_, at) => `${name}${at}`).join(' ');

test('copies are found with what differs, and become one passage that all borrow', async ({
  page,
}) => {
  await openLibrary(page, 'noor');
  for (const [title, words] of [
    ['Frost at the quay', sentence],
    ['Frost at the pile', sentence.replace('ladder', 'door')],
  ] as const) {
    await newTopic(page, 'Concept', title);
    await page.locator('.ProseMirror .is-conbody > p').click();
    await page.keyboard.insertText(words);
    await page.keyboard.press('Enter');
    await page.keyboard.insertText(filler(title.replace(/ /gu, '')));
    await isSaved(page);
  }
  await page.goto('/library');
  await page.getByRole('link', { name: /^Copies/u }).click();
  const drawer = page.getByRole('complementary', { name: 'Copies' });
  await drawer.getByRole('button', { name: /Before the first frost/u }).click();
  await expect(
    page.getByRole('article', { name: 'Frost at the quay' }).locator('ins, del'),
  ).toHaveText(['door', 'ladder']);
  expect(await faults(page)).toEqual([]);
  await page
    .getByRole('article', { name: 'Frost at the quay' })
    .getByText('this wording stays')
    .click();
  await page.getByLabel('Name of the topic that will lend it').fill('Before the frost');
  await page.getByRole('button', { name: 'Make 2 one, and borrow it' }).click();
  await expect(page.getByText(/2 of 2 borrow it from “Before the frost”/u)).toBeVisible();
  await expect(drawer.getByRole('button', { name: /Before the first frost/u })).toHaveCount(0);
  await page.goto('/write/frost-at-the-pile');
  await expect(page.locator('.borrowed-text')).toContainText('on the red hook beside the ladder');
});

test('of near copies one replaces another, and a third becomes its alternate', async ({ page }) => {
  await openLibrary(page, 'noor');
  const stock = await stockOf(page);
  const words =
    'Fold the awning from the seaward side, tie both ends with the tarred cord, and carry it ' +
    'under the stairs before the glass falls below nine hundred and ninety.';
  const [dry, calm, cold] = await Promise.all(
    [words.replace('tarred', 'waxed'), words, words.replace('stairs', 'ramp')].map((text, at) =>
      stock.item(
        'concept',
        `Awning ${at + 1}`,
        `<title>Awning ${at + 1}</title><conbody><p>${text}</p></conbody>`,
      ),
    ),
  );
  const map = await stock.item(
    'map',
    'Awnings',
    `<title>Awnings</title><topicref href="topic:${calm}"/><topicref href="topic:${dry}"/>` +
      `<topicref href="topic:${cold}"/>`,
  );
  await page.goto('/copies');
  await page
    .getByRole('complementary', { name: 'Copies' })
    .getByRole('button', { name: /3 × Concept.*Fold the awning/u })
    .click();
  await page.getByRole('article', { name: 'Awning 2' }).getByText('this topic stays').click();
  await page.getByRole('button', { name: 'Put “Awning 2” in the place of “Awning 1”' }).click();
  await expect(
    page.getByText('“Awning 2” takes the place of “Awning 1” everywhere now.'),
  ).toBeVisible();
  await page.getByRole('article', { name: 'Awning 2' }).getByText('this topic stays').click();
  await page
    .getByRole('article', { name: 'Awning 3' })
    .getByRole('button', { name: 'It stands in for …' })
    .click();
  await page.getByRole('combobox', { name: '“Awning 3” stands in: only for' }).fill('kisara');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Make “Awning 3” an alternate' }).click();
  await expect(page.getByText('“Awning 3” stands in for “Awning 2” now.')).toBeVisible();
  await page.goto(`/arrange/${map}`);
  await expect(page.getByRole('treeitem').locator('.title')).toHaveText([
    'Awning 2',
    'Awning 2',
    'Awning 2',
  ]);
  await page.goto(`/write/${cold}`);
  await expect(page.locator('.ProseMirror')).toContainText('ramp');
  expect(await stored(page)).toContain(`href="topic:${calm}" name="alternate-of"`);
});
