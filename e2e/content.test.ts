import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from './test.ts';
import { choose, isSaved, newTopic, pickFound, stored } from './pages.ts';
import { signIn } from './people.ts';
import { xml } from './xml.ts';

test.beforeEach(({ page }) => signIn(page));
const paragraph = '.ProseMirror .is-conbody p';

test('footnotes, index entries and comments are put in, shown and said anew', async ({ page }) => {
  await newTopic(page, 'Concept', 'Beside the line');
  await page.locator(paragraph).click();
  await page.keyboard.type('The tide turns');
  await choose(page, 'footnote');
  await page.getByRole('dialog', { name: 'Footnote' }).getByRole('textbox').fill('Twice a day.');
  await page.keyboard.press('Enter');
  await page.keyboard.type(' slowly');
  for (let count = 0; count < 6; count += 1) await page.keyboard.press('Shift+ArrowLeft');
  await choose(page, 'index entry');
  const entry = page.getByRole('dialog', { name: 'Index entry' }).getByRole('textbox');
  await expect(entry).toHaveValue('slowly');
  await entry.fill('tide > slow');
  await page.keyboard.press('Enter');
  await isSaved(page);
  expect(await stored(page)).toContain(
    'The tide turns<fn>Twice a day.</fn> slowly<indexterm>tide<indexterm>slow</indexterm>' +
      '</indexterm>',
  );

  await page.locator('.ProseMirror [data-element="fn"]').dblclick();
  const note = page.getByRole('dialog', { name: 'Footnote' }).getByRole('textbox');
  await expect(note).toHaveValue('Twice a day.');
  await note.fill('Every six hours.');
  await page.keyboard.press('Enter');
  await isSaved(page);
  expect(await stored(page)).toContain('<fn>Every six hours.</fn>');
  await page.keyboard.press('Control+z');
  await isSaved(page);
  expect(await stored(page)).toContain('<fn>Twice a day.</fn>');
});

test('images come from library, file and clipboard, are described and captioned', async ({
  page,
}) => {
  await newTopic(page, 'Concept', 'Pictures');
  await page.locator(paragraph).click();
  await page.keyboard.type('Look.');
  await choose(page, 'figure');
  await page.getByRole('combobox', { name: 'Which image' }).fill('stilling');
  await page.keyboard.press('Enter');
  const words = page.getByRole('dialog', { name: 'Alternative text' }).getByRole('textbox');
  await words.fill('A tube in the water');
  await page.keyboard.press('Enter');
  await isSaved(page);
  expect(await stored(page)).toMatch(
    /<fig>\s*<title\/>\s*<image href="asset:stilling-well">\s*<alt>A tube in the water<\/alt>/u,
  );

  // Pulling at the corner: the width follows in millimetres.
  const image = page.locator('.ProseMirror .picture img');
  await expect(image).toHaveAttribute('alt', 'A tube in the water');
  const before = (await image.boundingBox())!;
  await page.locator('.ProseMirror .picture').hover();
  await page.locator('.ProseMirror .pull').hover();
  await page.mouse.down();
  await page.mouse.move(before.x + 189, before.y + 100, { steps: 4 });
  await page.mouse.up();
  await isSaved(page);
  const width = Number(/width="(\d+)mm"/u.exec(await stored(page))![1]);
  expect(width).toBeGreaterThan(45);
  expect(width).toBeLessThan(55);

  // A file that is pasted joins the library.
  await page.locator('.ProseMirror .is-shortdesc').click();
  await page.keyboard.type('In short ');
  const svg = readFileSync(
    join(import.meta.dirname, '../demo/library/images/stilling-well.svg'),
    'utf8',
  );
  await page.evaluate((text) => {
    const data = new DataTransfer();
    data.items.add(new File([text], 'pasted-well.svg', { type: 'image/svg+xml' }));
    document
      .querySelector('.ProseMirror')!
      .dispatchEvent(
        new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
      );
  }, svg);
  await words.fill('The well again');
  await page.keyboard.press('Enter');
  await isSaved(page);
  expect(await stored(page)).toMatch(
    /<shortdesc>In short <image href="asset:pasted-well"><alt>The well again<\/alt><\/image>/u,
  );
});

test('facts about the topic are filled in as a form', async ({ page }) => {
  await newTopic(page, 'Concept', 'Known facts');
  await page.getByRole('tab', { name: 'Facts' }).click();
  const facts = page.getByRole('region', { name: 'Facts' });
  await facts.getByLabel('Keywords').fill('quay\nwall');
  await facts.getByLabel('Index').fill('tide > low');
  await facts.getByLabel('Help ids').fill('clock-page');
  await facts.getByLabel('Made on').fill('2026-11-24');
  await page.keyboard.press('Enter');
  await facts.getByRole('button', { name: 'Add a fact' }).click();
  await facts.getByLabel('Name of own fact 1').fill('station');
  await page.keyboard.press('Tab');
  await facts.getByLabel('Value of station').fill('Tern Q');
  await page.keyboard.press('Tab');
  await isSaved(page);
  const text = await stored(page);
  for (const part of [
    '<created date="2026-11-24"/>',
    '<keyword>quay</keyword>',
    '<keyword>wall</keyword>',
    '<indexterm>tide<indexterm>low</indexterm></indexterm>',
    '<resourceid appid="clock-page"/>',
    '<othermeta content="Tern Q" name="station"/>',
  ])
    expect(text).toContain(part);
});

test('words are found and replaced, in one step back, and an endless pattern is stopped', async ({
  page,
}) => {
  await newTopic(page, 'Concept', 'Lost and found');
  await page.locator(paragraph).click();
  await page.keyboard.type(
    'The boat passes the Boat of the boatman. aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa!',
  );
  await page.keyboard.press('Control+f');
  const bar = page.getByRole('region', { name: 'Find and replace' });
  await bar.getByLabel('Find', { exact: true }).fill('boat');
  await expect(bar.getByRole('status')).toHaveText('1 of 3');
  await expect(page.locator('.ProseMirror .found')).toHaveCount(3);
  await page.keyboard.press('Enter');
  await expect(bar.getByRole('status')).toHaveText('2 of 3');
  await bar.getByRole('button', { name: 'Whole words only' }).click();
  await expect(bar.getByRole('status')).toContainText('of 2');
  await bar.getByLabel('Put instead').fill('ferry');
  await bar.getByRole('button', { name: 'Replace all 2' }).click();
  await expect(page.locator(paragraph)).toContainText('The ferry passes the ferry of the boatman.');
  await page.locator(paragraph).click();
  await page.keyboard.press('Control+z');
  await expect(page.locator(paragraph)).toContainText('The boat passes the Boat of the boatman.');
  await bar.getByRole('button', { name: /regular expression/u }).click();
  await bar.getByLabel('Find', { exact: true }).fill('(a+)+b');
  await expect(bar.getByRole('alert')).toContainText('takes too long');
  await bar.getByLabel('Find', { exact: true }).fill('(');
  await expect(bar.getByRole('alert')).toContainText('not a pattern');
  await bar.getByLabel('Find', { exact: true }).fill('(b)oatman');
  await expect(bar.getByRole('status')).toHaveText('1 of 1');
  await page.keyboard.press('Escape');
  await expect(bar).toBeHidden();
  await expect(page.locator('.ProseMirror')).toBeFocused();
});

test('what is pasted keeps its structure, from outside and from the page itself', async ({
  page,
}) => {
  await newTopic(page, 'Concept', 'Brought along');
  const paste = (data: Record<string, string>): Promise<void> =>
    page.evaluate((parts) => {
      const clipboard = new DataTransfer();
      for (const [type, text] of Object.entries(parts)) clipboard.setData(type, text);
      document.querySelector('.ProseMirror')!.dispatchEvent(
        new ClipboardEvent('paste', {
          clipboardData: clipboard,
          bubbles: true,
          cancelable: true,
        }),
      );
    }, data);
  await page.locator(paragraph).click();
  await paste({
    'text/html':
      '<h2>Knots</h2><p style="color:red">Tie <b>twice</b>, see ' +
      '<a href="https://knots.example/">all knots</a>.</p><ul><li>bowline</li><li>hitch</li>' +
      '</ul><table><tr><th>Rope</th><th>mm</th></tr><tr><td>thin</td><td>6</td></tr></table>' +
      '<script>document.title = "pwned"</script>' +
      '<img src="https://evil.example/x.png" onerror="document.title = \'pwned\'">',
    'text/plain': 'Knots',
  });
  await expect(page.getByText(/Pasted without .*local formatting/u)).toBeVisible();
  await isSaved(page);
  const text = await stored(page);
  for (const part of [
    '<title>Knots</title>',
    'Tie <b>twice</b>, see ' +
      '<xref format="html" href="https://knots.example/" scope="external">all knots</xref>.',
    '<li>bowline</li>',
    '<entry>thin</entry>',
    '<thead>',
  ])
    expect(text).toContain(part);
  expect(text).not.toMatch(/evil|pwned|color/u);
  expect(await page.title()).not.toBe('pwned');

  // Rows of a spreadsheet come with tabs as text and as a table beside it; text alone becomes
  // paragraphs.
  await page.locator('.ProseMirror li').first().click();
  await paste({ 'text/plain': 'one\n\ntwo' });
  await isSaved(page);
  expect(await stored(page)).toMatch(/<li>bowline\s*<p>one<\/p>\s*<p>two<\/p>\s*<\/li>/u);

  // A list that is copied on the page arrives as one elsewhere on it.
  await page.locator('#foot-path').getByRole('button', { name: 'Bullet list' }).click();
  const copied = await page.evaluate(() => {
    const clipboard = new DataTransfer();
    document
      .querySelector('.ProseMirror')!
      .dispatchEvent(
        new ClipboardEvent('copy', { clipboardData: clipboard, bubbles: true, cancelable: true }),
      );
    return Object.fromEntries(clipboard.types.map((type) => [type, clipboard.getData(type)]));
  });
  await page.locator('.ProseMirror .is-section p').first().click();
  await page.keyboard.press('End');
  await paste(copied);
  await isSaved(page);
  expect((await stored(page)).match(/<li>hitch<\/li>/gu)).toHaveLength(2);
});

test('a code block has a language and its colours', async ({ page }) => {
  await newTopic(page, 'Concept', 'In code');
  await page.locator(paragraph).click();
  await page.keyboard.type('Ask so:');
  await choose(page, 'codeblock');
  await page.keyboard.type('{ "station": 12 }');
  await choose(page, 'language: json');
  await expect(page.locator('.ProseMirror pre .hljs-attr')).toHaveText('"station"');
  await expect(page.locator('.ProseMirror pre .hljs-number')).toHaveText('12');
  await page.keyboard.press('End');
  await page.keyboard.press('Enter');
  await page.keyboard.type('[true]');
  await expect(
    page.locator('.ProseMirror pre .hljs-keyword, .ProseMirror pre .hljs-literal'),
  ).toHaveText('true');
  await isSaved(page);
  expect(await stored(page)).toContain(
    '<codeblock outputclass="language-json">{ "station": 12 }\n[true]</codeblock>',
  );
});

test('images that lie in what is pasted come along; with Shift only the words come', async ({
  page,
}) => {
  await newTopic(page, 'Concept', 'Pasted with pictures');
  await page.locator(paragraph).click();
  const paste = (shift: boolean): Promise<void> =>
    page.evaluate((withShift) => {
      const dot =
        'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAA' +
        'AABJRU5ErkJggg==';
      const data = new DataTransfer();
      data.setData(
        'text/html',
        `<p>Seen <b>here</b>: <img src="data:image/png;base64,${dot}" alt="A dot"></p><p>` +
          '<img src="https://elsewhere.example/x.png"> far</p>',
      );
      data.setData('text/plain', 'Seen here');
      const editor = document.querySelector('.ProseMirror')!;
      if (withShift)
        editor.dispatchEvent(
          new KeyboardEvent('keydown', { key: 'V', ctrlKey: true, shiftKey: true, bubbles: true }),
        );
      editor.dispatchEvent(
        new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
      );
    }, shift);
  await paste(false);
  await expect(page.locator('.ProseMirror .picture img')).toHaveAttribute('alt', 'A dot');
  await expect(page.getByText('Pasted without images that are not in the library.')).toBeVisible();
  await isSaved(page);
  expect(await stored(page)).toMatch(
    xml`<p>Seen <b>here</b>: <image href="asset:pasted-1${/[^"]*/u}"><alt>A dot</alt></image></p>
      <p>far</p>`,
  );
  await page.keyboard.press('End');
  await paste(true);
  await isSaved(page);
  expect(await stored(page)).toContain('farSeen here');
});

test('a video is inserted with words and a poster, played, and changed', async ({ page }) => {
  await newTopic(page, 'Concept', 'Moving pictures');
  await page.locator(paragraph).click();
  await page.keyboard.type('Look here.');
  await choose(page, 'video');
  const form = page.getByRole('dialog', { name: 'Video or sound' });
  await form.getByLabel('What it shows or says').fill('The key is held');
  await pickFound(form, 'File', 'starting.webm');
  await pickFound(form, 'Poster', 'display.svg');
  await form.getByRole('button', { name: 'Put it in' }).click();
  const video = page.locator('.ProseMirror .media video');
  await expect(video).toHaveAttribute('aria-label', 'The key is held');
  await expect
    .poll(() => video.evaluate((player: HTMLVideoElement) => player.videoWidth))
    .toBe(480);
  await isSaved(page);
  expect(await stored(page)).toMatch(
    xml`<object data="asset:starting" type="video/webm"><desc>The key is held</desc>
      <param name="poster" value="asset:display" valuetype="ref"/>`,
  );

  await page.locator('.ProseMirror .media .words').dblclick();
  await expect(form.getByLabel('What it shows or says')).toHaveValue('The key is held');
  await pickFound(form, 'File', 'none: at an address');
  await form.getByLabel('Address').fill('fog horn');
  await expect(form.getByRole('alert')).toHaveText('An address begins with https://.');
  await form.getByLabel('Address').fill('https://tides.example/fog.mp3');
  await page.keyboard.press('Enter');
  await expect(page.locator('.ProseMirror .media .words')).toHaveText(
    'The key is held · https://tides.example/fog.mp3',
  );
  await expect(video).toHaveCount(0);
});

test('terms of the glossary say what they mean, and parts are made to open', async ({ page }) => {
  await page.goto('/write/set-the-datum');
  await expect(
    page.locator('.ProseMirror .link-whole', { hasText: 'benchmark' }).first(),
  ).toHaveAttribute('title', /^benchmark: A bolt or mark /u);
  await newTopic(page, 'Concept', 'Parts that open');
  await page.locator(paragraph).click();
  await page.keyboard.type('First.');
  await choose(page, 'section');
  await page.keyboard.type('In depth');
  await page.keyboard.press('Enter');
  await page.keyboard.type('All the words.');
  await choose(page, 'expandable');
  await expect(page.locator('.ProseMirror .is-section.opens')).toContainText('All the words.');
  for (let count = 0; count < 6; count += 1) await page.keyboard.press('Shift+ArrowLeft');
  await choose(page, 'expandable words');
  await isSaved(page);
  expect(await stored(page)).toMatch(
    xml`<section outputclass="expandable">
      <title>In depth</title>${/[^]*/u}All the <ph outputclass="expandable">words.</ph>`,
  );
});
