import { expect, test, type Page } from './test.ts';
import { faults } from './faults.ts';
import { choose, isSaved, newTopic, projectOf, stored } from './pages.ts';
import { signIn } from './people.ts';
import { stockOf } from './stock.ts';

test.beforeEach(({ page }) => signIn(page, 'noor'));
const paragraph = '.ProseMirror .is-conbody > p';
const short = async (page: Page): Promise<string> => (await stored(page)).replace(/\s*\n\s*/gu, '');
const idOf = (page: Page): string => new URL(page.url()).pathname.split('/').at(-1)!;
async function write(page: Page, title: string, words: string): Promise<string> {
  await newTopic(page, 'Concept', title);
  await page.locator(paragraph).first().click();
  await page.keyboard.type(words);
  await isSaved(page);
  return idOf(page);
}

test('passages are chosen by keys in a preview, several neighbours as one', async ({ page }) => {
  const lender = await write(page, 'Moorings to lend', 'Check every shackle.');
  for (const words of ['Grease the swivel.', 'Note the date.']) {
    await page.keyboard.press('Enter');
    await page.keyboard.type(words);
  }
  await isSaved(page);
  await write(page, 'Borrows moorings', 'Before winter:');
  await choose(page, 'borrow a passage');
  const dialog = page.getByRole('dialog', { name: 'Borrow a passage' });
  await dialog.getByRole('combobox').fill('moorings to lend');
  const preview = dialog.getByRole('listbox', { name: 'What Moorings to lend has to lend' });
  await expect(preview.getByRole('option')).toHaveText([
    /Check every shackle/u,
    /Grease the swivel/u,
    /Note the date/u,
  ]);
  expect(await faults(page, { within: '.sheet' })).toEqual([]);
  await page.keyboard.press('Enter');
  await expect(preview.getByRole('option').first()).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.locator('.borrowed-text')).toContainText(
    'Check every shackle. Grease the swivel.',
  );
  await isSaved(page);
  expect(await short(page)).toContain(
    '<p>Before winter:</p>' +
      `<p conref="topic:${lender}/check-every-shackle" ` +
      `conrefend="topic:${lender}/grease-the-swivel"/>`,
  );

  // At its home, in front of this page.
  await page.getByRole('button', { name: 'borrowed · Moorings to lend' }).click();
  const home = page.getByRole('dialog', { name: 'At its home: Moorings to lend' });
  await home.locator(paragraph).first().click();
  await page.keyboard.press('End');
  await page.keyboard.type(' Twice.');
  await home.getByRole('button', { name: 'Back' }).click();
  await expect(page.locator('.borrowed-text')).toContainText('Check every shackle. Twice. Grease');

  // A copy of its own, knowingly.
  await choose(page, 'make it local');
  await expect(page.locator(paragraph)).toHaveText([
    'Before winter:',
    'Check every shackle. Twice.',
    'Grease the swivel.',
  ]);
  await isSaved(page);
  expect(await short(page)).not.toContain('conref');
});

test('a passage borrowed by key shows what it borrows itself and its variables', async ({
  page,
}) => {
  const second = await write(page, 'Chains to lend', 'Count the links of the ');
  await page.keyboard.type('%%maker');
  await page.keyboard.press('Enter');
  await page.keyboard.type(' chain.');
  await isSaved(page);
  const first = await write(page, 'Anchors to lend', 'Look at the anchor.');
  // It borrows itself, within a note; and a map gives it a key.
  await page.evaluate(
    async ([lender, inner]) => {
      const { projects } = (await (await fetch('/api/session')).json()) as {
        projects: { id: string }[];
      };
      const base = `/api/projects/${projects[0]!.id}/items`;
      const send = (address: string, method: string, body: object) =>
        fetch(address, {
          method,
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(body),
        });
      const change = async (id: string, how: (text: string) => string): Promise<void> => {
        const { text, version } = (await (await fetch(`${base}/${id}`)).json()) as {
          text: string;
          version: number;
        };
        await send(`${base}/${id}`, 'PUT', { text: how(text), version, note: '' });
      };
      await change(inner!, (text) => text.replace('<p>Count', '<p id="count">Count'));
      await change(lender!, (text) =>
        text.replace(
          '</conbody>',
          `<note id="tackle"><p>Before that:</p><p conref="topic:${inner}/count"/>` +
            '<p conref="topic:never-there/x"/></note></conbody>',
        ),
      );
      const map = (await (
        await send(base, 'POST', { type: 'map', title: 'Names the anchors' })
      ).json()) as { id: string };
      await change(map.id, (text) =>
        text.replace('</map>', `<topicref keys="ground-tackle" href="topic:${lender}"/></map>`),
      );
    },
    [first, second],
  );
  await page.reload();
  await write(page, 'Borrows by a key', 'In spring:');
  await choose(page, 'borrow a passage');
  const dialog = page.getByRole('dialog', { name: 'Borrow a passage' });
  await dialog.getByRole('combobox').fill('anchors to lend');
  await dialog.getByLabel('by the key ground-tackle').check();
  await dialog
    .getByRole('option', { name: /Before that/u })
    .first()
    .click();
  await dialog.getByRole('button', { name: 'Borrow it' }).click();
  await expect(page.locator('.borrowed-text')).toContainText(
    /Before that:\s*Count the links of the Brinewell Marine Instruments chain\./u,
  );
  await isSaved(page);
  expect(await short(page)).toContain('<note conkeyref="ground-tackle/tackle"/>');
  await page.getByRole('button', { name: 'borrowed · Anchors to lend' }).click();
  await expect(page.getByRole('dialog', { name: 'At its home: Anchors to lend' })).toBeVisible();
});

test('a borrowed table is a table, and a borrowed list a list, on the page of who borrows', async ({
  page,
}) => {
  const stock = await stockOf(page);
  const list = '<ul id="parts"><li>Shackle</li><li>Swivel</li></ul>';
  const loads =
    '<table id="loads"><title>Loads</title><tgroup cols="2"><thead><row><entry>Part</entry>' +
    '<entry>Load</entry></row></thead><tbody><row><entry>Pile clamp</entry><entry>4 ' +
    'kN</entry></row></tbody></tgroup></table>';
  const lender = await stock.item(
    'concept',
    'Tables to lend',
    `<title>Tables to lend</title><conbody>${list}${loads}</conbody>`,
  );
  const lent = (id: string): string => `conref="topic:${lender}/${id}"`;
  const borrower = await stock.item(
    'concept',
    'Borrows a table',
    `<title>Borrows a table</title><conbody><ul ${lent('parts')}><li/></ul>` +
      `<table ${lent('loads')}><tgroup cols="1"><tbody><row><entry/></row></tbody></tgroup>` +
      '</table></conbody>',
  );
  await page.goto(`/write/${borrower}`);
  await expect(page.locator('.borrowed-text table tr')).toHaveText([
    /^Part\s*Load$/u,
    /^Pile clamp\s*4 kN$/u,
  ]);
  await expect(page.locator('.borrowed-text').getByRole('listitem')).toHaveText([
    'Shackle',
    'Swivel',
  ]);
});

test('what was copied is pasted as borrowed', async ({ page }) => {
  const lender = await write(page, 'Copied from here', 'Rinse it with fresh water.');
  await page.keyboard.press('Shift+Home');
  await page.keyboard.press('Control+c');
  await write(page, 'Pasted here', 'Afterwards:');
  await page.keyboard.press('Control+Alt+v');
  await expect(page.locator('.borrowed-text')).toContainText('Rinse it with fresh water.');
  await isSaved(page);
  expect(await short(page)).toContain(`<p conref="topic:${lender}/rinse-it-with-fresh"/>`);
  await page.goto(`/write/${lender}`);
  await expect(page.locator(paragraph)).toHaveText('Rinse it with fresh water.');
  expect(await short(page)).toContain('<p id="rinse-it-with-fresh">');
});

test('a passage is moved to a shared topic and borrowed back; undo reverts it here', async ({
  page,
}) => {
  await write(page, 'Has something to share', 'Two people lift the pile clamp.');
  await choose(page, 'share');
  await page.getByRole('combobox', { name: /Who lends it: Paragraph/u }).fill('Lifting, shared');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'borrowed · Lifting, shared' })).toBeVisible();
  await expect(page.locator('.borrowed-text')).toContainText('Two people lift the pile clamp.');
  await isSaved(page);
  expect(await short(page)).toContain('conref="topic:lifting-shared/two-people-lift-the"');
  await page.keyboard.press('Control+z');
  await expect(page.locator(paragraph)).toHaveText('Two people lift the pile clamp.');
  await page.goto('/write/lifting-shared');
  await expect(page.locator(paragraph)).toHaveText('Two people lift the pile clamp.');
});

test('what would show itself, or cannot stand there, is not borrowed', async ({ page }) => {
  const id = await write(page, 'Goes in circles', 'x');
  const put = async (item: string, body: string): Promise<void> => {
    const project = await projectOf(page);
    const address = `${project}/items/${item}`;
    const { version, title } = (await (await page.request.get(address)).json()) as {
      version: number;
      title: string;
    };
    const text =
      `<concept id="${item}"><title>${title}</title>` + `<conbody>${body}</conbody></concept>`;
    expect(
      (
        await page.request.put(address, {
          data: { text, version, note: '' },
        })
      ).status(),
    ).toBe(200);
  };
  const other = await write(page, 'Leads back', 'y');
  await put(
    other,
    `<ul><li><note conref="topic:${id}/n"/></li></ul><section><title>S</title><p>z</p></section>`,
  );
  await put(id, '<note id="n"><p>Inside</p></note>');
  await page.goto(`/write/${id}`);
  await page.locator('.ProseMirror').getByText('Inside').click();
  await choose(page, 'borrow a passage');
  const dialog = page.getByRole('dialog', { name: 'Borrow a passage' });
  await dialog.getByRole('combobox').fill('leads back');
  await expect(dialog.getByRole('option', { name: /Section/u })).toHaveAttribute(
    'aria-disabled',
    'false',
  );
  await dialog
    .getByRole('option', { name: /Bullet/u })
    .first()
    .click();
  await dialog.getByRole('button', { name: 'Borrow it' }).click();
  await expect(
    page.getByText(/shows, directly or through others, the place where it would stand/u),
  ).toBeVisible();
  expect(await short(page)).not.toContain('conref');
});
