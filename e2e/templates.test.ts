import { expect, test } from './test.ts';
import { choose, isSaved, projectOf, stored } from './pages.ts';
import { openLibrary, signIn } from './people.ts';

test('an administrator makes a template in the editor; topics start from it with guidance', async ({
  page,
}) => {
  await signIn(page, 'ada', '/agreements');
  await page.getByLabel('Kind of the template').selectOption('concept');
  await page.getByLabel('Title of the template').fill('Part of the station');
  await page.getByRole('button', { name: 'Make a template' }).click();
  await page.locator('.ProseMirror .is-shortdesc').click();
  await page.keyboard.type('The ');
  await choose(page, 'placeholder');
  await page.getByRole('dialog', { name: 'Placeholder' }).getByRole('textbox').fill('part name');
  await page.keyboard.press('Enter');
  await page.keyboard.type(' measures.');
  await page.locator('.ProseMirror .is-conbody p').click();
  await page.keyboard.press('End');
  await choose(page, 'guidance');
  await page
    .getByRole('dialog', { name: 'Guidance' })
    .getByRole('textbox')
    .fill('Say where it is fitted.');
  await page.keyboard.press('Enter');
  await isSaved(page);
  const text = await stored(page);
  expect(text).toContain('<shortdesc>The <?placeholder part name?> measures.</shortdesc>');
  expect(text).toContain('<?guidance Say where it is fitted.?>');
  const template = page.url();

  await openLibrary(page, 'noor');
  // Others read a template and do not change it, in the page or past it.
  await page.goto(template);
  await expect(page.locator('.ProseMirror')).toHaveAttribute('contenteditable', 'false');
  const id = new URL(template).pathname.split('/').at(-1)!;
  const project = await projectOf(page);
  const refused = await page.request.put(`${project}/items/${id}`, {
    data: { text, version: 1 },
  });
  expect(refused.status()).toBe(403);

  await page.goto('/library');
  await page.getByRole('button', { name: 'New topic' }).click();
  await page.getByText('Part of the station', { exact: true }).click();
  await page.getByLabel('Title').fill('The sensor head');
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page.locator('.ProseMirror .is-title').first()).toHaveText('The sensor head');
  await expect(page.locator('.ProseMirror .is-conbody p')).toHaveAttribute(
    'data-guidance',
    'Say where it is fitted.',
  );
  await page.getByRole('tab', { name: /Problems/u }).click();
  await expect(
    page.getByText('“part name” in “Short description” is still to be written.'),
  ).toBeVisible();
  await page.locator('.ProseMirror .placeholder').click();
  await page.keyboard.type('sensor head');
  await page.locator('.ProseMirror .is-conbody p').click();
  await page.keyboard.type('On the quay at 5');
  await choose(page, 'special character');
  await page.getByRole('combobox', { name: 'Which character' }).fill('no-break space');
  await page.keyboard.press('Enter');
  await choose(page, 'special character');
  await page.getByRole('combobox', { name: 'Which character' }).fill('degree sign');
  await page.keyboard.press('Enter');
  await page.keyboard.type('.');
  await isSaved(page);
  const made = await stored(page);
  expect(made).toContain('<shortdesc>The sensor head measures.</shortdesc>');
  expect(made).toContain('<p>On the quay at 5\u00A0°.</p>');
  await expect(page.getByText('is still to be written')).toHaveCount(0);
  await page.keyboard.press('Home');
  await choose(page, 'special character');
  await expect(page.getByRole('listbox').getByRole('option').first()).toContainText('degree sign');
});
