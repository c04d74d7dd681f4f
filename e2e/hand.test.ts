import { expect, test, type Page } from './test.ts';
import { choose, isSaved, newTopic, stored } from './pages.ts';
import { openLibrary, signIn } from './people.ts';

test.beforeEach(({ page }) => signIn(page, 'noor'));
const short = async (page: Page): Promise<string> => (await stored(page)).replace(/\s*\n\s*/gu, '');
const paragraphs = '.ProseMirror .is-conbody > p';

async function threeParagraphs(page: Page, title: string): Promise<void> {
  await newTopic(page, 'Concept', title);
  await page.locator(paragraphs).click();
  for (const word of ['Ebb', 'Flood', 'Slack']) {
    await page.keyboard.type(word);
    if (word !== 'Slack') await page.keyboard.press('Enter');
  }
}

test('what is typed right after Enter stays in order, even before the browser draws', async ({
  page,
}) => {
  await newTopic(page, 'Concept', 'Typed in a hurry');
  await page.locator(paragraphs).click();
  const words = ['Ebb', 'Flood', 'Slack', 'Neap'];
  // The page is busy while the hand goes on: its keys come in one go, with no frame between them.
  await page.evaluate(() => {
    const busy = (): void => {
      for (const end = performance.now() + 120; performance.now() < end;);
      setTimeout(busy, 1);
    };
    setTimeout(busy, 1);
  });
  const keys = words.flatMap((word) => ['Enter', ...word.split('')]).slice(1);
  await Promise.all(keys.map((key) => page.keyboard.press(key)));
  await expect(page.locator(paragraphs)).toHaveText(words);
});

test('a rung of the ladder is pulled to where its element shall go', async ({ page }) => {
  await threeParagraphs(page, 'Pulled by its rung');
  await page.locator(paragraphs).nth(2).click();
  const rung = (await page.locator('.rung.last span').boundingBox())!;
  const first = (await page.locator(paragraphs).first().boundingBox())!;
  await page.mouse.move(rung.x + 10, rung.y + 6);
  await page.mouse.down();
  await page.mouse.move(rung.x + 10, first.y + 4, { steps: 6 });
  await expect(page.locator('.ladder .drop')).toBeVisible();
  await page.mouse.up();
  await isSaved(page);
  expect(await short(page)).toContain('<conbody><p>Slack</p><p>Ebb</p><p>Flood</p></conbody>');
  await page.keyboard.press('Control+z');
  await isSaved(page);
  expect(await short(page)).toContain('<conbody><p>Ebb</p><p>Flood</p><p>Slack</p></conbody>');
});

test('a small + between blocks asks what can go there', async ({ page }) => {
  await threeParagraphs(page, 'Between blocks');
  const box = (await page.locator(paragraphs).first().boundingBox())!;
  await page.mouse.move(box.x + 60, box.y + box.height - 12);
  await page.mouse.move(box.x + 60, box.y + box.height - 2);
  await page.getByRole('button', { name: 'Put something in here' }).click();
  await page.getByRole('combobox', { name: 'What can go here' }).fill('note');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Mind the mud.');
  await isSaved(page);
  expect(await short(page)).toContain('<p>Ebb</p><note>Mind the mud.</note><p>Flood</p>');
});

test('what fits the selected words is under the hand', async ({ page }) => {
  await threeParagraphs(page, 'Words in hand');
  for (let count = 0; count < 5; count += 1) await page.keyboard.press('Shift+ArrowLeft');
  const bar = page.getByRole('toolbar', { name: 'For the selected words' });
  await bar.getByRole('button', { name: 'Term' }).click();
  await isSaved(page);
  expect(await short(page)).toContain('<p><term>Slack</term></p>');
  await page.keyboard.press('End');
  await expect(bar).toHaveCount(0);
  // Where no name may stand, none is offered.
  await page.locator(paragraphs).first().click();
  await choose(page, 'codeblock');
  await page.keyboard.type('abc');
  for (let count = 0; count < 3; count += 1) await page.keyboard.press('Shift+ArrowLeft');
  await expect(bar.getByRole('button', { name: '…' })).toBeVisible();
  await expect(bar.getByRole('button', { name: 'Control', exact: true })).toHaveCount(0);
});

test('Enter asks what comes next, for those who want that', async ({ page }) => {
  await openLibrary(page, 'noor');
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Find or do' }).fill('Let Enter ask');
  await page.keyboard.press('Enter');
  // Enter acts once the topics found are current.
  await expect(page.getByRole('dialog', { name: 'Find or do' })).toHaveCount(0);
  await newTopic(page, 'Concept', 'Asked at Enter');
  await page.locator(paragraphs).click();
  await page.keyboard.type('Tide');
  await page.keyboard.press('Enter');
  await page.getByRole('combobox', { name: 'What can go here' }).fill('bullet');
  await page.keyboard.press('Enter');
  await page.keyboard.type('high');
  await isSaved(page);
  expect(await short(page)).toContain('<p>Tide</p><ul><li>high</li></ul>');
});
