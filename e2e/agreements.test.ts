import { expect, test } from './test.ts';
import type { Agreements } from '@ukiyo/contracts';
import { choose, isSaved, newTopic, projectOf, stored } from './pages.ts';
import { signIn } from './people.ts';

test('an administrator sets a house rule and tries it; writers meet it, with a fix', async ({
  page,
}) => {
  await signIn(page, 'ada', '/agreements');
  await expect(page.getByText('No “Bullet list” in “Cell”.')).toBeVisible();
  await page.getByRole('button', { name: 'Add a rule' }).click();
  const rule = page.getByRole('form', { name: 'Rule' });
  await rule.getByLabel('Kind of rule').selectOption('phrase');
  await rule.getByLabel('Wording').fill('grommet');
  await rule.getByLabel('Instead').fill('cable gland');
  await rule.getByLabel('Words to try it on').fill('Push the grommet in.');
  await expect(rule.getByRole('status')).toContainText(
    '1 found: Write “cable gland”, not “grommet”.',
  );
  await rule.getByLabel('Words to try it on').fill('Push the grommets in.');
  await expect(rule.getByRole('status')).toHaveText('Nothing to say here.');
  await rule.getByRole('button', { name: 'Keep the rule' }).click();
  await expect(page.getByText('Write “cable gland”, not “grommet”.')).toBeVisible();

  await signIn(page, 'noor');
  await newTopic(page, 'Concept', 'Where cables enter');
  await page.locator('.ProseMirror .is-conbody p').click();
  await page.keyboard.type('Grommet here.');
  await page.keyboard.press('Enter');
  await page.keyboard.type('A grommet there.');
  await page.getByRole('tab', { name: /Problems/u }).click();
  await expect(page.getByText('Write “cable gland”, not “grommet”.')).toHaveCount(2);
  await page.getByRole('button', { name: 'Do so for all 2 of this kind' }).click();
  await expect(page.getByText('2 put right.')).toBeVisible();
  await isSaved(page);
  expect(await stored(page)).toMatch(/<p>Cable gland here\.<\/p>\s*<p>A cable gland there\.<\/p>/u);
  await page.locator('.ProseMirror .is-conbody p').first().click();
  await page.keyboard.press('Control+z');
  await isSaved(page);
  expect(await stored(page)).toMatch(/<p>Grommet here\.<\/p>\s*<p>A grommet there\.<\/p>/u);

  await signIn(page, 'ada', '/agreements');
  await page.getByRole('button', { name: /^Remove: Write “cable gland”/u }).click();
  await expect(page.getByText('Write “cable gland”, not “grommet”.')).toHaveCount(0);
});

test('words are kept one a line by an administrator', async ({ page }) => {
  await signIn(page, 'ada', '/agreements');
  const words = page.getByRole('textbox', { name: 'Words', exact: true });
  await expect(words).toHaveValue(/Brinewell/u);
  await words.focus();
  await page.keyboard.press('Control+End');
  await page.keyboard.type('\nfathomer');
  await page.keyboard.press('Tab');
  await page.reload();
  await expect(words).toHaveValue(/fathomer/u);
});

test('terms are kept as lists, one list per line; an empty line is pointed out', async ({
  page,
}) => {
  await signIn(page, 'ada', '/agreements');
  const lists = page.getByRole('textbox', { name: 'Words that mean the same' });
  await expect(lists).toHaveValue(/tide staff, tide pole/u);
  const before = await lists.inputValue();
  await lists.fill(`${before}\nbuoy`);
  await page.keyboard.press('Tab');
  await expect(page.getByText('“buoy” is not kept yet.')).toBeVisible();
  await lists.fill(`${before}\nbuoy, float,  float , sea mark`);
  await lists.blur();
  await expect(page.getByText('is not kept yet')).toHaveCount(0);
  await expect(lists).toHaveValue(/\nbuoy, float, sea mark$/u);
  await page.reload();
  await expect(lists).toHaveValue(/\nbuoy, float, sea mark$/u);
  await lists.fill(before);
  await lists.blur();
  await page.reload();
  await expect(lists).toHaveValue(before);
});

test('what a rule forbids is not offered where it forbids it', async ({ page }) => {
  await signIn(page, 'noor');
  await newTopic(page, 'Concept', 'Cells without lists');
  await page.locator('.ProseMirror .is-conbody p').click();
  await choose(page, 'table');
  await page.keyboard.press('Enter');
  await page.locator('.ProseMirror td').nth(4).click();
  await page.keyboard.press('Control+Space');
  await expect(
    page.getByRole('listbox').getByRole('option', { name: 'Put in: Numbered list into Cell' }),
  ).toBeVisible();
  await expect(
    page.getByRole('listbox').getByRole('option', { name: 'Put in: Bullet list into Cell' }),
  ).toHaveCount(0);
});

test('a fact says with which values topics go out; a build names those that may not', async ({
  page,
}) => {
  await signIn(page, 'ada');
  await page.goto('/agreements');
  const fact = page.getByRole('region', { name: 'Facts of every topic' });
  const approved = fact.getByRole('checkbox', { name: 'approved' });
  await expect(fact.getByText('any of them, or none')).toBeVisible();
  // What is on its way when the page is loaded again arrives all the same.
  await approved.check();
  await page.reload();
  const agreed = async () =>
    (await (await page.request.get(`${await projectOf(page)}/agreements`)).json()) as Agreements;
  await expect
    .poll(async () => (await agreed()).facts.flatMap(({ ready }) => ready))
    .toContain('approved');
  await page.reload();
  await expect(approved).toBeChecked();
  await approved.uncheck();
  await expect(fact.getByText('any of them, or none')).toBeVisible();
});

test('facts that the team has agreed on are asked of every topic', async ({ page }) => {
  await signIn(page, 'noor');
  await newTopic(page, 'Concept', 'A topic with a state');
  await page.getByRole('tab', { name: 'Facts' }).click();
  await page.getByRole('region', { name: 'Facts' }).getByLabel('State').selectOption('in review');
  await isSaved(page);
  expect(await stored(page)).toContain('<othermeta content="in review" name="state"/>');
});
