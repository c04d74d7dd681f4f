import { expect, test, type Page } from './test.ts';
import { faults } from './faults.ts';
import { isSaved, stored } from './pages.ts';
import { openLibrary } from './people.ts';
import { stockOf } from './stock.ts';
import { xml } from './xml.ts';

const entry = (page: Page, title: string) =>
  page
    .getByRole('treeitem')
    .filter({ has: page.locator('.title', { hasText: new RegExp(`^${title}$`, 'u') }) });

async function isAccessible(page: Page): Promise<void> {
  expect(await faults(page)).toEqual([]);
}

// In one file, one after the other: the second asks what the editions have in common.
test('topics by editions tell what appears where, and by which rule not', async ({ page }) => {
  await openLibrary(page);
  const stock = await stockOf(page);
  const map = await stock.item(
    'map',
    'Quay card',
    '<title>Quay card</title><topicref href="topic:alarms"/>' +
      '<topicref href="topic:raise-the-mast" product="tern-d"/>',
  );
  const id = await stock.edition('Quay card', map, { lens: 'installer-tern-q' });

  const shelved = await stock.item(
    'concept',
    'Left on the shelf',
    '<title>Left on the shelf</title>',
  );

  await page.goto('/appearances');
  const table = page.getByRole('table', { name: 'Topics by editions' });
  await page.getByLabel('Which topics').selectOption('where editions differ');
  const filter = page.getByLabel('Filter topics');
  await filter.fill('raise the mast');
  await expect(table.getByRole('row', { name: /^Raise the mast/u })).toContainText(
    /dropped \(an entry of the map: Model is Tern D, which “installer-tern-q” drops\)/u,
  );
  await expect(table.getByRole('row', { name: /^Raise the mast/u })).toContainText(
    /3\.\d \(Raise the mast\)/u,
  );
  await filter.fill('safety at the quay');
  await expect(table.getByRole('row', { name: /^Safety at the quay/u })).toBeVisible();
  await isAccessible(page);
  // What is in no edition differs nowhere.
  await filter.fill('left on the shelf');
  await expect(page.getByText('0 topics', { exact: true })).toBeVisible();
  await page.getByLabel('Which topics').selectOption('in no edition');
  await expect(table.getByRole('row', { name: /^Left on the shelf/u })).toBeVisible();
  await filter.fill('no such topic');
  await expect(page.getByText('0 topics', { exact: true })).toBeVisible();
  await stock.remove(`editions/${id}`);
  for (const item of [map, shelved]) await stock.remove(`items/${item}`);
});

/** Two books: of a yard, with a topic that is approved, and of a leaflet that leads into it. */
async function yardAndLeaflet(stock: Awaited<ReturnType<typeof stockOf>>) {
  const approved =
    '<prolog><metadata><othermeta name="state" content="approved"/></metadata></prolog>';
  const hull = await stock.item(
    'concept',
    'Hull care',
    `<title>Hull care</title>${approved}<conbody><p>Scrub it.</p></conbody>`,
  );
  const paint = await stock.item(
    'concept',
    'Paint',
    '<title>Paint</title><conbody><p>Two coats.</p></conbody>',
  );
  const buoy = await stock.item(
    'concept',
    'Marker',
    `<title>Marker</title><conbody><p>Before winter: <xref href="topic:${paint}"/>.</p></conbody>`,
  );
  const yard = await stock.item(
    'map',
    'Yard book',
    `<title>Yard book</title><topicref href="topic:${hull}"><topicref href="topic:${paint}"/>` +
      '</topicref>',
  );
  const leaflet = await stock.item(
    'map',
    'Buoy leaflet',
    `<title>Buoy leaflet</title><topicref href="topic:${buoy}"/>`,
  );
  return { hull, paint, buoy, yard, leaflet };
}

/** One page for all topics below another, a column with states, and a topic without heading. */
async function arrangeYard(page: Page, yard: string): Promise<void> {
  await page.goto(`/arrange/${yard}`);
  await entry(page, 'Hull care').click();
  await page.getByLabel('one page with all that stands under it').check();
  await expect(entry(page, 'Hull care')).toContainText('one page');
  await page.getByText('Columns').click();
  await page.getByRole('checkbox', { name: 'State', exact: true }).check();
  await expect(entry(page, 'Hull care')).toContainText('approved');
  await expect(entry(page, 'Paint')).not.toContainText('approved');
  await page.getByRole('checkbox', { name: 'State', exact: true }).uncheck();
  await page.keyboard.press('Escape');
  await entry(page, 'Paint').click();
  await expect(page.getByText('It stands on the page of the topic above.')).toBeVisible();
  await page.getByLabel('without its heading, also in print').check();
  await isSaved(page);
  expect(await stored(page)).toMatch(
    xml`chunk="to-content" href="topic:hull-care">
      <topicref href="topic:paint" outputclass="without-heading"/>`,
  );
}

/** Takes the other book in as another publication. */
async function arrangeLeaflet(page: Page, leaflet: string): Promise<void> {
  await page.goto(`/arrange/${leaflet}`);
  await page
    .getByRole('listitem')
    .filter({ hasText: 'Yard book' })
    .dragTo(entry(page, 'Marker'), { targetPosition: { x: 80, y: 26 } });
  await expect(page.getByRole('treeitem')).toHaveCount(2);
  await entry(page, 'Yard book').click();
  await page.getByLabel('another publication: nothing of it is taken in').check();
  await expect(entry(page, 'Yard book')).toContainText('another publication');
  await page.getByLabel('Its variables begin with').fill('yard');
  await page.getByLabel('Its variables begin with').press('Tab');
  await isSaved(page);
  expect(await stored(page)).toContain(
    '<topicref format="ditamap" href="map:yard-book" keyscope="yard" ' +
      'processing-role="resource-only" scope="peer"/>',
  );
}

test('a map can be another publication; topics share a page; states are a column', async ({
  page,
}) => {
  await openLibrary(page);
  const stock = await stockOf(page);
  const { hull, paint, buoy, yard, leaflet } = await yardAndLeaflet(stock);
  const yardSite = await stock.edition('Yard book online', yard, { output: 'site' });
  const leafletSite = await stock.edition('Buoy leaflet online', leaflet, { output: 'site' });

  await arrangeYard(page, yard);
  await arrangeLeaflet(page, leaflet);
  await isAccessible(page);

  expect(await stock.built(leafletSite, 'site/marker.html')).toContain(
    'Paint (<cite>Yard book</cite>)',
  );
  await page.goto('/publish');
  await page.getByRole('link', { name: /Yard book online/u }).click();
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByLabel('Address').fill('javascript:alert(1)');
  await page.getByRole('button', { name: 'Save edition' }).click();
  await expect(page.getByText('An address begins with https:// or says the way')).toBeVisible();
  await page.getByLabel('Address').fill('../yard/');
  await page.getByRole('button', { name: 'Save edition' }).click();
  await expect
    .poll(() => stock.built(leafletSite, 'site/marker.html'))
    .toContain('<a href="../yard/hull-care.html#paint" class="peer" title="Yard book">Paint</a>');
  const page1 = await stock.built(yardSite, 'site/hull-care.html');
  expect(page1).toMatch(/<section class="joined" id="paint"><p>Two coats\.<\/p>/u);
  for (const id of [yardSite, leafletSite]) await stock.remove(`editions/${id}`);
  for (const id of [yard, leaflet, buoy, paint, hull]) await stock.remove(`items/${id}?by=${hull}`);
});
