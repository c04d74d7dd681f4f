import { expect, test } from './test.ts';
import { faults } from './faults.ts';

test('what looks for faults finds them, where it looks', async ({ page }) => {
  await page.setContent(
    '<html lang="en"><title>A page</title><main><img src="x.png">' +
      '<p style="color:#999;background:#fff">Pale words</p></main><footer><button></button>' +
      '</footer></html>',
  );
  const found = await faults(page);
  expect(found.map((fault) => fault.split(':')[0])).toEqual([
    'button-name',
    'color-contrast',
    'image-alt',
  ]);
  expect(found[2]).toContain('<img src="x.png">');
  expect(await faults(page, { within: 'footer' })).toHaveLength(1);
  expect(await faults(page, { without: 'footer', exceptRules: ['color-contrast'] })).toHaveLength(
    1,
  );
  expect(
    (await faults(page, { withPractices: true })).map((fault) => fault.split(':')[0]),
  ).toContain('page-has-heading-one');
});
