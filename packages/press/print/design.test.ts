import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  pageGeometry,
  shippedPlans,
  shippedSheets,
  withStyle,
  withValue,
  type NoteMark,
  type PagePlan,
  type StyleSheet,
} from '@ukiyo/core/styles';
import { composeTexts, concept } from '@ukiyo/core/testing';
import type { Publication } from '@ukiyo/core/compose';
import jsQR from 'jsqr';
import { describe, expect, it } from 'vitest';
import { composeDemo, demoAssets } from '../testing/demo.ts';
import { printer, type Page, type Word } from '../testing/printed.ts';
import {
  createPrintEngine,
  layoutOf,
  printPublication,
  proofPublication,
  proofTopic,
  proofWhole,
  specimen,
  usualDesign,
} from './index.ts';

/** Geometry is read from the PDF itself, by poppler-utils of Debian. */
const engine = createPrintEngine();
const { printed, folder } = printer(engine);
let drawings = 0;
const points = 72 / 25.4;

const words =
  'Keep one hand on the rail while the ladder is wet and let the other one carry the line ' +
  'down to the water of the harbour. ';
const long = (paragraphs: number): string =>
  Array.from({ length: paragraphs }, () => `<p>${words.repeat(3)}</p>`).join('');
const book = (body: string, more = ''): Publication =>
  composeTexts([
    '<bookmap id="m"><booktitle><mainbooktitle>M</mainbooktitle></booktitle>' +
      `<chapter href="topic:a"/>${more}</bookmap>`,
    concept('a', body),
  ]);
const bare = (plan: PagePlan): PagePlan => ({ ...plan, cover: 'none' });
const workshop = shippedSheets['workshop']!;

describe('a page plan on paper', () => {
  it.each(Object.entries(shippedPlans))(
    '%s: paper, and text from edge to edge of its column, on right and left pages',
    async (_id, plan) => {
      const { pages } = await printed(book(long(30)), {
        sheet: withValue(workshop, 'paragraph', {
          name: 'hyphenate',
          medium: 'print',
          value: true,
        }),
        plan: bare(plan),
      });
      const { width, height, text } = pageGeometry(plan);
      expect(pages.length).toBeGreaterThan(2);
      pages.forEach((page, index) => {
        expect(page.width).toBeCloseTo(width * points, 1);
        expect(page.height).toBeCloseTo(height * points, 1);
        const left = (index % 2 === 0 ? text.right : text.left) * points;
        const inside = page.words.filter(
          ({ y }) => y > text.top * points && y < (text.top + text.height) * points - 4,
        );
        expect(Math.min(...inside.map(({ x }) => x)), `page ${index + 1}`).toBeCloseTo(left, 0);
        // Justified lines end where the column ends.
        if (index === 1)
          expect(Math.max(...inside.map(({ end }) => end))).toBeCloseTo(
            left + text.width * points,
            0,
          );
      });
    },
  );
});

describe('a page plan on paper', () => {
  it('fills its slots, and numbers pages by part and by chapter', async () => {
    const slots = {
      start: [{ field: 'title' as const }],
      middle: [{ field: 'text' as const, words: 'MIDDLE' }],
      end: [{ field: 'page' as const }],
    };
    const plan: PagePlan = {
      ...bare(shippedPlans['a5-pocket']!),
      head: { right: slots, left: slots, opening: null },
      numbering: { front: 'I', body: 'chapter-page' },
      chaptersBegin: 'on a right page',
      blankWords: 'LEFTBLANK',
    };
    const publication = composeTexts([
      '<bookmap id="m"><booktitle><mainbooktitle>Harbour</mainbooktitle></booktitle>' +
        '<frontmatter><booklists><toc/></booklists></frontmatter><chapter href="topic:a"/>' +
        '<chapter href="topic:b"/></bookmap>',
      concept('a', long(2)),
      concept('b', long(12)),
    ]);
    const { pages } = await printed(publication, { sheet: workshop, plan });
    const text = pages.map((page) => page.words.map((word) => word.text).join(' '));
    const heads = text.map((page) => /^Harbour MIDDLE (\S+)/u.exec(page)?.[1] ?? page);
    expect(heads).toEqual(['I', 'LEFTBLANK', '1-1', 'LEFTBLANK', '2-1', '2-2', ...heads.slice(6)]);
    expect(text[0]).toMatch(/1 a [ .]*1-1 2 b [ .]*2-1/u);
    // Where a chapter begins there can be others, or none.
    const opening = { ...slots, middle: [{ field: 'text' as const, words: 'OPENING' }] };
    const own = await printed(publication, {
      sheet: workshop,
      plan: {
        ...plan,
        head: { ...plan.head, opening },
        foot: { right: slots, left: slots, opening: { start: [], middle: [], end: [] } },
      },
    });
    const said = own.pages.map((page) =>
      page.words.map((word) => word.text).filter((word) => ['OPENING', 'MIDDLE'].includes(word)),
    );
    expect(said.slice(0, 6)).toEqual([
      ['OPENING'],
      [],
      ['OPENING'],
      [],
      ['OPENING'],
      ['MIDDLE', 'MIDDLE'],
    ]);
    const [start] = pages[2]!.words;
    const middle = pages[2]!.words.find((word) => word.text === 'MIDDLE')!;
    const { text: column } = pageGeometry(plan);
    expect(start!.x).toBeCloseTo(column.right * points, 0);
    expect((middle.x + middle.end) / 2).toBeCloseTo((column.right + column.width / 2) * points, 0);
  });
  it('without room is said, and the manual is set on another one', async () => {
    const { pages, problems } = await printed(book(long(1)), {
      sheet: workshop,
      plan: {
        ...bare(shippedPlans['a4-margin']!),
        margins: { top: '200mm', bottom: '200mm', inner: '1mm', outer: '1mm' },
      },
    });
    expect(problems.map(({ code }) => code)).toEqual(['plan.no-room']);
    expect(pages.length).toBeGreaterThan(0);
  });
});

describe('a page plan on paper', () => {
  it('sets pages with a watermark, in columns, and lying on their sides', async () => {
    const { file, pages } = await printed(book(long(24)), {
      sheet: workshop,
      plan: {
        ...bare(shippedPlans['a4-margin']!),
        lies: 'on its side',
        watermark: 'DRAFT',
        columns: 2,
      },
    });
    expect(pages[1]!.width).toBeCloseTo(297 * points, 1);
    // Aslant, so that each letter is a word of its own to poppler.
    expect(
      execFileSync('pdftotext', ['-raw', '-f', '2', '-l', '2', file, '-'], {
        encoding: 'utf8',
      }).replace(/\s/gu, ''),
    ).toContain('DRAFT');
    const { text } = pageGeometry({ ...shippedPlans['a4-margin']!, lies: 'on its side' });
    const starts = pages[1]!.words.filter((word) => word.text === 'Keep').map(({ x }) => x);
    const second = (text.left + (text.width + 7) / 2) * points;
    expect(
      starts.some((x) => Math.abs(x - text.left * points) < 1) &&
        starts.some((x) => Math.abs(x - second) < 1),
    ).toBe(true);
  });
});

const fine = 720;
/** Where ink begins and ends between two edges, in points from the top of the page. */
function inkBetween(
  file: string,
  page: number,
  [left, right]: readonly [number, number],
  [top, bottom]: readonly [number, number],
): { top: number; bottom: number } {
  const scale = fine / 72;
  const [x, y, width, height] = [left, top, right - left, bottom - top].map((value) =>
    Math.round(value * scale),
  ) as [number, number, number, number];
  const name = join(folder, `ink-${(drawings += 1)}`);
  execFileSync('pdftoppm', [
    '-r',
    String(fine),
    '-gray',
    '-f',
    String(page),
    '-l',
    String(page),
    '-singlefile',
    '-x',
    String(x),
    '-y',
    String(y),
    '-W',
    String(width),
    '-H',
    String(height),
    file,
    name,
  ]);
  const image = readFileSync(`${name}.pgm`);
  const pixels = image.subarray(image.length - width * height);
  const hasInk = (row: number): boolean =>
    pixels.subarray(row * width, (row + 1) * width).some((value) => value < 128);
  const rows = Array.from({ length: height }, (_, row) => row).filter(hasInk);
  return { top: top + rows[0]! / scale, bottom: top + (rows.at(-1)! + 1) / scale };
}
const exact = 0.25;
const cases = (['margin column', 'before the text'] as const).flatMap((place) =>
  (['top', 'baseline'] as const).flatMap((meets) =>
    ['4mm', '9mm', '30pt'].map((size) => ({ place, meets, size })),
  ),
);

describe('marks of notes', () => {
  it.each(cases)(
    '$place, $meets, $size: line up with the first capitals, on right and left pages',
    async ({ place, meets, size }) => {
      const mark: NoteMark = { icon: 'square', size, place, meets, words: { en: 'HHHH' } };
      const sheet: StyleSheet = { ...workshop, marks: { danger: mark } };
      const plan = bare(shippedPlans['a4-margin']!);
      const note = '<note type="danger">Mains voltage kills. Lock the switch.</note>';
      const { file, pages } = await printed(book(`${note}${long(14)}${note}${long(4)}${note}`), {
        sheet,
        plan,
      });
      const { text, column } = pageGeometry(plan);
      const found = pages.flatMap((page, index) =>
        page.words.filter((word) => word.text === 'HHHH').map((word) => ({ word, index })),
      );
      expect(found).toHaveLength(3);
      expect(new Set(found.map(({ index }) => index % 2)).size).toBe(2);
      const side = size.endsWith('mm') ? Number.parseFloat(size) * points : Number.parseFloat(size);
      for (const { word, index } of found) {
        const which = index % 2 === 0 ? 'right' : 'left';
        const isAtRight = column!.right > text.right === (which === 'right');
        const from = (place === 'margin column' ? column![which] : text[which]) * points;
        // In the outer column it stands at the edge that is nearer to the text.
        const begin =
          place === 'margin column' && !isAtRight ? from + column!.width * points - side : from;
        const band: [number, number] = [word.y - side - 6, word.y + side + 16];
        const icon = inkBetween(
          file,
          index + 1,
          [begin + side * 0.2, begin + side * 0.8],
          place === 'margin column'
            ? band
            : [
                word.y - (meets === 'baseline' ? side - 4 : 3),
                word.y + (meets === 'baseline' ? 12 : side + 4),
              ],
        );
        const letters = inkBetween(file, index + 1, [word.x, word.end], [word.y - 1, word.y + 13]);
        if (meets === 'top')
          expect(
            Math.abs(icon.top - letters.top),
            `${icon.top} ${letters.top}`,
          ).toBeLessThanOrEqual(exact);
        else
          expect(
            Math.abs(icon.bottom - letters.bottom),
            `${icon.bottom} ${letters.bottom}`,
          ).toBeLessThanOrEqual(exact);
      }
    },
  );
  it('above: stands over the first line, at the edge of the text', () => {
    const sheet: StyleSheet = {
      ...workshop,
      marks: { danger: { icon: 'square', size: '6mm', place: 'above', meets: 'top', words: {} } },
    };
    const plan = bare(shippedPlans['a4-margin']!);
    const { pages, shapes } = proofPublication({
      publication: book('<note type="danger">Mains voltage kills.</note>'),
      asset: () => undefined,
      engine,
      design: { sheet, plan },
    });
    const placed = pages[0]!.pieces.map(({ shape, at }) => ({
      svg: shapes.get(shape)!,
      x: Number(at.split(' ')[4]),
      y: Number(at.split(' ')[5]),
    }));
    const mark = placed.find(({ svg }) => svg.startsWith('<image'))!;
    const { text } = pageGeometry(plan);
    expect(mark.x).toBeCloseTo(text.right * points, 1);
    const label = placed
      .filter(({ svg, y }) => svg.startsWith('<g') && y > mark.y)
      .sort((one, other) => one.y - other.y)[0]!;
    // From its foot to the baseline there is room for the letters.
    expect(label.y - (mark.y + 6 * points)).toBeGreaterThan(6);
  });
});

describe('styles on paper', () => {
  it('put headings beside the text they belong to, first line by first line', async () => {
    const sheet = withValue(workshop, 'block-heading', {
      name: 'column',
      medium: 'print',
      value: 'in the margin column',
    });
    const plan = bare(shippedPlans['a4-margin']!);
    const { pages } = await printed(
      book(`<section><title>Sidehead</title><p>Besides begins here.</p></section>`),
      { sheet, plan },
    );
    const find = (text: string): Word => pages[0]!.words.find((word) => word.text === text)!;
    const { column, text } = pageGeometry(plan);
    expect(find('Sidehead').x).toBeCloseTo(column!.right * points, 0);
    expect(find('Besides').x).toBeCloseTo(text.right * points, 0);
    // Both are set by their baselines; the boxes that poppler gives reach as far below them as the
    // faces do.
    expect(Math.abs(find('Sidehead').y - find('Besides').y)).toBeLessThan(3);
  });
  it('lets custom styles add words before and after, change case and size', async () => {
    const own = withStyle(
      withStyle(workshop, 'wide', {
        label: 'Wide',
        base: 'paragraph',
        appliesTo: { element: 'p', outputclass: 'wide' },
        print: { size: '20pt', indentStart: '30mm', prefix: { en: 'Mind: ' }, case: 'as written' },
      }),
      'loud',
      {
        label: 'Loud',
        family: 'inline',
        appliesTo: { element: 'ph', outputclass: 'loud' },
        all: { case: 'capitals', suffix: { en: '!' } },
      },
    );
    const { pages } = await printed(
      book('<p outputclass="wide">Wideword</p><p>Plainword <ph outputclass="loud">shout</ph></p>'),
      { sheet: own, plan: bare(shippedPlans['a4-margin']!) },
    );
    const text = pages[0]!.words.map((word) => word.text).join(' ');
    expect(text).toContain('Mind: Wideword Plainword SHOUT!');
    const [mind, plain] = ['Mind:', 'Plainword'].map((one) =>
      pages[0]!.words.find((word) => word.text === one)!,
    );
    expect(mind!.x - plain!.x).toBeCloseTo(30 * points, 0);
    // In one line with the words that it stands before.
    expect(pages[0]!.words.find((word) => word.text === 'Wideword')!.y).toBeCloseTo(mind!.y, 1);
  });
});

describe('styles on paper', () => {
  it('say words before and after once, in their case, wherever they apply', async () => {
    const marked = [
      'paragraph',
      'lead',
      'label',
      'heading-1',
      'heading-2',
      'block-heading',
      'figure-title',
    ].reduce(
      (sheet, id) =>
        withValue(
          withValue(sheet, id, { name: 'prefix', medium: 'print', value: { en: `${id}: ` } }),
          id,
          { name: 'case', medium: 'print', value: 'capitals' },
        ),
      workshop,
    );
    const publication = composeTexts([
      '<bookmap id="m"><booktitle><mainbooktitle>M</mainbooktitle></booktitle>' +
        '<chapter href="topic:a"><topicref href="topic:b"/></chapter></bookmap>',
      concept(
        'a',
        '<section><title>inner</title><p>words</p><fig><title>drawn</title><p>x</p></fig>' +
          '</section>',
        'outer',
      ).replace('<conbody>', '<shortdesc>short</shortdesc><conbody>'),
      '<task id="b"><title>second</title><taskbody><result>done</result></taskbody></task>',
    ]);
    const { pages } = await printed(publication, {
      sheet: marked,
      plan: bare(shippedPlans['a4-margin']!),
    });
    const text = pages.flatMap((page) => page.words.map((word) => word.text)).join(' ');
    for (const said of [
      'HEADING-1: OUTER',
      'LEAD: SHORT',
      'BLOCK-HEADING: INNER',
      'PARAGRAPH: WORDS',
      'FIGURE-TITLE: FIGURE 1-1 DRAWN',
      'HEADING-2: 1.1 SECOND',
      'LABEL: RESULT',
    ])
      expect(text.split(said).length - 1, said).toBe(1);
    for (const id of ['HEADING-1:', 'LEAD:', 'HEADING-2:', 'FIGURE-TITLE:'])
      expect(text.split(id).length - 1, id).toBe(1);
  });
});

describe('styles on paper', () => {
  it('put whatever has them into the margin column, or over text and column', async () => {
    const plan = bare(shippedPlans['a4-margin']!);
    const { column, text } = pageGeometry(plan);
    const side = withValue(
      withStyle(workshop, 'aside', {
        label: 'Aside',
        base: 'paragraph',
        appliesTo: { element: 'p', outputclass: 'aside' },
        print: { column: 'in the margin column' },
      }),
      'table',
      { name: 'column', medium: 'print', value: 'over both' },
    );
    const wide =
      '<table><tgroup cols="2"><tbody><row><entry align="right">x</entry>' +
      '<entry align="right">Edge</entry></row></tbody></tgroup></table>';
    const { pages } = await printed(
      book(`<p outputclass="aside">Sidenote</p><p>Besides</p><section>${wide}</section>`),
      { sheet: side, plan },
    );
    const find = (word: string): Word => pages[0]!.words.find((one) => one.text === word)!;
    expect(find('Sidenote').x).toBeCloseTo(column!.right * points, 0);
    expect(find('Besides').x).toBeCloseTo(text.right * points, 0);
    expect(find('Edge').end).toBeGreaterThan((column!.right + column!.width) * points - 8);

    // Those that follow each other closely stand one under the other; the text goes on beside them.
    const aside = (word: string): string =>
      `<p outputclass="aside">${word} one two three four five six seven eight nine ten</p>`;
    const close = await printed(
      book(`${aside('Uppermost')}${aside('Middlemost')}${aside('Lowermost')}<p>Beside</p>`),
      { sheet: side, plan },
    );
    const lines = close.pages[0]!.words.filter(
      ({ x }) => x > (text.right + text.width) * points,
    ).map(({ y, text: word }) => ({ y, word }));
    const y = (word: string): number => lines.find((one) => one.word === word)!.y;
    const ends = lines.filter(({ word }) => word === 'ten').map((one) => one.y);
    expect(y('Middlemost')).toBeGreaterThan(ends[0]! + 4);
    expect(y('Lowermost')).toBeGreaterThan(ends[1]! + 4);
    expect(
      Math.abs(close.pages[0]!.words.find((one) => one.text === 'Beside')!.y - y('Uppermost')),
    ).toBeLessThan(20);

    // Marks of notes make way as well, and what comes after them makes way for them.
    const noted = book(
      `${aside('Uppermost')}<note type="warning">Wear a ` +
        `line.</note>${aside('Lowermost')}<p>Beside</p>`,
    );
    const drawn = proofPublication({
      publication: noted,
      asset: () => undefined,
      engine,
      design: { sheet: side, plan },
    });
    const mark = drawn.pages[0]!.pieces.filter(({ shape }) =>
      drawn.shapes.get(shape)!.startsWith('<image'),
    ).map(({ at }) => Number(at.split(' ')[5]))[0]!;
    const { words: around } = (await printed(noted, { sheet: side, plan })).pages[0]!;
    const beside = around.filter(({ x }) => x > (text.right + text.width) * points);
    expect(mark).toBeGreaterThan(beside.find((one) => one.text === 'ten')!.y + 8);
    expect(beside.find((one) => one.text === 'Lowermost')!.y).toBeGreaterThan(mark + 8 * points);
  });
  it('that rest on themselves are said, and the manual is set all the same', async () => {
    const sheet = withStyle(workshop, 'paragraph', { base: 'lead', print: { size: '11pt' } });
    const looped = withStyle(sheet, 'lead', { base: 'paragraph' });
    const { pages, problems } = await printed(book(long(1)), {
      sheet: looped,
      plan: bare(shippedPlans['a4-margin']!),
    });
    expect(problems.map(({ code }) => code)).toEqual(['styles.loop', 'styles.loop']);
    expect(pages[0]!.words.length).toBeGreaterThan(20);
  });
});

describe('styles on paper', () => {
  it('repeat the title of a long table on each of its pages, and say that it goes on', async () => {
    const rows = Array.from(
      { length: 90 },
      (_, at) => `<row><entry>${at}</entry><entry>${words}</entry></row>`,
    ).join('');
    const { pages } = await printed(
      book(
        '<section><table><title>Bollards</title><tgroup cols="2"><thead><row>' +
          `<entry>Number</entry><entry>Use</entry></row></thead><tbody>${rows}</tbody></tgroup>` +
          '</table></section>',
      ),
      { sheet: workshop, plan: bare(shippedPlans['a4-margin']!) },
    );
    const said = pages
      .map((page) => page.words.map((word) => word.text).join(' '))
      .map((text) => [
        /Table 1-1 Bollards/u.test(text),
        /\(continued\)/u.test(text),
        /Number Use/u.test(text),
      ]);
    expect(said.length).toBeGreaterThan(2);
    expect(said).toEqual(said.map((_, index) => [true, index > 0, true]));
  });
  it('name the next page as that, another one by its number, and this one not at all', async () => {
    const link =
      '<p>Here <xref href="topic:a/near"/>; there <xref href="topic:b/far"/>; far ' +
      '<xref href="topic:c/farther"/>.</p>';
    const table = (id: string): string =>
      `<table id="${id}"><title>${id}</title><tgroup cols="1"><tbody><row><entry>x</entry>` +
      '</row></tbody></tgroup></table>';
    const publication = composeTexts([
      '<bookmap id="m"><booktitle><mainbooktitle>M</mainbooktitle></booktitle>' +
        '<chapter href="topic:a"/><chapter href="topic:b"/><chapter href="topic:c"/></bookmap>',
      concept('a', `<section>${link}${table('near')}</section>`),
      concept('b', `<section>${table('far')}</section>`),
      concept('c', `<section>${table('farther')}</section>`),
    ]);
    const { pages } = await printed(publication, {
      sheet: workshop,
      plan: { ...bare(shippedPlans['a4-margin']!), chaptersBegin: 'on a new page' },
    });
    expect(pages[0]!.words.map((word) => word.text).join(' ')).toContain(
      'Here Table 1-1; there Table 2-1 on the next page; far Table 3-1 on page 3.',
    );
  });
  it('have every style in the specimen, in each sheet that ships', () => {
    for (const sheet of Object.values(shippedSheets)) {
      const { pages, problems } = proofPublication({
        publication: specimen('en'),
        asset: () => undefined,
        engine,
        design: { sheet, plan: shippedPlans['a4-margin']! },
      });
      expect(problems, sheet.name).toEqual([]);
      expect(
        [pages.length > 2, pages.flatMap(({ pieces }) => pieces).length > 150],
        sheet.name,
      ).toEqual([true, true]);
    }
  });
});

describe('video on paper', () => {
  it('has its address as a QR code, which an independent reader understands (jsQR)', async () => {
    const address = 'https://tides.example/fog-horn.mp4?take=2';
    const video = `<object data="${address}" type="video/mp4"><desc>A fog horn</desc></object>`;
    const { file } = await printed(book(`<section>${video}</section>`), {
      sheet: workshop,
      plan: bare(shippedPlans['a4-margin']!),
    });
    const name = join(folder, 'code');
    execFileSync('pdftoppm', [
      '-r',
      '100',
      '-gray',
      '-f',
      '1',
      '-l',
      '1',
      '-singlefile',
      file,
      name,
    ]);
    const image = readFileSync(`${name}.pgm`);
    const [, width, height] = /^P5\s+(\d+)\s+(\d+)/u
      .exec(image.subarray(0, 40).toString('latin1'))!
      .map(Number) as [number, number, number];
    const pixels = image.subarray(image.length - width * height);
    const colours = new Uint8ClampedArray(width * height * 4);
    pixels.forEach((value, at) => colours.set([value, value, value, 255], at * 4));
    expect(jsQR(colours, width, height)?.data).toBe(address);
  });
});

describe('an image map on paper', () => {
  it('has a letter at each area, and a list that leads to where they lead', async () => {
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100">' +
      '<rect width="200" height="100" fill="#eeeeee"/></svg>';
    const area = (coords: string, name: string, shape = 'rect'): string =>
      `<area><shape>${shape}</shape><coords>${coords}</coords>` +
      `<xref href="topic:b">${name}</xref></area>`;
    const map =
      '<imagemap><title>Quay</title><image href="asset:quay" width="100mm"><alt>The quay</alt>' +
      `</image>${area('50,25,80,60', 'Ladder')}${area('150,75,10', 'Bollard', 'circle')}` +
      '</imagemap>';
    const publication = composeTexts(
      [
        '<bookmap id="m"><booktitle><mainbooktitle>M</mainbooktitle></booktitle>' +
          '<chapter href="topic:a"/><chapter href="topic:b"/></bookmap>',
        concept('a', `<section>${map}</section>`),
        concept('b', '<p>x</p>'),
      ],
      {
        assets: [
          { id: 'quay', name: 'quay.svg', mediaType: 'image/svg+xml', width: 200, height: 100 },
        ],
      },
    );
    const plan = bare(shippedPlans['a5-pocket']!);
    const { pdf, problems } = await printPublication(
      publication,
      () => ({
        id: 'quay',
        name: 'quay.svg',
        mediaType: 'image/svg+xml',
        width: 200,
        height: 100,
        bytes: new TextEncoder().encode(svg),
      }),
      engine,
      { sheet: workshop, plan },
    );
    expect(problems).toEqual([]);
    const file = join(folder, 'areas.pdf');
    writeFileSync(file, pdf!);
    const text = execFileSync('pdftotext', ['-f', '1', '-l', '1', file, '-'], {
      encoding: 'utf8',
    }).replace(/\s+/gu, ' ');
    expect(text).toMatch(/Ladder on the next page (?:.*B .*)?Bollard on the next page/u);
    const boxes = execFileSync('pdftotext', ['-bbox', '-f', '1', '-l', '1', file, '-'], {
      encoding: 'utf8',
    });
    const signs = [
      ...boxes.matchAll(
        /xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)">([AB])</gu,
      ),
    ].map(([, x, y, right, bottom, sign]) => ({
      sign,
      x: (Number(x) + Number(right)) / 2,
      y: (Number(y) + Number(bottom)) / 2,
    }));
    const of = (sign: string) =>
      signs.filter((one) => one.sign === sign).toSorted((a, b) => a.y - b.y)[0]!;
    const left = pageGeometry(plan).text.right;
    // 100 mm wide: a quarter and three quarters of it, and half of that from top to bottom.
    expect(of('A').x / points).toBeCloseTo(left + 25, 0);
    expect(of('B').x / points).toBeCloseTo(left + 75, 0);
    expect((of('B').y - of('A').y) / points).toBeCloseTo(25, 0);
  });
});

describe('a topic set alone', () => {
  const publication = composeDemo(
    'installation-manual',
    'installer-tern-q',
    { product: 'Tern Q' },
    { deliveryTargets: ['print'] },
  );
  const demo = { publication, asset: demoAssets, engine, design: usualDesign };
  const layout = layoutOf(demo);
  it('stands on the side and at the height of the whole, and takes as many pages', () => {
    for (const anchor of ['fit-the-bracket', 'choose-the-quay-wall']) {
      const whole = proofWhole(demo, anchor);
      if (!('traces' in whole)) throw new Error('not set');
      const proof = proofTopic(demo, anchor, layout)!;
      expect(proof.problems).toEqual([]);
      expect([proof.pages.length, proof.traces[0]!.sheet]).toEqual([
        whole.last - whole.first + 1,
        1,
      ]);
      expect(Math.abs(proof.traces[0]!.y - whole.traces[0]!.y)).toBeLessThan(3);
    }
  });
  it('can be set before the whole is known, and is left out where there is none', () => {
    expect(proofTopic(demo, 'fit-the-bracket', [])!.problems).toEqual([]);
    expect(proofTopic(demo, 'nowhere', layout)).toBeUndefined();
  });
});

const plan = bare(shippedPlans['a4-margin']!);
const print = async (
  publication: Publication,
): Promise<{ pages: readonly Page[]; codes: string[] }> => {
  const { pages, problems } = await printed(publication, { sheet: workshop, plan });
  return { pages, codes: problems.map(({ code }) => code) };
};
const table = (columns: number, cell: string): string =>
  `<section><table><title>T</title><tgroup cols="${columns}"><tbody>` +
  `<row>${`<entry>${cell}</entry>`.repeat(columns)}</row></tbody></tgroup></table>` +
  '</section>';

describe('what is out of all measure', () => {
  it.each([
    [
      'a heading of 2,000 signs',
      composeTexts([
        '<bookmap id="m"><booktitle><mainbooktitle>M</mainbooktitle></booktitle>' +
          '<chapter href="topic:a"/></bookmap>',
        concept('a', '<p>END</p>', 'Long '.repeat(400).trim()),
      ]),
    ],
    ['a word that cannot be divided, in a cell', book(`${table(6, 'x'.repeat(400))}<p>END</p>`)],
    ['a table of 100 columns', book(`${table(100, 'cell')}<p>END</p>`)],
    [
      '10,000 index entries',
      book(
        '<p>' +
          Array.from({ length: 10_000 }, (_, at) => `<indexterm>Entry ${at}</indexterm>`).join('') +
          'END</p>',
        '<backmatter><booklists><indexlist/></booklists></backmatter>',
      ),
    ],
  ])('%s: the manual is set', async (_what, publication) => {
    const { pages, codes } = await print(publication);
    expect(codes).not.toContain('print.failed');
    expect(pages.some((page) => page.words.some(({ text }) => text === 'END'))).toBe(true);
  });
  it('an image that is higher than the page is made to fit', async () => {
    const high =
      '<svg xmlns="http://www.w3.org/2000/svg" width="100" height="900">' +
      '<rect width="100" height="900" fill="#000"/></svg>';
    const publication = composeTexts(
      [
        '<bookmap id="m"><booktitle><mainbooktitle>M</mainbooktitle></booktitle>' +
          '<chapter href="topic:a"/></bookmap>',
        concept(
          'a',
          '<fig><title>High</title><image href="asset:high"><alt>A mast</alt></image></fig>',
        ),
      ],
      {
        assets: [
          { id: 'high', name: 'high.svg', mediaType: 'image/svg+xml', width: 100, height: 900 },
        ],
      },
    );
    const { pdf, problems } = await printPublication(
      publication,
      () => ({
        id: 'high',
        name: 'high.svg',
        mediaType: 'image/svg+xml',
        bytes: new TextEncoder().encode(high),
      }),
      engine,
      {
        sheet: workshop,
        plan,
      },
    );
    expect(problems).toEqual([]);
    const file = join(folder, 'high.pdf');
    writeFileSync(file, pdf!);
    const text = execFileSync('pdftotext', [file, '-'], { encoding: 'utf8' });
    // Its title stands on the page of the image.
    expect(text.split('\f').filter((page) => page.includes('Figure 1-1'))).toHaveLength(1);
  });
  it('two builds of the same are the same to the byte, also in another engine', async () => {
    const publication = composeDemo('handbook', 'operator', {}, { deliveryTargets: ['print'] });
    const design = { sheet: shippedSheets['handbook']!, plan: shippedPlans['a5-pocket']! };
    const built = async (one: typeof engine) =>
      (await printPublication(publication, demoAssets, one, design)).pdf!;
    const [first, second, other] = [
      await built(engine),
      await built(engine),
      await built(createPrintEngine()),
    ];
    expect([Buffer.compare(first, second), Buffer.compare(first, other)]).toEqual([0, 0]);
  });
});
