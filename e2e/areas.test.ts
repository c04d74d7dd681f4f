import { expect, test, type Locator, type Page } from './test.ts';
import { faults } from './faults.ts';
import { choose, isSaved, newTopic, stored } from './pages.ts';
import { signIn } from './people.ts';
import { xml } from './xml.ts';

test.beforeEach(({ page }) => signIn(page, 'noor'));

/** By keys: opened with Enter on the image, an area from its button, moved, sized, removed. */
async function editByKeys(page: Page, editor: Locator): Promise<void> {
  await page.keyboard.press('Enter');
  await editor.getByRole('button', { name: 'Rectangle' }).focus();
  await page.keyboard.press('Enter');
  await expect(editor.getByLabel('Name of the area')).toHaveValue('Area 4');
  const before = await editor.locator('polygon.on').getAttribute('points');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowDown');
  expect(await editor.locator('polygon.on').getAttribute('points')).not.toBe(before);
  await page.keyboard.press('Delete');
  await expect(editor.locator('polygon')).toHaveCount(3);
  await editor.getByRole('button', { name: /^Lid/u }).click();
  await editor.getByRole('button', { name: 'Remove the area' }).click();
  await editor.getByRole('button', { name: 'Keep the areas' }).click();
  await isSaved(page);
  expect(await stored(page)).not.toContain('Lid');
  await page.keyboard.press('Control+z');
  await isSaved(page);
  expect(await stored(page)).toContain('Lid');
}

test('areas are drawn on an image, named, led somewhere, moved and removed', async ({ page }) => {
  await newTopic(page, 'Concept', 'A map of the cabinet');
  await page.locator('.ProseMirror .is-conbody p').click();
  await choose(page, 'image map');
  await page.getByRole('combobox', { name: 'Which image' }).fill('cabinet');
  await page.keyboard.press('Enter');
  await page
    .getByRole('dialog', { name: 'Alternative text' })
    .getByRole('textbox')
    .fill('The open cabinet');
  await page.keyboard.press('Enter');
  await page.locator('.ProseMirror .picture img').dblclick();
  const editor = page.getByRole('dialog', { name: 'Areas of the image' });
  const image = (await editor.locator('svg').boundingBox())!;
  const at = (x: number, y: number): [number, number] => [
    image.x + image.width * x,
    image.y + image.height * y,
  ];
  const drag = async (from: [number, number], to: [number, number]): Promise<void> => {
    await page.mouse.move(...from);
    await page.mouse.down();
    await page.mouse.move(...to, { steps: 4 });
    await page.mouse.up();
  };
  await drag(at(0.1, 0.1), at(0.3, 0.3));
  await editor.getByLabel('Name of the area').fill('Lid');
  await editor.getByLabel('Tooltip').fill('Opens upward');
  await editor.getByRole('button', { name: 'Target: choose' }).click();
  await page.getByRole('combobox', { name: 'Where the link leads' }).fill('alarm codes');
  await page.keyboard.press('Enter');
  await editor.getByRole('button', { name: 'Circle' }).click();
  await drag(at(0.6, 0.5), at(0.65, 0.5));
  await editor.getByLabel('Name of the area').fill('Dial');
  await editor.getByText('opens in a new window').click();
  await editor.getByRole('button', { name: 'Target: choose' }).click();
  await page.getByRole('combobox', { name: 'Where the link leads' }).fill('https://tides.example/');
  await page.keyboard.press('Enter');
  await editor.getByRole('button', { name: 'Polygon' }).click();
  for (const corner of [at(0.25, 0.25), at(0.45, 0.25), at(0.45, 0.45)])
    await page.mouse.click(...corner);
  await page.mouse.click(...at(0.25, 0.25));
  await expect(editor.getByText('lies over “Lid”')).toBeVisible();
  expect(await faults(page, { within: '.areas' })).toEqual([]);
  await page.screenshot({ path: test.info().outputPath('areas.png') });
  // Moved away by hand, the two no longer meet.
  await drag(at(0.42, 0.3), at(0.62, 0.3));
  await expect(editor.getByText(/lies over/u)).toHaveCount(0);
  await editor.getByRole('button', { name: 'Keep the areas' }).click();
  await isSaved(page);
  const text = (await stored(page)).replace(/\s*\n\s*/gu, '');
  expect(text).toMatch(
    xml`<area><shape>rect</shape><coords>${/\d+,\d+,\d+,\d+/u}</coords>
      <xref href="topic:alarm-codes">Lid<desc>Opens upward</desc></xref></area>`,
  );
  expect(text).toMatch(
    xml`<area><shape>circle</shape><coords>${/\d+,\d+,\d+/u}</coords>
      <xref format="html" href="https://tides.example/" outputclass="new-window"
      ${/ /u}scope="external">Dial</xref>
      </area>`,
  );
  expect(text).toMatch(
    /<area><shape>poly<\/shape><coords>(\d+,){5}\d+<\/coords><xref>Area 3<\/xref><\/area>/u,
  );
  await editByKeys(page, editor);
});
