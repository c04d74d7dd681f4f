import { expect, test, type Page } from './test.ts';
import type { Designs } from '@ukiyo/contracts';
import { faults } from './faults.ts';
import { projectOf } from './pages.ts';
import { openLibrary, signIn } from './people.ts';
import { stockOf } from './stock.ts';

const designs = async (page: Page): Promise<Designs> => {
  const project = await projectOf(page);
  return (await (await page.request.get(`${project}/designs`)).json()) as Designs;
};
const saved = (page: Page) => expect(page.getByText('Saved', { exact: true })).toBeVisible();
const specimen = (page: Page) => page.getByRole('region', { name: 'Specimen' });
/** What the specimen shows is another image after each change. */
const drawing = (page: Page): Promise<string> =>
  specimen(page).locator('.drawn').first().innerHTML();
const field = (page: Page, label: string) => page.getByLabel(label, { exact: true });
async function type(page: Page, label: string, text: string): Promise<void> {
  await field(page, label).fill(text);
  await field(page, label).press('Tab');
}

test('a copy of a style sheet is changed for print and screen, previewed, undone and kept', async ({
  page,
}) => {
  await signIn(page, 'teo', '/style/sheets/workshop');
  await expect(specimen(page).locator('.drawn path').first()).toBeVisible();
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect(page).toHaveURL(/workshop-copy/u);
  const id = new URL(page.url()).pathname.split('/').at(-1)!;
  const kept = async () => (await designs(page)).sheets.find((one) => one.id === id)!.content;

  await page.getByRole('button', { name: 'Paragraph', exact: true }).click();
  const before = await drawing(page);
  await type(page, 'Size, print', '11pt');
  await expect.poll(() => drawing(page)).not.toBe(before);
  await saved(page);
  expect((await kept()).styles['paragraph']!.print!.size).toBe('11pt');
  // Arrow keys go on from there.
  await field(page, 'Size, print').press('ArrowUp');
  await expect.poll(async () => (await kept()).styles['paragraph']!.print!.size).toBe('11.5pt');
  // What is no length is refused where it stands, and nothing is changed.
  await type(page, 'Size, print', 'large');
  await expect(page.getByText('Size is a length such as 9pt, 4mm or 0.8em.')).toBeVisible();
  await type(page, 'Size, print', '11.5pt');

  // Print and screen apart, and together again.
  await page.getByRole('button', { name: 'Weight: print and screen apart' }).click();
  await field(page, 'Weight, screen').selectOption('semibold');
  await expect
    .poll(async () => (await kept()).styles['paragraph']!.screen?.weight)
    .toBe('semibold');
  expect((await kept()).styles['paragraph']!.print!.weight).toBeUndefined();
  await page.getByRole('button', { name: 'Weight: remove the value' }).click();
  await expect.poll(async () => (await kept()).styles['paragraph']!.screen?.weight).toBeUndefined();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect
    .poll(async () => (await kept()).styles['paragraph']!.screen?.weight)
    .toBe('semibold');

  // A colour of the sheet is changed in one place.
  await page.getByRole('button', { name: 'Faces and colours' }).click();
  await field(page, 'Colour accent').fill('#7a2e1d');
  await expect.poll(async () => (await kept()).colours['accent']).toBe('#7a2e1d');
  // Marks of notes.
  await page.getByRole('button', { name: 'Marks of notes' }).click();
  await field(page, 'Danger: where it stands').selectOption('before the text');
  await field(page, 'Danger: how it lines up').selectOption('baseline');
  await type(page, 'Danger: what it is called', 'Peril');
  await expect
    .poll(async () => (await kept()).marks.danger)
    .toMatchObject({ place: 'before the text', meets: 'baseline', words: { en: 'Peril' } });
  // Numbers of headings, in the specimen too.
  await page.getByRole('button', { name: 'Numbering', exact: true }).click();
  const numbered = await drawing(page);
  await field(page, 'Numbers of chapters').selectOption('I');
  await expect(page.getByText('III.2', { exact: false }).first()).toBeVisible();
  await expect.poll(() => drawing(page)).not.toBe(numbered);
  await expect.poll(async () => (await kept()).numbering.chapters).toBe('I');
  await page.reload();
  await page.getByRole('button', { name: 'Marks of notes' }).click();
  await expect(field(page, 'Danger: what it is called')).toHaveValue('Peril');
  expect(await faults(page)).toEqual([]);
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page).toHaveURL(/sheets\/workshop$/u);
  expect((await designs(page)).sheets.some((one) => one.id === id)).toBe(false);
});

test('a custom style is made and used by its name in the manual and on the site', async ({
  page,
}) => {
  await signIn(page, 'teo', '/style/sheets/handbook');
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect(page).toHaveURL(/quiet-handbook-copy/u);
  const sheet = new URL(page.url()).pathname.split('/').at(-1)!;
  await page.getByRole('button', { name: 'New style of the team' }).click();
  await type(page, 'Name of the style', 'Ferry times');
  await type(page, 'Applies to the element', 'p');
  await type(page, 'With the output class', 'ferry');
  await type(page, 'Text before', 'Ferry: ');
  await saved(page);
  await page.goto('/library');
  const stock = await stockOf(page);
  const topic = await stock.item(
    'concept',
    'Crossing',
    '<title>Crossing</title><conbody><p outputclass="ferry">every hour</p></conbody>',
  );
  const map = await stock.item(
    'map',
    'Crossing map',
    `<title>Crossing map</title><topicref href="topic:${topic}"/>`,
  );
  const site = await stock.edition('Crossing site', map, { output: 'site', sheet });
  expect(await stock.built(site, 'site/crossing.html')).toMatch(
    /<div class="style-own-style"><p class="ferry">every hour<\/p><\/div>/u,
  );
  expect(await stock.built(site, 'site/sheet.css')).toContain("::before { content: 'Ferry: '; }");
  await stock.remove(`editions/${site}`);
  await stock.remove(`designs/sheets/${sheet}`);
});

test('a page plan is drawn to scale and changed by dragging, by keys and by figures', async ({
  page,
}) => {
  await signIn(page, 'teo', '/style/plans/a4-margin');
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect(page).toHaveURL(/a4-with-margin-column-copy/u);
  const id = new URL(page.url()).pathname.split('/').at(-1)!;
  const kept = async () => (await designs(page)).plans.find((one) => one.id === id)!.content;
  const before = await drawing(page);
  await page.getByRole('slider', { name: 'Inner margin' }).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await expect(field(page, 'Inner margin, typed')).toHaveValue('29.5mm');
  await expect.poll(() => drawing(page)).not.toBe(before);
  const handle = (await page.getByRole('slider', { name: 'Top margin' }).boundingBox())!;
  await page.mouse.move(handle.x + handle.width / 2, handle.y + handle.height / 2);
  await page.mouse.down();
  await page.mouse.move(handle.x + handle.width / 2, handle.y + handle.height / 2 + 20, {
    steps: 4,
  });
  await page.mouse.up();
  await expect.poll(async () => Number.parseFloat((await kept()).margins.top)).toBeGreaterThan(40);
  await type(page, 'Outer margin, typed', '1in');
  await field(page, 'Paper').selectOption('B5');
  await field(page, 'Head, right, middle: put in').selectOption('edition');
  await page
    .getByRole('group', { name: 'Head, right' })
    .locator('.field', { hasText: 'Edition' })
    .dragTo(page.getByRole('group', { name: 'Head, right' }).locator('.slot').first());
  await page.getByLabel('another foot where a chapter begins').check();
  await field(page, 'Foot, chapter begins, middle: put in').selectOption('date');
  await type(page, 'Step of the baseline grid', '13pt');
  await expect(page.locator('.spread .lines')).toHaveCount(2);
  await field(page, 'Page numbers of the chapters').selectOption('chapter-page');
  await expect.poll(async () => (await kept()).numbering.body).toBe('chapter-page');
  expect(await kept()).toMatchObject({
    paper: 'B5',
    margins: { outer: '1in' },
    baseline: '13pt',
    head: { right: { start: [{ field: 'edition' }], middle: [] } },
    foot: { opening: { start: [], middle: [{ field: 'date' }] } },
  });
  // Without room it is said, and the specimen is still there.
  await type(page, 'Inner margin, typed', '150mm');
  await expect(page.getByText(/leaves -?\d+ × \d+ mm for the text/u).first()).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page).toHaveURL(/plans\/a4-margin$/u);
});

test('an edition is duplicated, made with other styles, and compared with the first', async ({
  page,
}) => {
  await signIn(page, 'teo', '/publish');
  await page.getByRole('link', { name: /Tern Operator’s Handbook/u }).click();
  await page.getByRole('button', { name: 'Duplicate' }).click();
  await expect(page.getByRole('heading', { name: 'Tern Operator’s Handbook, copy' })).toBeVisible();
  await field(page, 'Style sheet').selectOption('reference');
  await field(page, 'Page plan').selectOption('letter-margin');
  await page.getByText('what its map says').click();
  await page.getByLabel('Title of the edition', { exact: true }).fill('Handbook of the Harbour');
  await page.getByLabel('Date of the edition').fill('spring');
  await page.getByRole('button', { name: 'Save edition' }).click();
  await expect(page.getByRole('alert')).toHaveText('A date is written as 2026-03-09.');
  await page.getByLabel('Date of the edition').fill('');
  await page.getByRole('button', { name: 'Save edition' }).click();
  await field(page, 'Compare with').selectOption({ label: 'Tern Operator’s Handbook' });
  const compared = page.getByRole('region', { name: 'Compared with another edition' });
  await expect(compared.getByRole('row')).toHaveText([
    /Handbook, copy.*Handbook$/u,
    /Style sheet\s*Dense reference\s*Quiet handbook/u,
    /Page plan\s*Letter with margin column\s*A5 pocket/u,
    /Says of itself: title\s*Handbook of the Harbour\s*–/u,
  ]);
  await expect(compared).toContainText(
    'The same in both: output, map, lens, bars, locale, sign-off waits for, impressions kept.',
  );
  const stock = await stockOf(page);
  await stock.remove(`editions/${new URL(page.url()).pathname.split('/').at(-1)!}`);
});

test('style sheets are exported and imported; others are refused; writers may only look', async ({
  page,
}) => {
  await signIn(page, 'teo', '/style/sheets/reference');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as file' }).click();
  const file = await (await download).path();
  await page.getByLabel('From a file …').setInputFiles(file);
  await expect(page).toHaveURL(/sheets\/dense-reference/u);
  const id = new URL(page.url()).pathname.split('/').at(-1)!;
  const list = await designs(page);
  expect(list.sheets.find((one) => one.id === id)!.content).toEqual(
    list.sheets.find((one) => one.id === 'reference')!.content,
  );
  await page.getByLabel('From a file …').setInputFiles({
    name: 'x.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"name":"x"}'),
  });
  await expect(page.getByRole('alert')).toContainText('This is no style sheet');
  await page
    .getByLabel('From a file …')
    .setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from('no') });
  await expect(page.getByRole('alert')).toContainText('not readable as JSON');
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await page.context().clearCookies();
  await signIn(page, 'noor', '/style/sheets/workshop?style=paragraph');
  await expect(field(page, 'Size, print')).toBeDisabled();
  await expect(page.getByRole('button', { name: 'Copy', exact: true })).toHaveCount(0);
});

test('the printed pages of a topic are set while it is written, for several editions', async ({
  page,
}) => {
  await signIn(page, 'noor', '/write/fit-the-bracket');
  await page.getByRole('tab', { name: 'Proof' }).click();
  const bench = page.getByRole('complementary', { name: 'Bench' });
  await bench.locator('summary').click();
  const wanted = ['Tern Q Installation Manual', 'Tern D Installation Manual'];
  const shown = (name: string) => bench.getByRole('checkbox', { name });
  for (const name of wanted) await shown(name).check();
  for (const name of ['Quayside manual for Kisara', 'Quayside manual for Velmark'])
    if (await shown(name).isChecked()) await shown(name).uncheck();
  const first = bench.getByRole('region', { name: wanted[0]! });
  await expect(first.locator('.drawn path').first()).toBeVisible();
  // Once the whole has been set, the topic stands in its place.
  await expect(first.getByText(/in its place/u)).toBeVisible({ timeout: 120_000 });
  // It is fitted to the quay only: the other manual does not have it.
  await expect(
    bench.getByText('Tern D Installation Manual does not have this topic.'),
  ).toBeVisible();
  const before = await first.locator('.drawn').first().innerHTML();
  await page.locator('.ProseMirror .is-cmd').first().click();
  await page.keyboard.press('End');
  await page.keyboard.type(' Mind the gulls.');
  await expect.poll(() => first.locator('.drawn').first().innerHTML()).not.toBe(before);
  await page.keyboard.press('Control+z');
  // From the page to the place in the text, and the other way: what is being written is marked on
  // the page.
  const leaf = first.getByRole('img', { name: 'Page 1 of' });
  const box = (await leaf.boundingBox())!;
  const mark = (await leaf.locator('.mark').boundingBox())!;
  await leaf.click({ position: { x: box.width / 2, y: mark.y - box.y + 70 } });
  await expect(page.locator('#foot-path')).toHaveText(/Step/u);
  await expect
    .poll(async () => (await leaf.locator('.mark').boundingBox())!.y)
    .toBeGreaterThan(mark.y + 5);

  // The page itself wears the screen values of a sheet, or the plain manner.
  const title = page.locator('.ProseMirror .is-topic > .is-title');
  await expect(title).toHaveCSS('font-weight', '500');
  await page.getByLabel('The page looks').selectOption('reference');
  await expect(title).toHaveCSS('font-weight', '700');
  await page.getByLabel('The page looks').selectOption('');
  await expect(title).toHaveCSS('font-weight', '500');
});

test('a cover is laid out by mouse and keys; bleed, crop marks and fields are set', async ({
  page,
}) => {
  await signIn(page, 'teo', '/style/plans/a4-margin');
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect(page).toHaveURL(/a4-with-margin-column-copy/u);
  const id = new URL(page.url()).pathname.split('/').at(-1)!;
  const kept = async () => (await designs(page)).plans.find((one) => one.id === id)!.content;
  await field(page, 'Cover').selectOption('own');
  await field(page, 'Put on the cover').selectOption('ground');
  await field(page, 'Put on the cover').selectOption('title');
  const title = page.getByRole('button', { name: /^Title: column/u });
  await expect(title).toHaveAccessibleName('Title: column 2, row 3, 10 wide, 2 high');
  await title.focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Shift+ArrowLeft');
  await expect(title).toHaveAccessibleName('Title: column 2, row 4, 9 wide, 2 high');
  const drawn = (await page.getByRole('group', { name: 'The cover, to scale' }).boundingBox())!;
  const box = (await title.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(
    box.x + box.width / 2 + drawn.width / 12,
    box.y + box.height / 2 + drawn.height / 6,
    { steps: 5 },
  );
  await page.mouse.up();
  await expect(title).toHaveAccessibleName('Title: column 3, row 6, 9 wide, 2 high');
  await field(page, 'Part 2: colour').selectOption('paper');
  await type(page, 'Bleed', '3mm');
  await field(page, 'marks where the sheet is cut').check();
  await field(page, 'Standard of the file').selectOption('for the archive');
  await field(page, 'How the file opens').selectOption('with bookmarks');
  await field(page, 'Levels of bookmarks').selectOption('2');
  await field(page, 'a title page inside, with the rights on its back').check();
  await field(page, 'Head, right, left: put in').selectOption('variable');
  await field(page, 'Head, right, left: variable').selectOption('product');
  await field(page, 'Head, right, middle: put in').selectOption('date');
  await expect.poll(async () => (await kept()).head.right.middle).toEqual([{ field: 'date' }]);
  expect(await kept()).toMatchObject({
    cover: 'own',
    coverParts: {
      front: [
        { shows: { field: 'ground' } },
        { shows: { field: 'title' }, column: 2, row: 5, columns: 9, rows: 2, colour: 'paper' },
      ],
    },
    trim: { bleed: '3mm', marks: true },
    file: { standard: 'for the archive', opens: 'with bookmarks', bookmarks: 2 },
    titlePage: true,
    head: { right: { start: [{ field: 'variable', key: 'product' }] } },
  });
  // The sheet of the specimen is larger by bleed and marks.
  await expect(specimen(page).getByRole('img', { name: /^Page 1 /u })).toHaveAttribute(
    'style',
    /aspect-ratio: 232 \/ 319/u,
  );
  expect(await faults(page)).toEqual([]);
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
});

test('two editions of a topic are marked where they differ, each on its own pages', async ({
  page,
}) => {
  await openLibrary(page);
  const stock = await stockOf(page);
  const topic = await stock.item(
    'concept',
    'Where the ferry lands',
    '<title>Where the ferry lands</title><conbody><p>It lands at the quay.</p>' +
      '<p product="tern-q">Only for Q.</p><p product="tern-d">Only for D.</p><p>It leaves ' +
      'again.</p></conbody>',
  );
  const opening = await stock.item(
    'concept',
    'Before it lands',
    '<title>Before it lands</title><conbody><p>Wait.</p></conbody>',
  );
  const map = await stock.item(
    'map',
    'Ferry manual',
    `<title>Ferry manual</title><topicref href="topic:${opening}"/>` +
      `<topicref href="topic:${topic}"/>`,
  );
  const names = ['Ferry for Q', 'Ferry for D'];
  const editions = [
    await stock.edition(names[0]!, map, { lens: 'installer-tern-q' }),
    await stock.edition(names[1]!, map, { lens: 'installer-tern-d' }),
  ];
  await page.goto(`/write/${topic}`);
  await page.getByRole('tab', { name: 'Proof' }).click();
  const bench = page.getByRole('complementary', { name: 'Bench' });
  await bench.getByLabel('What is proofed').selectOption('topic');
  await bench.locator('summary').click();
  for (const name of names) await bench.getByRole('checkbox', { name }).check();
  for (const box of await bench.locator('.which label').all())
    if (!names.includes((await box.innerText()).trim())) await box.getByRole('checkbox').uncheck();
  await bench.locator('summary').click();
  const region = (name: string) => bench.getByRole('region', { name, exact: true });
  // One paragraph in each is not in the other.
  for (const name of names) await expect(region(name).locator('.apart')).toHaveCount(1);
  await bench.getByLabel('mark what differs').uncheck();
  await expect(bench.locator('.apart')).toHaveCount(0);
  await bench.getByLabel('mark what differs').check();

  await bench.getByLabel('What is proofed').selectOption('whole');
  const whole = bench.getByRole('region', { name: `${names[0]!}: the whole manual` });
  const number = whole.getByLabel('Page', { exact: true });
  await expect(whole.getByText(/exact/u)).toBeVisible({ timeout: 120_000 });
  const first = Number(await number.inputValue());
  expect(first).toBeGreaterThan(1);
  // What stands there is drawn: the canvas of the page has ink.
  const leaf = whole.getByRole('img', { name: new RegExp(`, ${first} of`, 'u') });
  const inked = () =>
    leaf.locator('canvas').evaluate((canvas: HTMLCanvasElement) =>
      canvas
        .getContext('2d')!
        .getImageData(0, 0, canvas.width, canvas.height)
        .data.some((value, at) => at % 4 === 0 && value < 100),
    );
  await expect.poll(inked).toBe(true);
  await whole.getByRole('button', { name: 'Page before' }).click();
  await expect(number).toHaveValue(String(first - 1));
  await whole.getByRole('group', { name: `${names[0]!}: pages` }).press('Home');
  await expect(number).toHaveValue('1');
  await whole.getByRole('button', { name: 'to the topic' }).click();
  await expect(number).toHaveValue(String(first));
  const box = (await leaf.boundingBox())!;
  await leaf.click({ position: { x: box.width / 2, y: box.height * 0.36 } });
  await expect(page.locator('#foot-path')).toHaveText(/Paragraph/u);

  // The same beside the map.
  await page.goto(`/arrange/${map}`);
  await page.getByRole('tab', { name: 'Proof' }).click();
  await page.locator('.entry', { hasText: 'Where the ferry lands' }).click();
  await expect(
    page.getByRole('region', { name: `${names[1]!}: the whole manual` }).getByText(/exact/u),
  ).toBeVisible({ timeout: 120_000 });
  await page.evaluate(() => localStorage.removeItem('ukiyo-proof-manner'));
  for (const edition of editions) await stock.remove(`editions/${edition}`);
});

test('an unstyled look gets a style; numerals change by language; change bars are chosen', async ({
  page,
}) => {
  await signIn(page, 'teo', '/style/sheets/workshop?style=steps');
  await expect(page.getByText(/^\d+ uses in \d+ topics/u)).toBeVisible();
  const stock = await stockOf(page);
  const topic = await stock.item(
    'concept',
    'In a storm',
    '<title>In a storm</title><conbody><p outputclass="stormy">Go home.</p></conbody>',
  );
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect(page).toHaveURL(/workshop-copy/u);
  const id = new URL(page.url()).pathname.split('/').at(-1)!;
  const kept = async () => (await designs(page)).sheets.find((one) => one.id === id)!.content;
  await page.getByRole('button', { name: /^Looks without a style/u }).click();
  await page.getByRole('button', { name: 'Make a style for stormy of Paragraph' }).click();
  await expect(page.getByRole('heading', { name: 'stormy' })).toBeVisible();
  await page.getByText('1 use in 1 topic').click();
  await expect(page.getByRole('link', { name: 'In a storm' })).toBeVisible();
  expect((await kept()).styles['stormy']).toMatchObject({
    base: 'paragraph',
    appliesTo: { element: 'p', outputclass: 'stormy' },
  });

  await page.getByRole('button', { name: 'Numbering', exact: true }).click();
  await field(page, 'examples are numbered as figures are').check();
  await field(page, 'Language of the numbering').selectOption('ja');
  await field(page, 'Numbers of chapters').selectOption('一');
  await expect(page.locator('.numbering .example').first()).toContainText('三.2');
  await expect
    .poll(async () => (await kept()).numbering.byLanguage)
    .toEqual({ ja: { chapters: '一' } });
  expect(await kept()).toMatchObject({ numbering: { examples: true, chapters: '1' } });
  await page.getByRole('button', { name: 'As in every language' }).click();
  await expect.poll(async () => (await kept()).numbering.byLanguage).toEqual({});
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page).toHaveURL(/sheets\/workshop$/u);

  const map = await stock.item(
    'map',
    'Storm map',
    `<title>Storm map</title><topicref href="topic:${topic}"/>`,
  );
  const edition = await stock.edition('Storm manual', map);
  await stock.built(edition, 'manual.pdf');
  await page.goto(`/publish/${edition}`);
  await page.getByRole('button', { name: 'Settings' }).click();
  await field(page, 'Bars beside what changed since').selectOption({ index: 1 });
  await page.getByRole('button', { name: 'Save edition' }).click();
  await expect
    .poll(
      async () =>
        (
          (await (await page.request.get(`${await projectOf(page)}/editions`)).json()) as {
            id: string;
            since: string | null;
          }[]
        ).find((one) => one.id === edition)!.since,
    )
    .not.toBeNull();
  await stock.remove(`editions/${edition}`);
});
