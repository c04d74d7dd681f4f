import { expect, test, type Page } from './test.ts';
import { faults } from './faults.ts';
import { isSaved, newTopic, hasCaret, pickFound, projectOf, stored } from './pages.ts';
import { openLibrary, signIn } from './people.ts';

/** Somebody who looks through a lens that keeps one country alone. */
async function lensFor(page: Page, name: string, country: string): Promise<void> {
  const project = await projectOf(page);
  const base = `${project}/lenses`;
  const { id } = (await (await page.request.post(base, { data: { name } })).json()) as {
    id: string;
  };
  await page.request.post(`${base}/${id}/decisions`, {
    data: { facet: 'country', action: 'drop' },
  });
  await page.request.post(`${base}/${id}/decisions`, {
    data: { facet: 'country', value: country, action: 'keep' },
  });
  await page.goto('/library');
}
async function onlyFor(page: Page, value: string): Promise<void> {
  await page.getByRole('combobox', { name: /only for/u }).fill(value);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
}

test('an alternate for one country replaces its base there; a changed base is told', async ({
  page,
}) => {
  await openLibrary(page);
  await lensFor(page, 'Velmark alone', 'velmark');
  await newTopic(page, 'Concept', 'Whom to call');
  const paragraph = page.locator('.ProseMirror .is-conbody > p');
  await paragraph.click();
  await page.keyboard.type('Call the harbour office on 100.');
  await isSaved(page);
  const base = page.url();
  const strip = page.getByRole('region', { name: 'Alternates' });
  await strip.getByRole('button', { name: 'For others …' }).click();
  await onlyFor(page, 'Velmark');
  await strip.getByRole('button', { name: 'Begin with a copy' }).click();
  await expect(page).toHaveURL(/whom-to-call-velmark/u);
  await expect(strip.getByRole('link', { name: /Velmark/u })).toHaveAttribute(
    'aria-current',
    'page',
  );
  await expect(paragraph).toHaveText('Call the harbour office on 100.');
  await hasCaret(page);
  await paragraph.click();
  await page.keyboard.press('End');
  for (let count = 0; count < 4; count += 1) await page.keyboard.press('Backspace');
  await page.keyboard.type('222.');
  await isSaved(page);
  expect(await stored(page)).toMatch(/country="velmark"|country\(velmark\)/u);
  await strip.getByRole('button', { name: 'What differs' }).click();
  const difference = page.getByRole('region', {
    name: 'What differs from the topic that it stands in for',
  });
  await expect(difference.locator('del')).toHaveText('100');
  await expect(difference.locator('ins')).toHaveText('222');
  await expect(difference.locator('.block')).toHaveCount(1);
  expect(await faults(page, { within: '.alternates', withPractices: true })).toEqual([]);

  // Which of them is shown through the lens is said at both.
  await page.getByLabel('Lens', { exact: true }).selectOption('Velmark alone');
  await expect(strip.getByRole('link', { name: /Velmark/u })).toContainText(
    'shown through the lens',
  );
  await page.getByLabel('Lens', { exact: true }).selectOption('every reader');
  await expect(strip.getByText('shown through the lens')).toHaveCount(0);

  await page.goto(base);
  await paragraph.click();
  await page.keyboard.press('End');
  await page.keyboard.type(' Day and night.');
  await isSaved(page);
  await strip.getByRole('link', { name: /Velmark/u }).click();
  await expect(strip.getByRole('status')).toContainText('has changed since');
  await strip.getByRole('button', { name: 'Show the change' }).click();
  await expect(
    page.getByRole('region', { name: 'What has changed since' }).locator('ins'),
  ).toContainText('Day and night.');
  await strip.getByRole('button', { name: 'I have looked at it' }).click();
  await expect(strip.getByRole('status')).toHaveCount(0);

  await page.goto('/library');
  await page.getByLabel('Filter topics').fill('Whom to call');
  await expect(
    page.getByRole('link', { name: /Whom to call/u }).filter({ hasText: '1 alternate' }),
  ).toBeVisible();
  const alternate = page
    .getByRole('link', { name: /Whom to call/u })
    .filter({ hasText: 'stands in for Whom to call' });
  await alternate.click();
  const release = strip.getByRole('button', { name: 'Make it a topic of its own' });
  await release.click();
  await expect(release).toHaveCount(0);
  await expect(strip.getByRole('link')).toHaveCount(0);
  expect(await stored(page)).not.toContain('alternate-of');
});

test('an image stands in for another one, and is shown to those who look through the lens', async ({
  page,
}) => {
  await openLibrary(page);
  await lensFor(page, 'Kisara alone', 'kisara');
  await page.goto('/library');
  await page.getByRole('button', { name: 'Images' }).click();
  const upload = page.locator('input[type="file"][multiple]');
  const drawn = (name: string) => ({
    name,
    mimeType: 'image/svg+xml',
    buffer: Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30">' +
        '<rect width="40" height="30"/></svg>',
    ),
  });
  await upload.setInputFiles([drawn('inlet.svg'), drawn('inlet-kisara.svg')]);
  await page.getByRole('button', { name: 'About inlet-kisara.svg' }).click();
  const about = page.getByRole('region', { name: 'About inlet-kisara.svg' });
  await pickFound(about, 'Stands in for', 'inlet.svg');
  await about.getByRole('button', { name: 'Only for …' }).click();
  await onlyFor(page, 'Kisara');
  await about.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('· for inlet.svg')).toBeVisible();
  await expect(page.getByText('1 alternate')).toBeVisible();

  await newTopic(page, 'Concept', 'The inlet');
  await page.locator('.ProseMirror .is-conbody > p').click();
  await page.keyboard.press('Control+Space');
  await page.getByRole('combobox', { name: 'What can go here' }).fill('image');
  await page.keyboard.press('Enter');
  await page.getByRole('combobox', { name: 'Which image' }).fill('inlet.svg');
  await page.keyboard.press('Enter');
  const image = page.locator('.ProseMirror .picture img');
  await expect(image).toHaveAttribute('src', /\/inlet\/file/u);
  await page.keyboard.press('Escape');
  await page.getByLabel('Lens', { exact: true }).selectOption('Kisara alone');
  await expect(image).toHaveAttribute('src', /\/inlet-kisara\/file/u);
  await page.getByLabel('Lens', { exact: true }).selectOption('every reader');
  await expect(image).toHaveAttribute('src', /\/inlet\/file/u);
});

test('an image from somebody else is in the library at once, and found by its name', async ({
  page,
}) => {
  await signIn(page, 'noor', '/library');
  await page.getByRole('button', { name: 'Images' }).click();
  const count = page.getByRole('status').filter({ hasText: / of /u });
  await expect(count).toHaveText(/^([1-9]\d*) of \1$/u);
  const before = Number(/\d+/u.exec((await count.textContent())!)![0]);
  const project = await projectOf(page);
  const upload = (name: string) => {
    const buffer = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="4" height="3"/>');
    const file = { name, mimeType: 'image/svg+xml', buffer };
    return page.request.post(`${project}/assets`, { multipart: { file } });
  };
  await upload('quay fender.svg');
  await expect(page.getByRole('button', { name: 'About quay-fender.svg' })).toBeVisible();
  await expect(count).toHaveText(`${before + 1} of ${before + 1}`);
  await page.getByRole('textbox', { name: 'Filter images' }).fill('FENDER quay');
  await expect(count).toHaveText(`1 of ${before + 1}`);
  await page.getByRole('textbox', { name: 'Filter images' }).fill('no such image');
  await expect(page.getByText('No image has these words')).toBeVisible();

  await test.step('more than a page of them come while one scrolls', async () => {
    await page.getByRole('textbox', { name: 'Filter images' }).fill('');
    for (let at = 0; at < 110; at += 1) await upload(`zinc anode ${100 + at}.svg`);
    await expect(count).toHaveText(`${before + 111} of ${before + 111}`);
    const last = page.getByRole('button', { name: 'About zinc-anode-209.svg' });
    await expect(last).toHaveCount(0);
    await expect(async () => {
      await page
        .getByRole('button', { name: /^About/u })
        .last()
        .scrollIntoViewIfNeeded();
      await expect(last).toBeVisible({ timeout: 1000 });
    }).toPass();
  });
});
