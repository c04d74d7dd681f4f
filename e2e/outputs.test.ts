import { expect, test } from './test.ts';
import { openLibrary, signIn } from './people.ts';
import { stockOf } from './stock.ts';

test('a bundle of editions is put together, built and opened', async ({ page }) => {
  await openLibrary(page);
  const stock = await stockOf(page);
  const topic = await stock.item(
    'concept',
    'The sluice',
    '<title>The sluice</title><conbody><p>It opens at seven.</p></conbody>',
  );
  const map = await stock.item(
    'map',
    'Book of the sluice',
    `<title>Book of the sluice</title><topicref href="topic:${topic}"/>`,
  );
  const site = await stock.edition('Sluice site', map, { output: 'site' });
  const folder = await stock.edition('Sluice in Markdown', map, { output: 'markdown' });
  await page.goto('/publish/new');
  await page.getByLabel('Name', { exact: true }).fill('All of the sluice');
  await page.locator('[data-setting=output] .n-base-selection').click();
  await page.locator('.n-base-select-option').filter({ hasText: 'Bundle of editions' }).click();
  const save = page.getByRole('button', { name: 'Save edition' });
  await expect(save).toBeDisabled();
  await page.getByLabel('Editions in it: add').selectOption({ label: 'Sluice in Markdown' });
  await page.getByLabel('Editions in it: add').selectOption({ label: 'Sluice site' });
  await page.getByRole('button', { name: 'Sluice site: earlier' }).click();
  await expect(page.getByRole('list', { name: 'Editions in it' }).getByRole('listitem')).toHaveText(
    ['Sluice site', 'Sluice in Markdown'],
  );
  await save.click();
  await expect(
    page.getByText('2 editions in one archive: Sluice site, Sluice in Markdown'),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Build', exact: true }).click();
  const built = page.getByRole('article', { name: 'Impression 1' });
  await expect(built.getByText('No problems.')).toBeVisible({ timeout: 120_000 });
  const opening = page.waitForEvent('popup');
  await built.getByRole('link', { name: 'Open' }).click();
  const opened = await opening;
  await opened.getByRole('link', { name: 'Sluice site' }).click();
  await expect(opened.getByRole('heading', { level: 1 })).toHaveText('Book of the sluice');
  const bundle = /publish\/([\w-]+)/u.exec(page.url())![1]!;
  for (const id of [bundle, site, folder]) await stock.remove(`editions/${id}`);
  for (const id of [map, topic]) await stock.remove(`items/${id}`);
});

test('a setting is found among all editions, and its field is there to be changed', async ({
  page,
}) => {
  await signIn(page, 'teo', '/publish');
  await page.getByLabel('Find a setting of any edition').fill('address interface');
  const found = page.getByRole('list', { name: 'Settings found' });
  await expect(found.getByRole('listitem')).toHaveText([
    'Address: https://help.brinewell.example/interface/Tern Station Interface',
  ]);
  await found.getByRole('link').click();
  await expect(
    page.getByRole('heading', { name: 'Tern Station Interface', level: 1 }),
  ).toBeVisible();
  await expect(page.getByLabel('Address')).toBeFocused();
  await page.getByLabel('Find a setting of any edition').fill('no setting is called so');
  await expect(page.getByText('No setting says so.')).toBeVisible();
});

test('a token is created, shown once and revoked; the outbox says that it is a stand-in', async ({
  page,
}) => {
  await signIn(page, 'teo', '/publish');
  await page.getByRole('link', { name: 'Tokens and messages' }).click();
  await page.getByLabel('Name of the token').fill('Pipeline of the harbour');
  await page.getByLabel('Access').selectOption('read');
  await page.getByLabel('Expires in').last().selectOption('30');
  await page.getByRole('button', { name: 'Create token' }).click();
  const secret = await page.locator('.made code').textContent();
  expect(
    (
      await page.request.get('/api/session', {
        headers: { authorization: `Bearer ${secret}`, cookie: '' },
      })
    ).status(),
  ).toBe(200);
  await page.reload();
  await expect(page.getByRole('row', { name: /Pipeline of the harbour/u })).toContainText('Read');
  await expect(page.locator('.made')).toHaveCount(0);
  await page.getByRole('button', { name: 'Revoke the token Pipeline of the harbour' }).click();
  await expect(page.getByRole('row', { name: /Pipeline of the harbour/u })).toHaveCount(0);
  expect(
    (
      await page.request.get('/api/session', {
        headers: { authorization: `Bearer ${secret}`, cookie: '' },
      })
    ).status(),
  ).toBe(401);

  await page.getByLabel('Address', { exact: true }).fill('nobody');
  await page.getByRole('button', { name: 'Add notification' }).click();
  await expect(page.getByRole('alert')).toContainText('Enter an e-mail address');
  await page.getByLabel('Address', { exact: true }).fill('harbour@brinewell.example');
  await page.getByLabel('is built', { exact: true }).check();
  await page.getByRole('button', { name: 'Add notification' }).click();
  await expect(
    page.getByRole('listitem').filter({ hasText: 'harbour@brinewell.example' }),
  ).toContainText('when any edition is built, cannot be built, is signed off');
  await expect(page.getByText('Simulated: nothing leaves this server.')).toBeVisible();
  await page
    .getByRole('button', { name: 'Remove the notification of harbour@brinewell.example' })
    .click();
  await expect(
    page.getByRole('button', { name: 'Remove the notification of harbour@brinewell.example' }),
  ).toHaveCount(0);
});

test('chosen editions are built together, and everybody sees which builds are running', async ({
  page,
  browser,
}) => {
  await signIn(page, 'teo', '/publish');
  const elsewhere = await browser.newPage();
  await signIn(elsewhere, 'noor', '/publish');
  await expect(
    elsewhere.getByRole('link', { name: /^Handbook for partners DITA package/u }),
  ).toBeVisible();
  const seen = elsewhere
    .getByRole('status')
    .filter({ hasText: /on the way:.*(Handbook for partners|Station Interface for notebooks)/u });
  const list = page.getByRole('complementary', { name: 'Editions' });
  for (const name of ['Handbook for partners', 'Station Interface for notebooks'])
    await list.getByRole('checkbox', { name: `Build ${name} with others` }).check();
  const before = await page.evaluate(
    async () =>
      (await (await fetch(`${location.origin}/api/session`)).json()) as {
        projects: { id: string }[];
      },
  );
  const impressions = async (): Promise<{ editionName: string; state: string }[]> =>
    page.evaluate(
      async (project) =>
        (await (await fetch(`/api/projects/${project}/impressions`)).json()) as {
          editionName: string;
          state: string;
        }[],
      before.projects[0]!.id,
    );
  const others = (all: { editionName: string }[]): number =>
    all.filter(({ editionName }) => editionName === 'Everything at the quay').length;
  const was = others(await impressions());
  await list.getByRole('button', { name: 'Build the 2 chosen' }).click();
  await expect(seen).toBeVisible();
  await expect(list.getByRole('button', { name: /^Build all \d+$/u })).toBeVisible();
  for (const name of [
    'Handbook for partners DITA package',
    'Station Interface for notebooks Markdown folder',
  ])
    for (const one of [list, elsewhere])
      await expect(
        one.getByRole('link', { name: new RegExp(`^${name} · no. \\d+, done`, 'u') }),
      ).toBeVisible();
  await elsewhere.close();
  expect(others(await impressions())).toBe(was);
});
