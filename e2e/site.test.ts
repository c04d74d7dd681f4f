import { expect, test, type Page } from './test.ts';
import { compose } from '@ukiyo/core/compose';
import { textLibrary } from '@ukiyo/core/library';
import { shippedSheets, type StyleSheet } from '@ukiyo/core/styles';
import { faults } from './faults.ts';
import { demoContent, folderOf } from './folder.ts';

let address = '';
const pages: string[] = [];

test.beforeAll(async () => {
  const content = await demoContent();
  const assets = new Map(content.assets.map((asset) => [asset.id, asset]));
  const open = ['product', 'platform', 'country'];
  const lens = content.lenses.find(({ id }) => id === 'reader-chooses')!;
  const made = folderOf(
    compose({
      library: textLibrary(content.items, content.assets),
      map: 'help',
      lens,
      facets: content.facets,
      open,
    }),
    (id) => assets.get(id),
    {
      choices: open.map((facet) => ({ facet, label: '', pick: 'one', preset: [] })),
    },
  );
  address = made.address;
  pages.push(...made.paths.filter((path) => path.endsWith('.html')));
});

test('works from a folder: contents, search, index and image maps', async ({ page }) => {
  const failures: string[] = [];
  page.on('pageerror', (error) => failures.push(error.message));
  await page.goto(`${address}/index.html`);
  await page.getByRole('button', { name: 'Mounting the station' }).click();
  await page.getByRole('link', { name: '3.2 Fit the bracket' }).click();
  await expect(page.locator('[aria-current=page]')).toHaveText('3.2 Fit the bracket');
  await page.keyboard.press('/');
  await page.keyboard.type('tightening');
  await page.locator('#results').getByRole('link').first().click();
  await expect(page.locator('mark').first()).toHaveText(/^tight/iu);
  await page.goto(`${address}/which-way-to-look.html`);
  await page
    .locator('area')
    .nth(1)
    .evaluate((area: HTMLAreaElement) => area.click());
  await expect(page.getByRole('heading', { level: 1 })).toContainText('There is no reading');
  expect(failures).toEqual([]);
});

const widths = { phone: 390, tablet: 820, desk: 1280 };
/**
 * A whole look takes some seconds, most of it for colours and for the contents beside the page,
 * which are the same on each: these show every kind of content.
 */
const ofEveryKind = [
  'index.html',
  'fit-the-bracket.html',
  'terminal-strip.html',
  'alarm-codes.html',
  'cabinet-layout.html',
];
/** Kinds of markup in the main part of the page: elements with their classes, in one another. */
const markupOf = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const nameOf = ({ localName, classList, attributes }: Element): string =>
      [localName, ...classList, ...[...attributes].map(({ name }) => `[${name}]`)].join('.');
    return [...document.querySelectorAll('main *')].map(
      (element) => `${nameOf(element.parentElement!)} > ${nameOf(element)}`,
    );
  });
/** Kinds of markup that axe has looked at, at any width. */
const seen = new Set<string>();

Object.entries(widths).forEach(([name, width], at) => {
  test(`has no fault that axe finds and no sideways scrolling on a ${name}`, async ({ page }) => {
    const fits = async (path: string): Promise<void> =>
      expect(
        await page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth),
        `${path} on a ${name}`,
      ).toBe(true);
    // Of all other pages each of these tests takes its own third, at every width. Axe looks at
    // those with markup that no page before them had, without contents and colours.
    for (const [index, path] of pages.entries()) {
      const isWhole = ofEveryKind.includes(path);
      if (!isWhole && index % 3 !== at) continue;
      await page.setViewportSize({ width, height: 800 });
      await page.goto(`${address}/${path}`);
      const markup = await markupOf(page);
      if (isWhole || markup.some((kind) => !seen.has(kind)))
        expect(
          await faults(page, isWhole ? {} : { within: 'main', exceptRules: ['color-contrast'] }),
          path,
        ).toEqual([]);
      for (const kind of markup) seen.add(kind);
      await fits(path);
      for (const other of Object.values(widths)) {
        await page.setViewportSize({ width: other, height: 800 });
        await fits(path);
      }
    }
    expect(seen.size).toBeGreaterThan(100);
  });
});

test('what is touched on a tablet or phone is large enough for a thumb', async ({ page }) => {
  for (const width of [widths.tablet, widths.phone]) {
    await page.setViewportSize({ width, height: 1100 });
    await page.goto(`${address}/fit-the-bracket.html`);
    await page.getByRole('button', { name: 'Contents and index' }).click();
    const side = page.getByRole('navigation', { name: 'Contents and index' });
    const small = (): Promise<string[]> =>
      side.locator('a, button').evaluateAll((targets) =>
        targets.flatMap((target) => {
          const { width: wide, height: high } = target.getBoundingClientRect();
          return high > 0 &&
            (Math.round(high) < 44 ||
              (target.tagName === 'BUTTON' && target.textContent === '' && wide < 44))
            ? [`${target.textContent} ${wide} × ${high}`]
            : [];
        }),
      );
    await expect(side.getByRole('link', { name: '3.3 Hang the stilling well' })).toBeVisible();
    expect(await small()).toEqual([]);
    await page.getByRole('tab', { name: 'Index' }).click();
    await expect(page.locator('.words li').first()).toBeVisible();
    expect(await small()).toEqual([]);
    expect((await side.boundingBox())!.width).toBe(width === widths.phone ? width : 380);
  }
});

test('asks nobody else for anything, and leaves no mark but what was chosen', async ({
  page,
  context,
}) => {
  const asked: string[] = [];
  page.on('request', (request) => void asked.push(request.url()));
  for (const path of ofEveryKind) {
    await page.goto(`${address}/${path}`);
    await page.getByLabel('Model').selectOption('tern-q');
    await page.locator('#search').fill('bracket');
    await page.locator('#results').getByRole('link').first().waitFor();
  }
  expect(asked.length).toBeGreaterThan(50);
  expect(asked.filter((url) => !url.startsWith(address) && !url.startsWith('data:'))).toEqual([]);
  expect(await context.cookies()).toEqual([]);
  expect(
    await page.evaluate(() => [...Object.keys(localStorage), ...Object.keys(sessionStorage)]),
  ).toEqual(['site-readers']);
});

test('opens its contents on a phone and is readable in the dark', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 800 });
  await page.emulateMedia({ colorScheme: 'dark' });
  await page.goto(`${address}/fit-the-bracket.html`);
  await page.getByRole('button', { name: 'Contents and index' }).click();
  await expect(page.getByRole('link', { name: '3.3 Hang the stilling well' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('link', { name: '3.3 Hang the stilling well' })).toBeHidden();
  expect(await faults(page)).toEqual([]);
});

test('parts and words stay closed until they are opened, searched for or led to', async ({
  page,
}) => {
  const care =
    '<concept id="care"><title>Care</title><conbody><p>Wipe the glass ' +
    '<ph outputclass="expandable">with a <b>chamois</b> cloth</ph>.</p>' +
    '<section id="salt" outputclass="expandable"><title>After salt water</title>' +
    '<p id="rinse">Rinse the hinge with fresh water.</p></section></conbody></concept>';
  const map = '<map id="small"><title>Small help</title><topicref href="topic:care"/></map>';
  const library = textLibrary([
    { id: 'care', kind: 'topic', text: care },
    { id: 'small', kind: 'map', text: map },
  ]);
  const { address: small } = folderOf(compose({ library, map: 'small' }));
  const words = page.locator('.expandable');
  const part = page.getByText('Rinse the hinge');

  await page.goto(`${small}/care.html`);
  await expect(words).toBeHidden();
  await expect(part).toBeHidden();
  const more = page.locator('.more');
  await more.focus();
  await page.keyboard.press('Enter');
  await expect(words).toBeVisible();
  await expect(more).toHaveAttribute('aria-expanded', 'true');
  await page.keyboard.press('Enter');
  await expect(words).toBeHidden();
  await page.getByText('After salt water').click();
  await expect(part).toBeVisible();
  expect(await faults(page)).toEqual([]);

  await page.goto(`${small}/index.html`);
  await page.keyboard.press('/');
  await page.keyboard.type('chamois');
  await page.locator('#results').getByRole('link').first().click();
  await expect(words).toBeVisible();
  await expect(part).toBeHidden();

  await page.goto(
    `${small}/care.html#${await page.locator('details [id]').first().getAttribute('id')}`,
  );
  await expect(part).toBeVisible();
});

test('marks of notes meet their first line by tops or by baselines, at any size', async ({
  page,
}) => {
  const text =
    '<concept id="a"><title>A</title><conbody><note type="danger">Mains voltage kills.</note>' +
    '<note type="tip">Lock the switch.</note></conbody></concept>';
  const publication = compose({
    library: textLibrary(
      [
        { id: 'a', kind: 'topic', text },
        {
          id: 'm',
          kind: 'map',
          text: '<map id="m"><title>M</title><topicref href="topic:a"/></map>',
        },
      ],
      [],
    ),
    map: 'm',
  });
  for (const size of ['3mm', '8mm', '30pt']) {
    const mark = { icon: 'square', size, place: 'before the text', words: {} } as const;
    const sheet: StyleSheet = {
      ...shippedSheets['workshop']!,
      marks: { danger: { ...mark, meets: 'top' }, tip: { ...mark, meets: 'baseline' } },
    };
    const site = folderOf(publication, undefined, { sheet });
    await page.goto(`${site.address}/a.html`);
    const apart = await page.evaluate(async () => {
      await document.fonts.ready;
      const boxIn = (place: Element, style: string): DOMRect => {
        const box = place.appendChild(document.createElement('span'));
        box.style.cssText = `display: inline-block; ${style}`;
        const found = box.getBoundingClientRect();
        box.remove();
        return found;
      };
      const distance = (note: Element): number => {
        const [word, image] = [
          note.querySelector('.note-word')!,
          note.querySelector('.note-mark')!,
        ];
        // A box without height stands on the baseline; one beside the mark, as large as it, stands
        // as high as it does.
        const baseline = boxIn(word, 'width: 0; height: 0').bottom;
        const mark = boxIn(
          image,
          'width: var(--mark-size); height: var(--mark-size); margin-bottom: var(--mark-drop)',
        );
        const pen = document.createElement('canvas').getContext('2d')!;
        const { fontWeight, fontSize, fontFamily } = getComputedStyle(word);
        pen.font = `${fontWeight} ${fontSize} ${fontFamily}`;
        // How high capitals are is asked of the face itself.
        return note.matches('.danger')
          ? mark.top - (baseline - pen.measureText('H').actualBoundingBoxAscent)
          : mark.bottom - baseline;
      };
      return {
        tops: distance(document.querySelector('.note.danger')!),
        baselines: distance(document.querySelector('.note.tip')!),
      };
    });
    for (const [which, distance] of Object.entries(apart))
      expect(Math.abs(distance), `${size}, ${which}: ${distance}`).toBeLessThan(1);
  }
});
