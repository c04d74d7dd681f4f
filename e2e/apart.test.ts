import { expect, test, type Page } from './test.ts';
import { openLibrary, signIn } from './people.ts';
import { stockOf } from './stock.ts';

/** What a script within a page finds when it reaches for the application. */
const reach = (page: Page): Promise<Record<string, string>> =>
  page.evaluate(async () => {
    const tried = async (act: () => unknown): Promise<string> => {
      try {
        const found = await act();
        return found instanceof Response ? String(found.status) : JSON.stringify(found);
      } catch (error) {
        return (error as Error).name;
      }
    };
    return {
      origin: self.origin,
      cookie: await tried(() => document.cookie),
      storage: await tried(() => localStorage.length),
      session: await tried(() => fetch('/api/session', { credentials: 'include' })),
      frame: await tried(() => top === self || (top as Window).document.title),
    };
  });
const nothing = {
  origin: 'null',
  cookie: 'SecurityError',
  storage: 'SecurityError',
  session: 'TypeError',
};

test('a site opened in the application works fully and cannot reach the application', async ({
  page,
}) => {
  await openLibrary(page);
  const stock = await stockOf(page);
  const topics = [
    await stock.item(
      'concept',
      'The tide bell',
      '<title>The tide bell</title><conbody><p>It rings at high water.</p>' +
        '<p product="tern-q">On the quay.</p><codeblock>ring()</codeblock></conbody>',
    ),
    await stock.item(
      'concept',
      'The tide lamp',
      '<title>The tide lamp</title><conbody><p product="tern-q">Green on the quay.</p></conbody>',
    ),
  ];
  const map = await stock.item(
    'map',
    'Book of tides',
    `<title>Book of tides</title>${topics.map((id) => `<topicref href="topic:${id}"/>`).join('')}`,
  );
  const edition = await stock.edition('Tide site', map, {
    output: 'site',
    choices: [{ facet: 'product' }],
  });
  await stock.built(edition, 'site/index.html');
  await page.goto(`/publish/${edition}`);
  const opening = page.waitForEvent('popup');
  await page.getByRole('link', { name: 'Open', exact: true }).first().click();
  const site = await opening;
  const refused: string[] = [];
  site.on('requestfailed', (request) => {
    // What a page still asks for when another one takes its place is let go.
    if (request.failure()?.errorText !== 'net::ERR_ABORTED') refused.push(request.url());
  });
  await expect(site).toHaveURL(/\/content\/[\w.-]+\/site\/index\.html/u);

  await site.getByLabel('Search').fill('bell');
  await site.getByRole('link', { name: 'The tide bell' }).first().click();
  await expect(site.getByText('On the quay.')).toBeVisible();
  await site.getByLabel('Model').selectOption('tern-d');
  await expect(site.getByText('On the quay.')).toBeHidden();
  await site.getByRole('link', { name: 'The tide lamp' }).first().click();
  await expect(site.getByRole('heading', { name: 'The tide lamp' })).toBeVisible();
  await expect(site.getByText('Green on the quay.')).toBeHidden();
  await site.reload();
  await expect(site.getByText('Green on the quay.')).toBeHidden();
  expect(
    await site.evaluate(async () => {
      await document.fonts.ready;
      return [...document.fonts].filter(({ status }) => status === 'loaded').length;
    }),
  ).toBeGreaterThan(0);
  expect(await reach(site)).toMatchObject(nothing);
  expect(refused.filter((url) => !url.endsWith('/api/session'))).toEqual([]);

  // With its session over, nothing of it is shown any more.
  const address = site.url();
  await page.request.delete('/api/session');
  await expect(async () => {
    await site.goto(address);
    await expect(site.getByRole('heading', { name: 'This address has expired' })).toBeVisible({
      timeout: 1000,
    });
  }).toPass();
  await site.close();
  await openLibrary(page);
  for (const path of [`editions/${edition}`, `items/${map}`, ...topics.map((id) => `items/${id}`)])
    await stock.remove(path);
});

test('a site shown beside the text or beside its look reaches nothing of the application', async ({
  page,
}) => {
  await signIn(page, 'teo', '/looks/harbour');
  const frame = page.frameLocator('iframe');
  await expect(frame.locator('#content')).toBeVisible();
  const inner = page.frames().find((one) => one !== page.mainFrame())!;
  expect(await reach(inner as unknown as Page)).toEqual({ ...nothing, frame: 'SecurityError' });
});

test('an image that nothing shows is deleted from the Library', async ({ page }) => {
  await openLibrary(page, 'noor');
  const { base } = await stockOf(page);
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20">' +
    '<rect width="9" height="9"/></svg>';
  const made = await page.request.post(`${base}/assets`, {
    multipart: { file: { name: 'gull.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(svg) } },
  });
  expect(made.status()).toBe(201);
  await page.reload();
  await page.getByRole('button', { name: /^Images/u }).click();
  await page.getByRole('button', { name: 'About gull.svg' }).click();
  await page.getByRole('button', { name: 'Delete image' }).click();
  await expect(page.getByText('Delete “gull.svg”? This cannot be undone.')).toBeVisible();
  await page.getByRole('button', { name: 'Delete image' }).last().click();
  await expect(page.getByRole('button', { name: 'About gull.svg' })).toHaveCount(0);
  // What is shown somewhere stays, and says where.
  await page
    .getByRole('button', { name: /^About cabinet/u })
    .first()
    .click();
  await page.getByRole('button', { name: 'Delete image' }).click();
  await page.getByRole('button', { name: 'Delete image' }).last().click();
  await expect(page.getByText(/is used in “/u)).toBeVisible();
});
