import { expect, test, type Locator } from './test.ts';
import { choose, isSaved, newTopic, stored } from './pages.ts';
import { signIn } from './people.ts';

const facet = (details: Locator, label: string): Locator =>
  details
    .locator('.field')
    .filter({ has: details.page().getByText(label, { exact: true }) })
    .locator('.n-base-selection');

test.beforeEach(({ page }) => signIn(page, 'noor'));

test('the details of any open element are set, refused and cleared as fields', async ({ page }) => {
  await newTopic(page, 'Concept', 'Anchors');
  await page.locator('p[data-element="p"]').click();
  await page.keyboard.type('Drop the anchor.');
  const details = page.getByRole('region', { name: 'Details' });
  await expect(details).toContainText('Paragraph');

  await test.step('a facet is picked from its closed list', async () => {
    await facet(details, 'Model').click();
    await page.locator('.n-base-select-option', { hasText: 'Tern D' }).click();
    await page.keyboard.press('Escape');
    await isSaved(page);
    expect(await stored(page)).toContain('<p product="tern-d">Drop the anchor.</p>');
  });
  await test.step('an id is checked while it is typed', async () => {
    await details.locator('.n-base-selection').last().click();
    await page.locator('.n-base-select-option', { hasText: /^Id$/u }).click();
    const id = details.getByLabel('Id', { exact: true });
    await id.fill('anchors');
    await expect(details.getByRole('alert')).toHaveText(
      'Another element of this topic has this id.',
    );
    await id.fill('drop');
    await expect(details.getByRole('alert')).toHaveCount(0);
    await id.press('Enter');
    await isSaved(page);
    expect(await stored(page)).toContain('<p id="drop" product="tern-d">');
  });
  await test.step('clearing a field removes the attribute', async () => {
    await details.getByLabel('Id', { exact: true }).fill('');
    await details.getByLabel('Id', { exact: true }).press('Enter');
    await isSaved(page);
    expect(await stored(page)).toContain('<p product="tern-d">');
  });
  await test.step('an outer element has its details too', async () => {
    await details.getByLabel('Element', { exact: true }).selectOption({ index: 0 });
    await expect(details.getByLabel('Id', { exact: true })).toHaveValue('anchors');
  });
  await page.locator('p[data-element="p"]').click();
  await page.keyboard.press('Control+z');
  await isSaved(page);
  expect(await stored(page)).toContain('id="drop"');
});

test('the page is looked at in four ways, one key away each, and shows its spaces', async ({
  page,
}) => {
  await page.goto('/write/fit-the-bracket');
  const sheet = page.locator('.page');
  const borrowed = page.getByText('borrowed · Safety at the quay');
  await expect(page.locator('.ladder')).toBeVisible();
  await expect(borrowed).toBeVisible();
  const before = await page.locator('.ProseMirror').textContent();
  await page.keyboard.press('Alt+1');
  await expect(page.locator('.ladder')).toHaveCount(0);
  await page.keyboard.press('Alt+3');
  await expect(sheet).toHaveClass(/view-framed/u);
  await page.keyboard.press('Alt+4');
  await expect(page.locator('.sign.starts').first()).toHaveText(/^Task id = fit-the-bracket/u);
  await expect(page.locator('.is-step').first().locator('.sign.starts').first()).toHaveText('Step');
  expect(await page.locator('.sign.starts').count()).toBe(await page.locator('.sign.ends').count());
  await page.keyboard.press('Alt+5');
  await expect(page.locator('.sign.pilcrow').first()).toBeVisible();
  await expect(page.locator('.shown-space').first()).toBeVisible();
  await page.reload();
  await expect(page.locator('.sign.starts').first()).toBeVisible();
  await page.keyboard.press('Alt+5');
  await page.keyboard.press('Alt+2');
  await expect(page.locator('.sign')).toHaveCount(0);
  await expect(borrowed).toBeVisible();
  expect(await page.locator('.ProseMirror').textContent()).toBe(before);
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
});

test('named words have details as well', async ({ page }) => {
  await newTopic(page, 'Concept', 'Buoys');
  await page.locator('p[data-element="p"]').click();
  await page.keyboard.type('Press OK');
  await page.keyboard.press('Shift+Control+ArrowLeft');
  await choose(page, 'uicontrol');
  await expect(page.locator('#foot-path')).toHaveText(/Paragraph \/ Control$/u);
  const details = page.getByRole('region', { name: 'Details' });
  await facet(details, 'Audience').click();
  await page.locator('.n-base-select-option', { hasText: 'Operator' }).click();
  await page.keyboard.press('Escape');
  await isSaved(page);
  expect(await stored(page)).toContain('Press <uicontrol audience="operator">OK</uicontrol>');
});

test('a table is put in, filled by Tab, grows and has cells joined', async ({ page }) => {
  await newTopic(page, 'Concept', 'Tides');
  await page.locator('p[data-element="p"]').click();
  await choose(page, 'table');
  await page.getByRole('dialog', { name: 'New table' }).getByLabel('Title').fill('Ports');
  await page.keyboard.press('Enter');
  for (const text of ['Port', 'High', 'Low', 'Velm', '3.1', '0.4', 'Kis']) {
    await page.keyboard.type(text);
    await page.keyboard.press('Tab');
  }
  await page.keyboard.type('no tide');
  await choose(page, 'join with the next');
  await choose(page, 'row below');
  await page.keyboard.type('Nord');
  await choose(page, 'column after');
  await isSaved(page);
  const text = (await stored(page)).replace(/\s*\n\s*/gu, '');
  expect(text).toContain('<tgroup cols="4">');
  expect(text).toContain(
    '<row><entry>Port</entry><entry>High</entry><entry/><entry>Low</entry></row>',
  );
  expect(text).toContain(
    '<row><entry>Kis</entry><entry nameend="col3" namest="col2">no tide</entry></row>',
  );
  expect(text).toContain('<row><entry/><entry>Nord</entry><entry/><entry/></row>');
  await page.getByRole('tab', { name: 'Problems' }).click();
  await expect(page.getByText('This topic is valid.')).toBeVisible();
});
