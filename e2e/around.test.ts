import { join } from 'node:path';
import { expect, test } from './test.ts';
import { compose, withChangeBars } from '@ukiyo/core/compose';
import { textLibrary } from '@ukiyo/core/library';
import { shippedLooks } from '@ukiyo/core/styles';
import { siteAddress } from '@ukiyo/press';
import { faults } from './faults.ts';
import { demoContent, folderOf, newFolder } from './folder.ts';

/** What stands around the pages of a site: each in a folder, without a server. */
let address = '';
/** The same with a folder for each chapter. */
let inFolders = '';
test.beforeAll(async () => {
  const content = await demoContent();
  const assets = new Map(content.assets.map((asset) => [asset.id, asset]));
  const lens = content.lenses.find(({ id }) => id === 'installer-tern-q')!;
  const now = compose({
    library: textLibrary(content.items, content.assets),
    map: 'help',
    lens,
    facets: content.facets,
  });
  const publication = withChangeBars(now, {
    ...now,
    places: now.places.filter(({ label }) => label !== 'Wiring'),
  });
  const look = { ...shippedLooks['harbour']!, feedback: 'help@brinewell.example' };
  address = folderOf(publication, (id) => assets.get(id), {
    look,
    synonyms: [['accumulator', 'battery']],
  }).address;
  inFolders = folderOf(publication, (id) => assets.get(id), {
    look: { ...look, layout: 'chapters along the top' },
    folders: 'chapters',
  }).address;
});
test('the contents fold and widen by mouse and keys, and stay so on the next page', async ({
  page,
}) => {
  await page.goto(`${address}/fit-the-bracket.html`);
  const side = page.getByRole('navigation', { name: 'Contents and index' });
  const width = async (): Promise<number> => Math.round((await side.boundingBox())!.width);
  const edge = page.getByRole('separator', { name: 'Width of the contents' });
  const first = await width();
  await edge.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  expect(await width()).toBe(first + 40);
  const box = (await edge.boundingBox())!;
  await page.mouse.move(box.x + 4, 400);
  await page.mouse.down();
  await page.mouse.move(box.x - 76, 400, { steps: 4 });
  await page.mouse.up();
  await expect.poll(width).toBeLessThan(first + 10);
  const pulled = await width();
  await page.goto(`${address}/wiring.html`);
  expect(await width()).toBe(pulled);
  await page.getByRole('button', { name: 'Contents and index' }).click();
  await expect(side).toBeHidden();
  await page.goto(`${address}/fit-the-bracket.html`);
  await expect(side).toBeHidden();
  await page.getByRole('button', { name: 'Contents and index' }).click();
  await expect(side).toBeVisible();
});

test('a page lists its parts, enlarges images, and tells letters where they come from', async ({
  page,
}) => {
  await page.setViewportSize({ width: 1400, height: 800 });
  await page.goto(`${address}/terminal-strip.html`);
  const letter = new URL((await page.locator('#feedback').getAttribute('href'))!);
  expect(letter.pathname).toBe('help@brinewell.example');
  expect(letter.searchParams.get('subject')).toContain('Terminal strip');
  expect(letter.searchParams.get('body')).toContain('terminal-strip.html');
  await page.goto(`${address}/fit-the-bracket.html`);
  const here = page.getByRole('navigation', { name: 'On this page' });
  await here.getByRole('link').last().click();
  expect(page.url()).toContain('#');
  await page.getByRole('button', { name: 'Enlarge' }).first().click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('img')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(dialog).toHaveCount(0);
});

test('heads of long tables stay in sight', async ({ page }) => {
  await page.goto(`${address}/alarm-codes.html`);
  const head = page.locator('thead th').first();
  await page.locator('tbody tr').last().scrollIntoViewIfNeeded();
  await expect(head).toBeInViewport();
  const bar = (await page.getByRole('banner').boundingBox())!;
  expect(Math.abs((await head.boundingBox())!.y - (bar.y + bar.height))).toBeLessThan(2);
  // All rows of a head stay, one below the other.
  await page
    .locator('thead')
    .evaluate((rows) => rows.append(rows.firstElementChild!.cloneNode(true)));
  const second = (await page.locator('thead tr').last().locator('th').first().boundingBox())!;
  const first = (await head.boundingBox())!;
  expect(Math.abs(first.y - (bar.y + bar.height))).toBeLessThan(2);
  expect(Math.abs(second.y - (first.y + first.height))).toBeLessThan(2);
  // Where the table is told row by row there is no head to keep.
  await page.setViewportSize({ width: 390, height: 800 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(
    true,
  );
});

test('the glossary is one click away, news are marked, and synonyms find a page', async ({
  page,
}) => {
  await page.goto(`${address}/index.html`);
  await expect(page.locator('.since')).toContainText('Wiring');
  await expect(
    page.locator('#contents').getByRole('listitem').filter({ hasText: 'Wiring' }),
  ).toContainText('New');
  await page.getByRole('link', { name: 'Glossary', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Glossary');
  await expect(page.getByRole('definition').first()).toContainText(
    'The cone in which the acoustic head hears.',
  );
  expect(await faults(page)).toEqual([]);
  await page.keyboard.press('/');
  await page.keyboard.type('replace accumulator');
  await expect(page.locator('#results').getByRole('link').first()).toHaveText(
    'Replace the battery',
  );
  await page.locator('#results').getByRole('link').first().click();
  await expect(
    page
      .locator('mark')
      .filter({ hasText: /battery/iu })
      .first(),
  ).toBeVisible();
});

test('an application opens a topic by its id; an id that nobody knows is looked for', async ({
  page,
}) => {
  await page.goto(`${address}/help.html?id=BATTERY`);
  await expect(page).toHaveURL(/replace-the-battery\.html$/u);
  await page.goto(`${address}/help.html?id=battery-tray`);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('There is no such page');
  await expect(page.locator('#results').getByRole('link').first()).toBeVisible();
});

test('another language is one step away, on the same topic, at the same place', async ({
  page,
}) => {
  const texts = (word: string) =>
    textLibrary([
      {
        id: 'm',
        kind: 'map',
        text:
          '<map id="m"><title>Small help</title><topicref href="topic:care"/>' +
          '<topicref href="topic:salt"/></map>',
      },
      {
        id: 'care',
        kind: 'topic',
        text:
          `<concept id="care"><title>${word}</title><conbody><section id="dry">` +
          '<title>Dry</title><p>It.</p></section></conbody></concept>',
      },
      {
        id: 'salt',
        kind: 'topic',
        text: '<concept id="salt"><title>Salt</title><conbody/></concept>',
      },
    ]);
  const [english, german] = [
    compose({ library: texts('Care'), map: 'm' }),
    compose({ library: texts('Pflege'), map: 'm', locale: 'de' }),
  ];
  const folder = newFolder();
  const to = (locale: string, publication: typeof english) => ({
    locale,
    address: (anchor: string | undefined) =>
      `../${locale}/${(anchor && siteAddress(publication, anchor)) ?? 'index.html'}`,
  });
  const { address: here } = folderOf(
    english,
    undefined,
    { siblings: [to('de', german)] },
    join(folder, 'en'),
  );
  folderOf(german, undefined, { siblings: [to('en', english)] }, join(folder, 'de'));
  await page.goto(
    `${here}/care.html#${Object.keys(english.targets).find((anchor) => anchor.includes('dry'))}`,
  );
  await page.getByText('English', { exact: true }).click();
  expect(await faults(page)).toEqual([]);
  await page.getByRole('link', { name: 'Deutsch' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Pflege');
  expect(page.url()).toMatch(/de\/care\.html#.*dry/u);
  await expect(page.locator('html')).toHaveAttribute('lang', 'de');
});

test('a site with a folder for each chapter works from all of its pages', async ({ page }) => {
  const missing: string[] = [];
  page.on('requestfailed', (request) => missing.push(request.url()));
  await page.goto(`${inFolders}/index.html`);
  await page
    .getByRole('navigation', { name: 'Chapters' })
    .getByRole('link', { name: 'Mounting the station', exact: true })
    .click();
  await expect(page).toHaveURL(/\/[a-z-]+\/index\.html$/u);
  await expect(page.locator('#chapters a.on')).toHaveText('Mounting the station');
  await page.locator('#contents').getByRole('link', { name: 'Fit the bracket' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Fit the bracket');
  await expect(page.locator('#contents [aria-current="page"]')).toContainText('Fit the bracket');
  await page.getByRole('tab', { name: 'Index' }).click();
  await page.getByRole('searchbox', { name: 'Type to narrow the index' }).fill('menus');
  await page.locator('#words').getByRole('link').first().click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Menu tree');
  await page.keyboard.press('/');
  await page.keyboard.type('battery');
  await page.locator('#results').getByRole('link', { name: 'Replace the battery' }).click();
  await expect(page.locator('mark').first()).toBeVisible();
  expect(new URL(page.url()).pathname.replace(new URL(inFolders).pathname, '')).toMatch(
    /^\/[a-z-]+\/replace-the-battery\.html$/u,
  );
  await page
    .getByRole('navigation', { name: 'Contents', exact: true })
    .getByRole('link')
    .first()
    .click();
  await expect(page).toHaveURL(`${inFolders}/index.html`);
  expect(missing).toEqual([]);
});

test('areas on an image lie where their things are on a phone too', async ({ page }) => {
  for (const width of [1280, 390]) {
    await page.setViewportSize({ width, height: 800 });
    await page.goto(`${address}/which-way-to-look.html`);
    const area = page.locator('area').nth(1);
    const drawn = await page
      .locator('img[usemap]')
      .evaluate((image: HTMLImageElement) => image.naturalWidth);
    const box = (await page.locator('img[usemap]').boundingBox())!;
    if (width === 390) expect(box.width).toBeLessThan(drawn);
    await expect
      .poll(async () => Math.max(...(await area.getAttribute('coords'))!.split(',').map(Number)))
      .toBeLessThanOrEqual(Math.max(box.width, box.height));
    await page.locator('img[usemap]').scrollIntoViewIfNeeded();
    const shown = (await page.locator('img[usemap]').boundingBox())!;
    const [left, top, right, bottom] = (await area.getAttribute('coords'))!
      .split(',')
      .map(Number) as [number, number, number, number];
    const wanted = await area.getAttribute('href');
    await page.mouse.click(shown.x + (left + right) / 2, shown.y + (top + bottom) / 2);
    await expect(page).toHaveURL(new RegExp(`${wanted}$`, 'u'));
  }
});

test('all parts of a page are opened at once, and closed again', async ({ page }) => {
  const part = (id: string): string =>
    `<section id="${id}" outputclass="expandable"><title>${id}</title><p>About ${id}.</p>` +
    '</section>';
  const library = textLibrary([
    {
      id: 'm',
      kind: 'map',
      text: '<map id="m"><title>M</title><topicref href="topic:care"/></map>',
    },
    {
      id: 'care',
      kind: 'topic',
      text:
        '<concept id="care"><title>Care</title><conbody><p>Dry ' +
        '<ph outputclass="expandable">with a ' +
        `cloth</ph>.</p>${part('salt')}${part('sand')}</conbody></concept>`,
    },
  ]);
  await page.goto(`${folderOf(compose({ library, map: 'm' })).address}/care.html`);
  const all = [
    page.getByText('About salt.'),
    page.getByText('About sand.'),
    page.getByText('with a cloth'),
  ];
  for (const one of all) await expect(one).toBeHidden();
  await page.getByRole('button', { name: 'Open all' }).click();
  for (const one of all) await expect(one).toBeVisible();
  await page.getByRole('button', { name: 'Close all' }).click();
  for (const one of all) await expect(one).toBeHidden();
});

test('a printed page has its text alone, opened in full; code is copied with one click', async ({
  page,
  context,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  const topic =
    '<concept id="code"><title>Codes</title><conbody><p>Send it ' +
    '<ph outputclass="expandable">by radio</ph>.</p><codeblock outputclass="language-json">{ ' +
    '"tide": 2 }</codeblock><section outputclass="expandable"><title>Why</title><p>Somebody ' +
    'waits.</p></section></conbody></concept>';
  const library = textLibrary([
    {
      id: 'm',
      kind: 'map',
      text: '<map id="m"><title>Small help</title><topicref href="topic:code"/></map>',
    },
    { id: 'code', kind: 'topic', text: topic },
  ]);
  const { address: small } = folderOf(compose({ library, map: 'm' }), undefined, {
    look: { ...shippedLooks['harbour']!, feedback: 'help@brinewell.example' },
  });
  await page.goto(`${small}/code.html`);
  await page.getByRole('button', { name: 'Copy' }).click();
  await expect(page.getByRole('button', { name: 'Copied' })).toBeVisible();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toBe('{ "tide": 2 }');
  const closed = [page.getByText('by radio'), page.getByText('Somebody waits.')];
  for (const one of closed) await expect(one).toBeHidden();
  await page.emulateMedia({ media: 'print' });
  for (const one of closed) await expect(one).toBeVisible();
  for (const around of ['.bar', '#side', '.crumbs', '.way', '.feedback', '.copy', '.more'])
    await expect(page.locator(around), around).toBeHidden();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Codes');
});
