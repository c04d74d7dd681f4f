import { expect, test, type Page } from './test.ts';
import { choose, isSaved, stored } from './pages.ts';
import { openLibrary } from './people.ts';
import { xml } from './xml.ts';

test.beforeEach(({ page }) => openLibrary(page, 'noor'));
const short = async (page: Page): Promise<string> => (await stored(page)).replace(/\s*\n\s*/gu, '');

/** Makes a topic without the mouse; the caret then stands where the first words go. */
async function begin(page: Page, kind: string, title: string): Promise<void> {
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('listbox', { name: 'Found' })).toBeVisible();
  await page.keyboard.type('new topic');
  await page.keyboard.press('Enter');
  const wanted = page.getByRole('radio', { name: kind, exact: true });
  await expect(page.locator('input[type=radio]:focus')).toHaveCount(1);
  for (let count = 0; count < 8 && !(await wanted.isChecked()); count += 1)
    await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Tab');
  await page.keyboard.type(title);
  await page.keyboard.press('Enter');
  await expect(page.locator('.ProseMirror')).toBeFocused();
  await page.keyboard.press('Shift');
}
/** Types words, and goes on to the next place. */
async function say(page: Page, words: string, key = 'Enter'): Promise<void> {
  await page.keyboard.type(words);
  await page.keyboard.press(key);
}
async function link(page: Page, target: string): Promise<void> {
  await page.keyboard.type('[[');
  await expect(page.getByRole('combobox', { name: 'Where the link leads' })).toBeFocused();
  await page.keyboard.type(target);
  await page.keyboard.press('Enter');
}

test('a concept is written by keys alone', async ({ page }) => {
  await begin(page, 'Concept', 'How tides come about');
  await say(page, 'The moon and the sun pull at the water.');
  await page.keyboard.type('Twice a day the water rises; see ');
  await link(page, 'set the datum');
  await say(page, '.');
  await choose(page, 'bullet list');
  await say(page, 'Springs follow the full moon.');
  await say(page, 'Neaps follow the quarters.');
  await page.keyboard.press('Enter');
  await choose(page, 'note');
  await page.keyboard.type('Wind adds to both.');
  await isSaved(page);
  expect(await short(page)).toMatch(
    xml`<shortdesc>The moon and the sun pull at the water.</shortdesc><conbody>
      <p>Twice a day the water rises; see <xref href="topic:set-the-datum"/>.</p><ul>
      <li>Springs follow the full moon.</li><li>Neaps follow the quarters.</li></ul>
      <note>Wind adds to both.</note></conbody>`,
  );
  await expect(page.getByText('0 problems')).toBeVisible();
});

test('a task with a table, an image map and links is written by keys alone', async ({ page }) => {
  await begin(page, 'Task', 'Check the glands');
  await say(page, 'Do this before the cabinet is closed.');
  await say(page, 'The mains is off.', 'ArrowDown');
  await say(page, 'Each gland lets one cable in.', 'ArrowDown');
  await say(page, 'Turn each gland by hand.');
  await page.keyboard.type('Compare the torque.');
  await choose(page, 'more on the step');
  await choose(page, 'table');
  await expect(page.getByRole('dialog', { name: 'New table' })).toBeVisible();
  await page.keyboard.press('Enter');
  for (const words of ['Gland', 'Cable', 'Torque', 'M16', 'sensor', '3 Nm', 'M20', 'mains'])
    await say(page, words, 'Tab');
  await page.keyboard.type('5 Nm');
  // Out of the table, to the result.
  await page.keyboard.press('ArrowDown');
  await page.keyboard.type('No gland turns any more; see ');
  await link(page, 'alarm codes');
  await say(page, '.');
  await choose(page, 'image map');
  await page.keyboard.type('cabinet');
  await page.keyboard.press('Enter');
  await page.keyboard.type('The open cabinet');
  await page.keyboard.press('Enter');
  await isSaved(page);
  // The image is selected: Enter draws its areas.
  await page.keyboard.press('Enter');
  const areas = page.getByRole('dialog', { name: 'Areas of the image' });
  await expect(areas).toBeVisible();
  const tabTo = async (name: string): Promise<void> => {
    for (let count = 0; count < 20; count += 1) {
      await page.keyboard.press('Tab');
      const focused = await page.evaluate(
        () =>
          document.activeElement?.getAttribute('aria-label') ??
          document.activeElement?.textContent ??
          '',
      );
      if (focused.includes(name)) return;
    }
    throw new Error(`No way to “${name}” by Tab`);
  };
  await tabTo('Rectangle');
  await page.keyboard.press('Enter');
  await tabTo('Name of the area');
  await page.keyboard.type('Glands');
  await tabTo('Target: choose');
  await page.keyboard.press('Enter');
  await page.keyboard.type('alarm codes');
  await page.keyboard.press('Enter');
  await expect(areas.getByRole('button', { name: 'Target: Alarm codes' })).toBeVisible();
  await tabTo('Keep the areas');
  await page.keyboard.press('Enter');
  await isSaved(page);
  const text = await short(page);
  expect(text).toContain(
    '<prereq><p>The mains is off.</p></prereq><context><p>Each gland lets one cable in.</p>' +
      '</context>',
  );
  expect(text).toContain(
    '<step><cmd>Turn each gland by hand.</cmd></step><step><cmd>Compare the torque.</cmd>' +
      '<info><table>',
  );
  expect(text).toContain('<row><entry>M20</entry><entry>mains</entry><entry>5 Nm</entry></row>');
  expect(text).toMatch(/No gland turns any more; see <xref href="topic:alarm-codes"\/>\./u);
  expect(text).toMatch(
    xml`<imagemap>${/.*/u}<alt>The open cabinet</alt>${/.*/u}<area><shape>rect</shape>
      <coords>${/[\d,]+/u}</coords><xref href="topic:alarm-codes">Glands</xref></area>
      </imagemap>`,
  );
});

test('a reference is written by keys alone', async ({ page }) => {
  await begin(page, 'Reference', 'Colours of the lamp');
  await say(page, 'What the lamp at the cabinet says.');
  await say(page, 'While it works');
  await page.keyboard.type('The lamp can be seen from the quay.');
  await choose(page, 'properties');
  for (const words of ['Colour', 'Rhythm', 'Meaning', 'green', 'steady', 'ready', 'red', 'quick'])
    await say(page, words, 'Tab');
  await page.keyboard.type('alarm');
  await isSaved(page);
  expect(await short(page)).toContain(
    '<proptype>red</proptype><propvalue>quick</propvalue><propdesc>alarm</propdesc>',
  );
  await expect(page.getByText('0 problems')).toBeVisible();
});
