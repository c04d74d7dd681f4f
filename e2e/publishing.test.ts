import { expect, test, type Locator, type Page } from './test.ts';
import { faults } from './faults.ts';
import { hasCaret, projectOf } from './pages.ts';
import { openLibrary, signIn } from './people.ts';
import { stockOf } from './stock.ts';

/** What is otherwise than in the first, page by page. */
async function compareWithFirst(impression: Locator): Promise<void> {
  await impression.getByText('Name, notes, changes').click();
  await impression.getByLabel('Changes since').selectOption({ label: 'number 1' });
  const changes = impression.getByRole('region', { name: 'Changes since number 1' });
  await expect(changes.getByRole('heading')).toHaveText('Since number 1: 1 changed');
  await changes.locator('summary').click();
  await expect(changes.locator('del')).toHaveText('seven');
  await expect(changes.locator('ins')).toHaveText('nine');
}

/** Gives an impression a name and a note. */
async function nameAndNote(impression: Locator): Promise<void> {
  await impression.getByLabel('Name of the impression').fill('For the opening');
  await impression.getByLabel('Name of the impression').press('Enter');
  await expect(impression.locator('.name')).toHaveText('For the opening');
  await impression.getByLabel('Note on the impression').fill('The link comes with the next topic.');
  await impression.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(impression.getByRole('list', { name: 'Notes' })).toContainText('Teo Marsh');
  await expect(impression.getByRole('list', { name: 'Notes' })).toContainText(
    'The link comes with the next topic.',
  );
}

/** A dead link keeps an impression back until somebody says why it may go out. */
async function signOff(page: Page, impression: Locator): Promise<void> {
  await impression.getByRole('button', { name: 'Sign off all the same …' }).click();
  await expect(impression.getByRole('region', { name: 'Dead links' })).toContainText(
    'keeps it from being signed off',
  );
  const sign = impression.getByRole('button', { name: 'Sign off', exact: true });
  await expect(sign).toBeDisabled();
  await impression.getByLabel('Dead links: why it may go out').fill('Known, mended in May');
  expect(await faults(page)).toEqual([]);
  await sign.click();
  await expect(impression.getByText('Signed off', { exact: true })).toBeVisible();
  await expect(impression).toContainText('1 problem goes out with it: Known, mended in May.');
  await expect(impression.getByRole('button', { name: 'Remove with its files' })).toHaveCount(0);
  await expect(page.getByRole('link', { name: /Lock site/u })).toContainText('no. 2 ships');
}

test('a build is inspected, compared, signed off with a reason, and served at its address', async ({
  page,
}) => {
  await openLibrary(page);
  const stock = await stockOf(page);
  const topic = await stock.item(
    'concept',
    'The lock keeper',
    '<title>The lock keeper</title><conbody><p>He opens at seven. See ' +
      '<xref href="topic:nowhere-at-all"/>.</p></conbody>',
  );
  const map = await stock.item(
    'map',
    'Book of the lock',
    `<title>Book of the lock</title><topicref href="topic:${topic}"/>`,
  );
  const edition = await stock.edition('Lock site', map, { output: 'site' });
  await stock.built(edition, 'site/index.html');
  await stock.change(
    topic,
    'concept',
    '<title>The lock keeper</title><conbody><p>He opens at nine. See ' +
      '<xref href="topic:nowhere-at-all"/>.</p></conbody>',
  );
  await page.goto(`/publish/${edition}`);
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  const second = page.getByRole('article', { name: 'Impression 2' });
  await expect(second.getByText('Built', { exact: true })).toBeVisible({ timeout: 120_000 });

  await compareWithFirst(second);
  await nameAndNote(second);
  await signOff(page, second);

  // Another build does not change what ships.
  await stock.change(
    topic,
    'concept',
    '<title>The lock keeper</title><conbody><p>He opens at noon.</p></conbody>',
  );
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  await expect(
    page.getByRole('article', { name: 'Impression 3' }).getByText('No problems.'),
  ).toBeVisible({ timeout: 120_000 });
  const address = await page
    .getByRole('link', { name: 'The address that stays' })
    .getAttribute('href');
  const shipped = await (
    await page.request.get(address!.replace('index.html', `${topic}.html`))
  ).text();
  expect(shipped).toContain('He opens at nine.');

  // Built again from what went in, it is the same.
  await second.getByRole('button', { name: 'Build again from what went in' }).click();
  await expect(page.getByRole('article', { name: 'Impression 4' })).toContainText(
    'Built again from what went into number 2: the same, byte for byte.',
    { timeout: 120_000 },
  );
  await page.context().clearCookies();
  await signIn(page, 'ines', `/publish/${edition}`);
  await expect(page.getByRole('article', { name: 'Impression 2' })).toContainText(
    /Signed off .* by Teo Marsh/u,
  );
  await expect(
    page.getByRole('button', { name: /Sign off|Take back|Build|Remove with/u }),
  ).toHaveCount(0);
  await page.context().clearCookies();
  await signIn(page, 'teo', `/publish/${edition}`);
  await second.getByRole('button', { name: 'Take back the sign-off' }).click();
  await expect(second.getByRole('list', { name: 'Notes' })).toContainText(
    'Took back the sign-off of Teo Marsh.',
  );
  for (const path of [`editions/${edition}`, `items/${map}`, `items/${topic}`])
    await (await stockOf(page)).remove(path);
});

test('of many problems that are alike a few are shown, and all when asked for', async ({
  page,
}) => {
  await openLibrary(page);
  const stock = await stockOf(page);
  const links = Array.from(
    { length: 12 },
    (_, index) => `<p>See <xref href="topic:nowhere-${index + 1}"/>.</p>`,
  ).join('');
  const topic = await stock.item(
    'concept',
    'Roads that end',
    `<title>Roads that end</title><conbody>${links}</conbody>`,
  );
  const map = await stock.item(
    'map',
    'Book of roads',
    `<title>Book of roads</title><topicref href="topic:${topic}"/>`,
  );
  const edition = await stock.edition('Roads site', map, { output: 'site' });
  await stock.built(edition, 'site/index.html');
  await page.goto(`/publish/${edition}`);
  const card = page.getByRole('article', { name: 'Impression 1' });
  await card.getByRole('button', { name: /12 problems/u }).click();
  const dead = card.getByRole('region', { name: 'Dead links' });
  await expect(dead.getByRole('heading')).toContainText('12');
  await expect(dead.getByRole('listitem')).toHaveCount(6);
  const more = dead.getByRole('button', { name: '6 more of these' });
  await more.focus();
  await page.keyboard.press('Enter');
  await expect(dead.getByRole('listitem')).toHaveCount(12);
  await expect(dead.getByText('nowhere-12')).toBeVisible();
  const fewer = dead.getByRole('button', { name: 'Only a few of these' });
  await expect(fewer).toBeFocused();
  expect(await faults(page)).toEqual([]);
  await page.keyboard.press('Enter');
  await expect(dead.getByRole('listitem')).toHaveCount(6);
  for (const path of [`editions/${edition}`, `items/${map}`, `items/${topic}`])
    await stock.remove(path);
});

/** Lets readers set the model, and holds a build back for missing letters. */
async function setReaderChoices(page: Page, edition: string): Promise<void> {
  await page.goto(`/publish/${edition}`);
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByLabel('Let readers set').selectOption('country');
  await page.getByLabel('Let readers set').selectOption('product');
  await page.getByRole('button', { name: 'Model: earlier' }).click();
  await page.getByLabel('Model: what readers read').fill('Your station');
  await page.getByLabel('Model: at first').selectOption('tern-d');
  await page.getByRole('button', { name: 'Country: not for readers to set' }).click();
  await page.getByText(/^6 of \d+ kinds of problems/u).click();
  await page.getByLabel('Missing letters').check();
  await page.getByRole('button', { name: 'Save edition' }).click();
}

test('readers’ choices and blocking problems are set; a look changes beside the real site', async ({
  page,
}) => {
  await openLibrary(page);
  const stock = await stockOf(page);
  const topic = await stock.item(
    'concept',
    'Both stations',
    '<title>Both stations</title><conbody><p>For all.</p><p product="tern-q">Only on a ' +
      'quay.</p><p product="tern-d">Only in deep water.</p></conbody>',
  );
  const map = await stock.item(
    'map',
    'Book of both',
    `<title>Book of both</title><topicref href="topic:${topic}"/>`,
  );
  const edition = await stock.edition('Site of both', map, { output: 'site' });
  await setReaderChoices(page, edition);
  const saved = async () => {
    const project = await projectOf(page);
    const all = (await (await page.request.get(`${project}/editions`)).json()) as {
      id: string;
      choices: unknown;
      stops: string[];
      look: string;
    }[];
    return all.find(({ id }) => id === edition)!;
  };
  await expect
    .poll(async () => (await saved()).choices)
    .toEqual([{ facet: 'product', label: 'Your station', pick: 'one', preset: ['tern-d'] }]);
  expect((await saved()).stops).toContain('glyphs');

  await page.goto('/looks/harbour');
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect(page).toHaveURL(/harbour-copy/u);
  await page.getByLabel('Edition that is shown').selectOption({ label: 'Site of both' });
  const site = page.frameLocator('iframe');
  await expect(site.getByLabel('Your station')).toHaveValue('tern-d');
  // Keys reach a page that is shown smaller than it is as they do any other; where a pointer is,
  // the test's browser does not know.
  await site
    .locator('#contents')
    .getByRole('link', { name: /Both stations/u })
    .press('Enter');
  await expect(site.getByText('Only in deep water.')).toBeVisible();
  await site.getByLabel('Your station').selectOption('tern-q');
  await expect(site.getByText('Only in deep water.')).toBeHidden();
  await expect(site.getByText('Only on a quay.')).toBeVisible();

  // Colours are seen at once; words that cannot be read are said.
  await page.getByLabel('Head, by day', { exact: true }).fill('#004433');
  await expect(site.locator('.bar')).toHaveCSS('background-color', 'rgb(0, 68, 51)');
  await page.getByLabel('Words of the head, by day').fill('#00503d');
  await expect(page.getByRole('alert')).toContainText(
    '“Words of the head” on “Head” has a contrast of 1.2 by day',
  );
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('alert')).toHaveCount(0);
  // What stands around the pages needs them anew, and they come by themselves.
  await page.getByLabel('Words beside the name').fill('in all weathers');
  await page.getByLabel('Words beside the name').press('Enter');
  await expect(site.locator('.caption')).toHaveText('in all weathers');
  await page.getByText('chapters along the top', { exact: true }).click();
  await expect(site.getByRole('navigation', { name: 'Chapters' })).toBeVisible();
  await page.getByRole('button', { name: 'phone', exact: true }).click();
  await expect(site.locator('#side')).toBeHidden();
  await expect.poll(() => site.locator('html').evaluate(() => window.innerWidth)).toBe(390);
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page).toHaveURL(/looks\/harbour$/u);
  for (const path of [`editions/${edition}`, `items/${map}`, `items/${topic}`])
    await stock.remove(path);
});

test('the proof of a help page follows the text; its choices work and lead back to it', async ({
  page,
}) => {
  await openLibrary(page);
  const stock = await stockOf(page);
  const topic = await stock.item(
    'concept',
    'The fog signal',
    '<title>The fog signal</title><conbody><p>It sounds twice.</p><p product="tern-q">On the ' +
      'quay.</p><ul><li>First of all</li></ul></conbody>',
  );
  const map = await stock.item(
    'map',
    'Book of fog',
    `<title>Book of fog</title><topicref href="topic:${topic}"/>`,
  );
  const edition = await stock.edition('Fog site', map, {
    output: 'site',
    choices: [{ facet: 'product' }],
  });
  await page.goto(`/write/${topic}`);
  await hasCaret(page);
  await page.getByRole('tab', { name: 'Proof' }).click();
  const bench = page.getByRole('complementary', { name: 'Bench' });
  await bench.locator('summary').click();
  await bench.getByRole('checkbox', { name: 'Fog site' }).check();
  const site = page.frameLocator('iframe[title="Fog site"]');
  await expect(site.getByText('It sounds twice.')).toBeVisible();
  await page.locator('p[data-element="p"]').first().click();
  await page.keyboard.press('End');
  await page.keyboard.type(' Then it rests.');
  await expect(site.getByText('It sounds twice. Then it rests.')).toBeVisible();
  await expect(site.locator('[data-caret]')).toHaveText('It sounds twice. Then it rests.');
  // The same page, with the choice that was made before the next key.
  await site.locator('#readers summary').press('Enter');
  await site.getByLabel('Model').selectOption('tern-d');
  await expect(site.getByText('On the quay.')).toBeHidden();
  await page.locator('p[data-element="p"]').first().click();
  await page.keyboard.press('End');
  await page.keyboard.type(' Again.');
  await expect(site.getByText('Then it rests. Again.')).toBeVisible();
  await expect(site.getByText('On the quay.')).toBeHidden();
  // A click on the page leads to the text.
  await site.getByLabel('Model').selectOption('');
  await site.getByText('First of all').dispatchEvent('click');
  await expect(page.locator('#foot-path')).toContainText('Bullet list');
  await page.keyboard.type('And ');
  await expect(
    site.getByText('And First of all').or(site.getByText('First of allAnd')),
  ).toBeVisible();
  await bench.getByRole('checkbox', { name: 'Fog site' }).uncheck();
  for (const path of [`editions/${edition}`, `items/${map}`, `items/${topic}`])
    await stock.remove(path);
});

test('what a lens marks has its colour on a site that the server shows', async ({ page }) => {
  await openLibrary(page);
  const stock = await stockOf(page);
  const { base } = stock;
  const lens = (await (
    await page.request.post(`${base}/lenses`, { data: { name: 'Marks the quay' } })
  ).json()) as { id: string };
  await page.request.post(`${base}/lenses/${lens.id}/decisions`, {
    data: {
      facet: 'product',
      value: 'tern-q',
      action: 'mark',
      look: { color: '#a01c7e', background: '#fff3c4' },
    },
  });
  const topic = await stock.item(
    'concept',
    'At the quay only',
    '<title>At the quay only</title><conbody><p product="tern-q">Hang it on the wall.</p>' +
      '</conbody>',
  );
  const map = await stock.item(
    'map',
    'Book of marks',
    `<title>Book of marks</title><topicref href="topic:${topic}"/>`,
  );
  const edition = await stock.edition('Marked site', map, { output: 'site', lens: lens.id });
  await stock.built(edition, 'site/index.html');
  await page.goto(`/publish/${edition}`);
  const address = await page
    .getByRole('link', { name: 'The address that stays' })
    .getAttribute('href');
  await page.goto(address!.replace('index.html', `${topic}.html`));
  await expect(page.getByText('Hang it on the wall.')).toHaveCSS('color', 'rgb(160, 28, 126)');
  await expect(page.locator('.marked')).toHaveCSS('background-color', 'rgb(255, 243, 196)');
  await page.goto('/library');
  for (const path of [`editions/${edition}`, `items/${map}`, `items/${topic}`, `lenses/${lens.id}`])
    await stock.remove(path);
});
