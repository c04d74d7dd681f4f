import { expect, test, type Page } from './test.ts';
import { faults } from './faults.ts';
import { isSaved, newTopic, projectOf, stored } from './pages.ts';
import { signIn } from './people.ts';
import { xml } from './xml.ts';

test.beforeEach(({ page }) => signIn(page, 'noor'));
const lines = (page: Page) => page.locator('.cm-content');
/** Puts the caret at the end of the line that holds some text, or so many letters before. */
async function caretInLine(page: Page, text: string, before = 0): Promise<void> {
  await page.locator('.cm-line', { hasText: text }).click();
  await page.keyboard.press('End');
  for (let count = 0; count < before; count += 1) await page.keyboard.press('ArrowLeft');
}

test('a topic is written as source, with completion and errors, and taken in when valid', async ({
  page,
}) => {
  await newTopic(page, 'Concept', 'From the source');
  await page.locator('.ProseMirror .is-conbody p').click();
  await page.keyboard.type('First words.');
  await page.keyboard.press('Alt+6');
  await expect(lines(page)).toContainText('<p>First words.</p>');
  await caretInLine(page, 'First words.</p>');
  await page.keyboard.type('<not');
  await expect(page.locator('.cm-tooltip-autocomplete')).toContainText('Note');
  await page.keyboard.press('Escape');
  await page.keyboard.type('e');
  await expect(page.getByText('Not in the topic yet')).toContainText('not well-formed');
  await expect(page.getByText('Not in the topic yet')).toBeInViewport();
  await expect(page.getByText('Not saved yet')).toBeVisible();
  await expect(page.locator('.cm-lintRange-error')).not.toHaveCount(0);
  // It cannot be left as it is, and says why.
  await page.keyboard.press('Alt+1');
  await expect(page.getByText(/^The text cannot go into the topic yet/u)).toBeVisible();
  await expect(lines(page)).toBeVisible();
  await page.keyboard.type(' type="danger">Mind the edge.');
  await expect(page.getByText('Not in the topic yet')).toHaveCount(0);
  await isSaved(page);
  expect(await stored(page)).toMatch(
    /<p>First words\.<\/p>\s*<note type="danger">Mind the edge\.<\/note>/u,
  );
  await page.keyboard.press('Alt+6');
  await expect(page.locator('.ProseMirror .is-note')).toContainText('Mind the edge.');
  await page.locator('.ProseMirror .is-note').click();
  await page.keyboard.press('Control+z');
  await isSaved(page);
  expect(await stored(page)).not.toContain('Mind the edge');
});

test('what somebody else writes meanwhile stays, in the source and in the topic', async ({
  page,
  browser,
}) => {
  await newTopic(page, 'Concept', 'Source and page');
  const other = await browser.newPage();
  await signIn(other, 'teo', page.url());
  await page.keyboard.press('Alt+6');
  await expect(lines(page)).toContainText('<conbody>');
  await caretInLine(page, '<title>Source and page', '</title>'.length);
  await page.keyboard.type(' & <');
  await expect(page.getByText('Not in the topic yet')).toBeVisible();
  await other.locator('.ProseMirror .is-conbody p').click();
  await other.keyboard.type('Words from the page.');
  await isSaved(other);
  for (let count = 0; count < ' & <'.length; count += 1) await page.keyboard.press('Backspace');
  await page.keyboard.type('!');
  await expect(lines(page)).toContainText('Words from the page.');
  await expect(other.locator('.ProseMirror .is-title').first()).toHaveText('Source and page!');
  await isSaved(page);
  const text = await stored(page);
  expect(text).toContain('<title>Source and page!</title>');
  expect(text).toContain('<p>Words from the page.</p>');
  await other.close();
});

test('a topic is written as Markdown where possible, and refused with a reason where not', async ({
  page,
}) => {
  await newTopic(page, 'Concept', 'Plainly');
  await page.locator('.ProseMirror .is-conbody p').click();
  await page.keyboard.type('Words.');
  await page.keyboard.press('Alt+7');
  await expect(lines(page)).toContainText('# Plainly');
  await page.keyboard.press('Control+End');
  await page.keyboard.insertText('\n- *one*\n- two\n\n## More\n\nSaid `so`.\n');
  await isSaved(page);
  await expect
    .poll(() => stored(page))
    .toMatch(
      xml`<ul><li><i>one</i></li><li>two</li></ul><section><title>More</title>
        <p>Said <codeph>so</codeph>.</p>`,
    );
  await page.keyboard.insertText('\n<div>x</div>\n');
  await expect(page.getByText('Not in the topic yet')).toContainText(
    'HTML has no place in this topic.',
  );
  await page.getByRole('button', { name: 'Discard changes' }).click();
  await expect(lines(page)).not.toContainText('div');

  await page.goto('/write/fit-the-bracket');
  await expect(page.locator('.ProseMirror .is-cmd').first()).toBeVisible();
  await page.keyboard.press('Alt+7');
  await expect(page.getByText(/cannot be written in Markdown\./u)).toBeVisible();
  await expect(page.locator('.ProseMirror')).toBeVisible();
  await page.keyboard.press('Alt+6');
  await expect(lines(page)).toContainText('<task id="fit-the-bracket"');
  expect(await faults(page)).toEqual([]);
});

test('what cannot be read of a text that was left keeps no topic from opening', async ({
  page,
}) => {
  await newTopic(page, 'Concept', 'Torn leftover');
  const project = await projectOf(page);
  const id = page.url().split('/').at(-1)!;
  await page.evaluate(
    (name) => localStorage.setItem(name, '{"language":"sou'),
    `ukiyo-text ${project.replace('/api', '')} ${id}`,
  );
  await page.reload();
  await expect(page.locator('.ProseMirror')).toContainText('Torn leftover');
  await expect(page.getByText('not in the topic')).toHaveCount(0);
});

test('a text that was not in the topic yet when the browser went down is offered again', async ({
  page,
}) => {
  await newTopic(page, 'Concept', 'Torn source');
  await page.keyboard.press('Alt+6');
  await caretInLine(page, '<title>Torn source</title>');
  await page.keyboard.insertText('<shortdesc>Half a');
  await expect(page.getByText('Not in the topic yet')).toContainText('not well-formed');
  // The page goes without being asked, as when the browser is killed.
  const address = page.url();
  const again = await page.context().newPage();
  await page.close({ runBeforeUnload: false });
  await again.goto(address);
  await again.getByRole('button', { name: 'Open text' }).click();
  await expect(lines(again)).toContainText('Half a');
  await caretInLine(again, 'Half a');
  await again.keyboard.insertText(' tide.</shortdesc>');
  await expect(again.getByText('Not in the topic yet')).toHaveCount(0);
  await isSaved(again);
  await expect.poll(() => stored(again)).toContain('<shortdesc>Half a tide.</shortdesc>');
  await again.reload();
  await expect(again.locator('.ProseMirror')).toContainText('Half a tide.');
  await expect(again.getByRole('button', { name: 'Open text' })).toHaveCount(0);
});
