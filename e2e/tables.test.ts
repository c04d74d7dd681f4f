import { expect, test, type Page } from './test.ts';
import { choose, isSaved, newTopic, stored } from './pages.ts';
import { signIn } from './people.ts';
import { xml } from './xml.ts';

test.beforeEach(({ page }) => signIn(page, 'noor'));
const short = async (page: Page): Promise<string> => (await stored(page)).replace(/\s*\n\s*/gu, '');
const cells = (page: Page) => page.locator('.ProseMirror td');

/**
 * A table as the form makes it, with words in its cells; one string a row, words parted by spaces.
 */
async function newTable(
  page: Page,
  title: string,
  rows: readonly string[],
  hasHead = true,
): Promise<void> {
  await newTopic(page, 'Concept', title);
  await page.locator('.ProseMirror .is-conbody p').click();
  await choose(page, 'table');
  const form = page.getByRole('dialog', { name: 'New table' });
  await form.getByLabel('Rows').fill(String(rows.length - (hasHead ? 1 : 0)));
  await form.getByLabel('Columns').fill(String(rows[0]!.split(' ').length));
  await form.getByLabel('Title').fill('Tides');
  if (!hasHead) await form.getByLabel('a head').uncheck();
  await form.getByLabel('Frame').selectOption('all');
  await form.getByLabel('Frame').press('Enter');
  if (await form.isVisible()) await form.getByRole('button').click();
  await expect(form).toHaveCount(0);
  const words = rows.join(' ').split(' ');
  for (const [index, word] of words.entries()) {
    await page.keyboard.type(word);
    if (index < words.length - 1) await page.keyboard.press('Tab');
  }
}

test('a table is made as its form says and changed at a cell by the palette', async ({ page }) => {
  await newTable(page, 'Harbour table', ['port metres', 'Kis 10', 'Velm 9', 'Nord 2']);
  await isSaved(page);
  expect(await short(page)).toContain('<table frame="all"><title>Tides</title><tgroup cols="2">');
  await choose(page, 'sort by this column');
  await isSaved(page);
  expect(await short(page)).toMatch(
    /Nord<\/entry><entry>2.*Velm<\/entry><entry>9.*Kis<\/entry><entry>10/u,
  );
  await cells(page).getByText('Velm').click();
  await choose(page, 'move the row up');
  await choose(page, 'move the column right');
  await choose(page, 'wider column');
  await isSaved(page);
  const text = await short(page);
  expect(text).toMatch(
    xml`metres</entry><entry>port${/.*/u}9</entry><entry>Velm${/.*/u}2</entry>
      <entry>Nord${/.*/u}10</entry><entry>Kis`,
  );
  expect(text).toMatch(
    /<colspec colname="col2" colwidth="45\*"\/><colspec colname="col1" colwidth="55\*"\/>/u,
  );
  await choose(page, 'make the row a head');
  await choose(page, 'join with the cell before');
  await isSaved(page);
  expect(await short(page)).toMatch(
    xml`<thead><row>${/.*/u}</row><row><entry nameend="col1" namest="col2"><p>9</p><p>Velm</p>
      </entry></row></thead>`,
  );
  await choose(page, 'split the cell, text in the last');
  await isSaved(page);
  expect(await short(page)).toContain(
    '<row><entry/><entry><p>9</p><p>Velm</p></entry></row></thead>',
  );
  await page.getByRole('tab', { name: 'Problems' }).click();
  await expect(page.getByText('This topic is valid.')).toBeVisible();
});

test('the edge between two columns is pulled, as one step back', async ({ page }) => {
  await newTable(page, 'Pulled table', ['a b c', 'd e f'], false);
  await isSaved(page);
  const first = (await cells(page).first().boundingBox())!;
  const third = (await cells(page).nth(2).boundingBox())!;
  const y = first.y + first.height / 2;
  await page.mouse.move(first.x + first.width - 1, y);
  await page.mouse.down();
  await page.mouse.move(first.x + first.width / 2, y, { steps: 5 });
  await page.mouse.up();
  await isSaved(page);
  const widths = [...(await stored(page)).matchAll(/colwidth="(\d+)\*"/gu)].map(([, share]) =>
    Number(share),
  );
  expect(widths).toHaveLength(3);
  expect(widths[0]!).toBeLessThan(widths[1]!);
  // What is shown is what is said.
  const after = (await cells(page).first().boundingBox())!;
  const whole = third.x + third.width - first.x;
  expect(Math.abs(after.width / whole - widths[0]! / 100)).toBeLessThan(0.03);
  await cells(page).first().click();
  await page.keyboard.press('Control+z');
  await isSaved(page);
  expect(await stored(page)).not.toContain('colwidth');
});

test('a spreadsheet is pasted as a table', async ({ page }) => {
  await newTopic(page, 'Concept', 'From a sheet');
  await page.locator('.ProseMirror .is-conbody p').click();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData(
      'text/html',
      '<table><colgroup><col width=64><col width=64></colgroup><tr><td>Port</td>' +
        '<td style="mso-number-format:General">3.1</td></tr><tr><td colspan=2>closed</td></tr>' +
        '</table>',
    );
    data.setData('text/plain', 'Port\t3.1\nclosed');
    document
      .querySelector('.ProseMirror')!
      .dispatchEvent(
        new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
      );
  });
  await isSaved(page);
  expect(await short(page)).toMatch(
    xml`<row><entry>Port</entry><entry>3.1</entry></row><row>
      <entry nameend="${/[^"]+/u}" namest="${/[^"]+/u}">closed</entry></row>`,
  );
});

test('rows and columns are pasted into the cells of a table, which grows', async ({ page }) => {
  await newTopic(page, 'Concept', 'Into cells');
  await page.locator('.ProseMirror .is-conbody p').click();
  await choose(page, 'table');
  await page.keyboard.press('Enter');
  await page.locator('.ProseMirror tbody td').nth(1).click();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/plain', 'a\tb\tc\r\nd\te\tf\r\ng\th\ti\r\n');
    document
      .querySelector('.ProseMirror')!
      .dispatchEvent(
        new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
      );
  });
  await page.keyboard.type('!');
  await isSaved(page);
  expect(await short(page)).toContain(
    '<row><entry/><entry>a</entry><entry>b</entry><entry>c</entry></row><row><entry/>' +
      '<entry>d</entry><entry>e</entry><entry>f</entry></row><row><entry/><entry>g</entry>' +
      '<entry>h</entry><entry>i!</entry></row>',
  );
  expect(await short(page)).toContain('<tgroup cols="4">');
});
