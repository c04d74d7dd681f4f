import { expect, test, type Browser, type Page } from './test.ts';
import { isSaved, newTopic, projectOf, stored } from './pages.ts';
import { openLibrary, signIn } from './people.ts';
import { stockOf } from './stock.ts';

/** A second person in a browser of their own. */
async function other(
  browser: Browser,
  name: 'ada' | 'noor' | 'ines',
  address: string,
): Promise<Page> {
  const page = await (await browser.newContext()).newPage();
  await signIn(page, name, address);
  await expect(page.locator('.ProseMirror')).toBeVisible();
  return page;
}
const line = (page: Page, text: string) => page.locator('.ProseMirror').getByText(text);

test('two people write in one topic, see each other, and undo only what is theirs', async ({
  page,
  browser,
}) => {
  await signIn(page);
  await newTopic(page, 'Concept', 'Tides at the quay');
  const noor = await other(browser, 'noor', page.url());
  await expect(page.getByRole('list', { name: 'Also here' })).toContainText('Noor');
  await expect(noor.getByRole('list', { name: 'Also here' })).toContainText('Teo');

  await page.locator('.ProseMirror .is-conbody p').click();
  await page.keyboard.type('The sea rises twice a day.');
  await expect(line(noor, 'The sea rises twice a day.')).toBeVisible();
  await expect(noor.locator('.other-caret')).toHaveAttribute('data-name', /Teo/u);

  await noor.locator('.ProseMirror .is-shortdesc').click();
  await Promise.all([
    noor.keyboard.type('Why the water moves.', { delay: 15 }),
    page.keyboard.type(' And it falls again.', { delay: 15 }),
  ]);
  for (const one of [page, noor]) {
    await expect(line(one, 'Why the water moves.')).toBeVisible();
    await expect(line(one, 'The sea rises twice a day. And it falls again.')).toBeVisible();
  }
  await page.keyboard.press('Control+z');
  await expect(line(noor, 'Why the water moves.')).toBeVisible();
  await expect(line(noor, 'And it falls again.')).toBeHidden();
  await isSaved(page);
  await expect.poll(() => stored(page)).toContain('Why the water moves.');
  await noor.context().close();
  await expect(page.getByRole('list', { name: 'Also here' })).toBeHidden();
});

/** A line that can be cut and mended. */
async function cuttable(page: Page): Promise<{ cut: () => Promise<void>; mend: () => void }> {
  let isCut = false;
  const open = new Set<{ close: () => Promise<void> }>();
  await page.routeWebSocket(/\/live\//u, (socket) => {
    if (isCut) return void socket.close();
    const server = socket.connectToServer();
    open.add(socket).add(server);
  });
  return {
    async cut() {
      isCut = true;
      await Promise.all([...open].map((end) => end.close()));
      open.clear();
    },
    mend: () => (isCut = false),
  };
}

test('what is typed offline is kept through a reload and merged afterwards', async ({
  page,
  browser,
}) => {
  page.on('dialog', (dialog) => void dialog.accept());
  const road = await cuttable(page);
  await signIn(page);
  await newTopic(page, 'Concept', 'Ropes and knots');
  const noor = await other(browser, 'noor', page.url());
  await page.locator('.ProseMirror .is-conbody p').click();
  await page.keyboard.type('Tie it twice.');
  await expect(line(noor, 'Tie it twice.')).toBeVisible();

  await road.cut();
  await expect(page.getByText('Offline')).toBeVisible();
  await page.keyboard.type(' Then pull.');
  await expect(page.getByText('Offline: kept in this browser')).toBeVisible();
  await noor.locator('.ProseMirror .is-shortdesc').click();
  await noor.keyboard.type('For every day.');
  // Long enough to be written down.
  await page.waitForTimeout(800);
  await page.reload();
  await expect(line(page, 'Tie it twice. Then pull.')).toBeVisible();
  await expect(line(noor, 'Then pull.')).toBeHidden();

  road.mend();
  await expect(line(page, 'For every day.')).toBeVisible();
  await expect(line(noor, 'Tie it twice. Then pull.')).toBeVisible();
  await isSaved(page);
  await expect.poll(() => stored(page)).toMatch(/For every day\.[^]*Tie it twice\. Then pull\./u);
  // Nothing is fitted in twice.
  await page.reload();
  await expect(line(page, 'Tie it twice. Then pull.')).toBeVisible();
  expect((await stored(page)).match(/Then pull/gu)).toHaveLength(1);
  await noor.context().close();
});

test('words whose place is gone are given back', async ({ page, browser }) => {
  const road = await cuttable(page);
  await signIn(page);
  await newTopic(page, 'Concept', 'Two at one place');
  const noor = await other(browser, 'noor', page.url());
  await page.locator('.ProseMirror .is-conbody p').click();
  await page.keyboard.type('First.');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Second');
  await expect(line(noor, 'Second')).toBeVisible();
  await road.cut();
  await expect(page.getByText('Offline')).toBeVisible();
  await page.keyboard.type(' thoughts');
  await line(noor, 'Second').click();
  await noor.keyboard.press('Control+Shift+Backspace');
  await expect(line(noor, 'Second')).toBeHidden();
  await isSaved(noor);
  road.mend();
  await expect(page.getByRole('alert')).toContainText('thoughts');
  await expect(line(page, 'Second')).toBeHidden();
  await page.getByRole('button', { name: 'Discard text' }).click();
  await expect(page.getByRole('alert')).toBeHidden();
  await isSaved(page);
  await noor.context().close();
});

test('a reader sees what is written but cannot write', async ({ page, browser }) => {
  await signIn(page);
  await newTopic(page, 'Concept', 'Only to be read');
  const ines = await other(browser, 'ines', page.url());
  await page.locator('.ProseMirror .is-conbody p').click();
  await page.keyboard.type('Seen at once.');
  await expect(line(ines, 'Seen at once.')).toBeVisible();
  await ines.locator('.ProseMirror .is-conbody p').click();
  await ines.keyboard.type('Not mine');
  await expect(line(ines, 'Not mine')).toBeHidden();
  await ines.context().close();
});

test('a topic that is removed while it is open can be made one again', async ({
  page,
  browser,
}) => {
  await signIn(page);
  await newTopic(page, 'Concept', 'Soon gone');
  await page.locator('.ProseMirror .is-conbody p').click();
  await page.keyboard.type('Still wanted.');
  await isSaved(page);
  const noor = await other(browser, 'noor', page.url());
  const project = await projectOf(noor);
  await noor.request.delete(`${project}/items/soon-gone`);
  await expect(page.getByRole('alert')).toContainText('removed from the library');
  await page.getByRole('button', { name: 'Make it a topic again' }).click();
  await expect(page.getByRole('alert')).toBeHidden();
  await expect.poll(() => stored(page)).toContain('Still wanted.');
  await noor.context().close();
});

test('text that is not safe stays on the page until it is', async ({ page }) => {
  const road = await cuttable(page);
  await signIn(page);
  await newTopic(page, 'Concept', 'Stormbound');
  await road.cut();
  await expect(page.getByText('Offline')).toBeVisible();
  await page.locator('.ProseMirror .is-conbody p').click();
  await page.keyboard.type('Written in a storm.');
  await page.locator('a[href="/write/alarms"]').click();
  await expect(page.getByText('This is not saved yet, so it stays open.')).toBeVisible();
  await expect(page).toHaveURL(/stormbound$/u);
  road.mend();
  await isSaved(page);
  await page.locator('a[href="/write/alarms"]').click();
  await expect(page).toHaveURL(/alarms$/u);
  await page.goto('/write/stormbound');
  await expect(line(page, 'Written in a storm.')).toBeVisible();
});

test('a whole text that a program saves joins what is being written', async ({ page }) => {
  await signIn(page);
  await newTopic(page, 'Concept', 'Written from two sides');
  await page.locator('.ProseMirror .is-conbody p').click();
  await page.keyboard.type('By hand.');
  await isSaved(page);
  const project = await projectOf(page);
  const address = `${project}/items/written-from-two-sides`;
  const item = (await (await page.request.get(address)).json()) as {
    text: string;
    version: number;
  };
  await page.keyboard.type(' More by hand.');
  const changed = {
    text: item.text.replace('By hand.</p>', 'By hand.</p><p>By program.</p>'),
    version: item.version,
  };
  await isSaved(page);
  expect((await page.request.put(address, { data: changed })).status()).toBe(409);
  const now = (await (await page.request.get(address)).json()) as { text: string; version: number };
  const answer = await page.request.put(address, {
    data: { text: now.text.replace('</p>', '</p><p>By program.</p>'), version: now.version },
  });
  expect(answer.status()).toBe(200);
  await expect(line(page, 'By program.')).toBeVisible();
  await page.keyboard.type(' Still here.');
  await isSaved(page);
  expect(await stored(page)).toMatch(
    /By hand\. More by hand\. Still here\.<\/p>\s*<p>By program\./u,
  );
});

test('what there is gets a name, and an earlier text comes back as the newest', async ({
  page,
}) => {
  await signIn(page);
  await newTopic(page, 'Concept', 'Drafts');
  await page.locator('.ProseMirror .is-conbody p').click();
  await page.keyboard.type('Good text.');
  await isSaved(page);
  await page.keyboard.press('Control+s');
  await expect(page.getByLabel('Name of this revision')).toBeFocused();
  await page.keyboard.type('Ready for the yard');
  await page.keyboard.press('Enter');
  const history = page.getByRole('region', { name: 'History' });
  await expect(history.getByText('Ready for the yard', { exact: true })).toBeVisible();
  await line(page, 'Good text.').click();
  await page.keyboard.press('Control+Shift+Backspace');
  await expect(line(page, 'Good text.')).toBeHidden();
  await isSaved(page);
  await history.getByRole('button', { name: 'Restore Ready for the yard' }).click();
  await expect(line(page, 'Good text.')).toBeVisible();
  await expect(history.getByText('As it was in “Ready for the yard”')).toBeVisible();
});

test('what others write is seen in lists and in what variables say, without loading again', async ({
  page,
}) => {
  await openLibrary(page, 'noor');
  const stock = await stockOf(page);
  await page.getByLabel('Filter topics').fill('Driftwood');
  const log = await stock.item(
    'concept',
    'Driftwood',
    '<title>Driftwood on the slip</title><conbody><p>Sold as ' +
      '<ph keyref="driftwood-price"/>.</p></conbody>',
  );
  await expect(page.getByRole('link', { name: /Driftwood on the slip/u })).toBeVisible();
  const defined = (price: string): string =>
    '<title>Prices</title><keydef keys="driftwood-price"><topicmeta><keywords>' +
    `<keyword>${price}</keyword></keywords></topicmeta></keydef>`;
  const prices = await stock.item('map', 'Prices', defined('nothing'));
  await page.goto(`/write/${log}`);
  await expect(page.locator('.ProseMirror')).toContainText('Sold as');
  const price = page.locator('.ProseMirror .variable-known');
  await expect(price).toHaveAttribute('data-shown', 'nothing');
  await stock.change(prices, 'map', defined('nine crowns'));
  await expect(price).toHaveAttribute('data-shown', 'nine crowns');
});
