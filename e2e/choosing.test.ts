import { expect, test, type Page } from './test.ts';
import { compose, type Composition } from '@ukiyo/core/compose';
import { combineLenses, lensOfChosen, type ValuesByFacet } from '@ukiyo/core/facets';
import { textLibrary } from '@ukiyo/core/library';
import { demoContent, folderOf } from './folder.ts';

/** The help site of the demo, on which readers set model, power and country. */
const open = ['product', 'platform', 'country'];
let address = '';
let siteFor: (chosen: ValuesByFacet) => string;
/** The same, with a topic for some models as its home page. */
let withStart = '';

test.beforeAll(async () => {
  const { items, assets, lenses, facets } = await demoContent();
  const byId = new Map(assets.map((asset) => [asset.id, asset]));
  const lens = lenses.find(({ id }) => id === 'reader-chooses')!;
  const base: Composition = {
    library: textLibrary(items, assets),
    map: 'help',
    lens,
    facets,
    deliveryTargets: ['site'],
  };
  const choices = open.map((facet) => ({
    facet,
    label: '',
    pick: facet === 'platform' ? ('many' as const) : ('one' as const),
    preset: [],
  }));
  address = folderOf(compose({ ...base, open }), (id) => byId.get(id), { choices }).address;
  withStart = folderOf(compose({ ...base, open }), (id) => byId.get(id), {
    choices,
    start: 'aim-the-acoustic-head',
  }).address;
  siteFor = (chosen) =>
    folderOf(
      compose({ ...base, lens: combineLenses('', [lens, lensOfChosen(chosen, facets)], facets) }),
      (id) => byId.get(id),
    ).address;
});

const contents = (page: Page) => page.locator('#contents');

test('a topic serves as home page for its readers; others get the title of the site', async ({
  page,
}) => {
  await page.goto(`${withStart}/index.html`);
  const main = page.getByRole('main');
  await expect(main.getByRole('heading', { level: 1 })).toHaveText(/Aim the acoustic head/u);
  await page.getByLabel('Model').selectOption('tern-q');
  await expect(main.getByRole('heading', { level: 1 })).toHaveText('Tern Help');
  await page.reload();
  await expect(main.getByRole('heading', { level: 1 })).toHaveText('Tern Help');
  await page.getByLabel('Model').selectOption('tern-d');
  await expect(main.getByRole('heading', { level: 1 })).toHaveText(/Aim the acoustic head/u);
});

test('a reader’s choices change text, contents, numbers, index, search and the address', async ({
  page,
}) => {
  await page.goto(`${address}/how-the-station-measures.html`);
  await expect(contents(page)).toContainText('A station in deep water');
  await expect(contents(page).getByText('7 Operating the station')).toBeVisible();
  await page.getByLabel('Model').selectOption('tern-q');
  await expect(contents(page)).not.toContainText('A station in deep water');
  await expect(contents(page).getByText('6 Operating the station')).toBeVisible();
  await expect(page.locator('h1')).toContainText('6.1');
  await expect(page.locator('#readers-now')).toHaveText('Tern Q');
  await expect(page).toHaveURL(/for=product%3Atern-q/u);

  // What is for others is neither in the index nor found, in whole pages and in words of a
  // sentence.
  await page.getByRole('searchbox').fill('acoustic');
  await expect(page.locator('#results .count')).toHaveText(/Nothing found|\d+ found/u);
  const forQ = await page.locator('#results').getByRole('link').allTextContents();
  expect(forQ.join()).not.toContain('Aim the acoustic head');
  await page.getByLabel('Model').selectOption('tern-d');
  await expect(
    page.locator('#results').getByRole('link', { name: 'Aim the acoustic head' }),
  ).toBeVisible();
  await page.keyboard.press('Escape');

  // The choice is kept in the browser, and a link carries it to where nothing is kept.
  await page.getByRole('checkbox', { name: 'Solar, 40 W' }).check();
  await page.goto(`${address}/index.html`);
  await expect(page.getByLabel('Model')).toHaveValue('tern-d');
  await expect(page.getByRole('checkbox', { name: 'Solar, 40 W' })).toBeChecked();
  await page.evaluate(() => localStorage.clear());
  await page.goto(page.url());
  await expect(page.locator('#readers-now')).toHaveText('Tern D, Solar, 40 W');
  await page.evaluate(() => localStorage.clear());
  await contents(page).getByRole('link', { name: 'Wiring' }).click();
  await expect(page.locator('h1')).toContainText('Wiring');
  await expect(page.getByLabel('Model')).toHaveValue('tern-d');

  // A page that is for others says so, and gives the way on.
  await page.goto(`${address}/fit-the-bracket.html?for=product%3Atern-d`);
  await expect(page.locator('#not-for-you')).toBeVisible();
  await page.getByRole('button', { name: 'Show all' }).click();
  await expect(page.locator('#not-for-you')).toBeHidden();
  await expect(page.locator('#readers-now')).toHaveText('all');
});

test('related links, steps behind a pause and link texts follow the reader’s choices', async ({
  page,
}) => {
  await page.goto(`${address}/set-the-datum.html`);
  const related = page.locator('section.related');
  await expect(related.getByRole('link', { name: 'Inspect the pile' })).toBeVisible();
  // A list of which nothing is left goes with its heading.
  await page.getByLabel('Model').selectOption('tern-q');
  await expect(related).toBeHidden();
  await page.goto(`${address}/replace-the-battery.html`);
  const panel = related.getByRole('link', { name: 'Connect the solar panel' });
  await expect(panel).toBeVisible();
  await page.getByRole('checkbox', { name: 'Solar, 40 W' }).check();
  await expect(panel).toBeHidden();
  await expect(related.getByRole('link', { name: 'Replace the fuse' })).toBeVisible();
  await page.getByRole('checkbox', { name: 'Solar, 90 W' }).check();
  await expect(panel).toBeVisible();

  const steps =
    '<step product="q"><cmd>Hang the well.</cmd></step><step><cmd>Open the lid.</cmd></step>' +
    '<stepsection>Wait for high water.</stepsection><step id="read"><cmd>Read the ' +
    'staff.</cmd></step>';
  const library = textLibrary([
    { id: 'm', kind: 'map', text: '<map id="m"><title>M</title><topicref href="topic:t"/></map>' },
    {
      id: 't',
      kind: 'topic',
      text:
        `<task id="t"><title>T</title><taskbody><steps>${steps}</steps><result><p>See ` +
        '<xref href="topic:t/read"/>.</p></result></taskbody></task>',
    },
  ]);
  const facets = [
    { name: 'product', label: 'Model', values: ['q', 'd'].map((name) => ({ name, label: name })) },
  ];
  const site = folderOf(
    compose({ library, map: 'm', facets, open: ['product'] }),
    () => undefined,
    { choices: [{ facet: 'product', label: '', pick: 'one', preset: [] }] },
  );
  await page.goto(`${site.address}/t.html`);
  const last = page.locator('ol.steps').last();
  await expect(last).toHaveAttribute('start', '3');
  await expect(page.getByRole('link', { name: 'step 3' })).toBeVisible();
  await page.getByLabel('Model').selectOption('d');
  await expect(last).toHaveAttribute('start', '2');
  await expect(page.getByRole('link', { name: 'step 2' })).toBeVisible();
});

test('what an address says that no edition offers does nothing', async ({ page }) => {
  const failures: string[] = [];
  page.on('pageerror', (error) => failures.push(error.message));
  await page.goto(
    `${address}/index.html?for=${encodeURIComponent(
      'product:<b>,%zz,tern-x;nothing:at-all;country:velmark,kisara;__proto__:x',
    )}`,
  );
  await expect(page.getByLabel('Model')).toHaveValue('');
  // One value where one is to be chosen.
  await expect(page.getByLabel('Country')).toHaveValue('velmark');
  expect(failures).toEqual([]);
});

/** What the scripts of a site make of it: its contents, its index, and what queries find. */
async function madeOf(page: Page, from: string): Promise<unknown> {
  await page.goto(from);
  const tree = await contents(page)
    .locator('li a')
    .evaluateAll((links) => links.map((link) => link.textContent));
  await page.waitForLoadState();
  await page.getByRole('tab', { name: 'Index' }).click();
  await expect(page.locator('.words li').first()).toBeVisible();
  const words = await page
    .locator('.words li')
    .evaluateAll((items) => items.map((item) => item.textContent));
  const found: Record<string, string[]> = {};
  for (const query of ['acoustic sensor', 'plug', 'fuse', 'mains', 'licence', 'bracket', 'watt']) {
    await page.locator('#search').fill(query);
    await expect
      .poll(() => page.evaluate((asked) => window.siteSearch?.find(asked) !== undefined, query))
      .toBe(true);
    found[query] = await page.evaluate(
      (asked) =>
        window
          .siteSearch!.find(asked)
          .map(({ href, title, lead }) => `${href} ${title}: ${lead}`)
          .sort(),
      query,
    );
  }
  return { tree, words, found };
}

for (const [name, chosen, query] of [
  [
    'a Tern Q on mains in Velmark',
    { product: ['tern-q'], platform: ['mains'], country: ['velmark'] },
    'product:tern-q;platform:mains;country:velmark',
  ],
  [
    'a Tern D on the sun in Kisara',
    { product: ['tern-d'], platform: ['solar-40', 'solar-90'], country: ['kisara'] },
    'product:tern-d;platform:solar;country:kisara',
  ],
] as const)
  test(`contents, index and search are those of a site that was built for ${name}`, async ({
    page,
  }) => {
    const theirs = await madeOf(page, `${siteFor(chosen)}/index.html`);
    const shown = await madeOf(page, `${address}/index.html?for=${encodeURIComponent(query)}`);
    expect(shown).toEqual(theirs);
  });
