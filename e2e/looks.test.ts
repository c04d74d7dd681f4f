import type { Designs } from '@ukiyo/contracts';
import { expect, test, type Page } from './test.ts';
import { shippedLooks } from '../packages/core/styles/index.ts';
import { projectOf } from './pages.ts';
import { openLibrary } from './people.ts';
import { stockOf } from './stock.ts';

const captions = async (page: Page): Promise<Record<string, string>> => {
  const answer = await page.request.get(`${await projectOf(page)}/designs`);
  const { looks } = (await answer.json()) as Designs;
  return Object.fromEntries(looks.map(({ id, content }) => [id, content.caption]));
};

test('a look is saved under its own name; one that two people change is nobody’s loss', async ({
  page,
}) => {
  await openLibrary(page);
  const { base } = await stockOf(page);
  const put = async (id: string, version: number, caption: string): Promise<void> => {
    const content = { ...shippedLooks['slipway']!, name: `Look ${id}`, caption };
    const answer = await page.request.put(`${base}/designs/looks/${id}`, {
      data: { version, content },
    });
    expect(answer.status()).toBe(200);
  };
  await put('ebb', 0, 'low');
  await put('flow', 0, 'high');
  await page.goto('/looks/ebb');
  const caption = page.getByLabel('Words beside the name');
  await expect(caption).toHaveValue('low');

  // On to another one before the first is saved.
  await caption.fill('lower');
  await caption.press('Enter');
  await page.getByRole('link', { name: 'Look flow' }).click();
  await expect(caption).toHaveValue('high');
  await expect.poll(() => captions(page)).toMatchObject({ ebb: 'lower', flow: 'high' });

  // Somebody else saves it meanwhile: both are there until one is chosen.
  await put('flow', 1, 'theirs');
  await caption.fill('mine');
  await caption.press('Enter');
  const notice = page.getByRole('alert');
  await expect(notice).toContainText('Another person saved this site look after you opened it.');
  await notice.getByRole('button', { name: 'Show theirs' }).click();
  await expect(caption).toHaveValue('theirs');
  await put('flow', 2, 'theirs again');
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(caption).toHaveValue('mine');
  await notice.getByRole('button', { name: 'Save mine over it' }).click();
  await expect(notice).toBeHidden();
  await expect.poll(() => captions(page)).toMatchObject({ flow: 'mine' });
  for (const id of ['ebb', 'flow']) await page.request.delete(`${base}/designs/looks/${id}`);
});

test('a site beside its look that fails to load says so; a reload that it missed is repeated', async ({
  page,
}) => {
  await openLibrary(page);
  const stock = await stockOf(page);
  const content = { ...shippedLooks['slipway']!, name: 'Look of the quay', caption: 'before' };
  await page.request.put(`${stock.base}/designs/looks/quay`, {
    data: { version: 0, content },
  });
  const map = await stock.item('map', 'Book of the quay', '<title>Book of the quay</title>');
  const edition = await stock.edition('Site of the quay', map, { output: 'site', look: 'quay' });
  const site = page.frameLocator('iframe');

  await page.route('**/content/**', (route) => route.fulfill({ status: 500, body: 'no' }));
  await page.goto('/looks/quay');
  const notice = page.getByRole('alert');
  await expect(notice).toContainText('The site could not be loaded.');
  await page.unroute('**/content/**');
  // From here on the script that takes orders comes late.
  let release = (): void => undefined;
  const held = new Promise<void>((resolve) => (release = resolve));
  await page.route('**/proofed.js', async (route) => {
    await held;
    await route.continue();
  });
  await notice.getByRole('button', { name: 'Load site again' }).click();
  await expect(site.locator('.caption')).toHaveText('before');
  await page.getByLabel('Words beside the name').fill('after');
  await page.getByLabel('Words beside the name').press('Enter');
  await expect.poll(() => captions(page)).toMatchObject({ quay: 'after' });
  release();
  await expect(site.locator('.caption')).toHaveText('after');
  await expect(notice).toHaveCount(0);
  // While the site of another look is on its way, nothing in the frame leads on in the old one.
  await page.unrouteAll();
  const other = new Promise<void>((resolve) => (release = resolve));
  await page.route('**/proof/site/slipway/**', async (route) => {
    await other;
    await route.continue();
  });
  await page.getByRole('link', { name: 'Slipway' }).click();
  await expect(page).toHaveURL(/looks\/slipway$/u);
  const shown = (): string[] =>
    page.frames().flatMap((one) => (one.url().includes('/content/') ? [one.url()] : []));
  await expect.poll(shown).toEqual([]);
  release();
  await expect(site.locator('.bar')).toBeVisible();
  await expect(site.locator('.caption')).toHaveCount(0);
  await page.goto('/looks/quay');
  await expect(site.locator('.caption')).toHaveText('after');
  for (const path of [`editions/${edition}`, `items/${map}`, 'designs/looks/quay'])
    await stock.remove(path);
});
