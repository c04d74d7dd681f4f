import { execFileSync } from 'node:child_process';
import {
  pageGeometry,
  shippedPlans,
  shippedSheets,
  withValue,
  type PagePlan,
  type StyleSheet,
} from '@ukiyo/core/styles';
import { composeTexts, concept } from '@ukiyo/core/testing';
import { withChangeBars, type Publication } from '@ukiyo/core/compose';
import { describe, expect, it } from 'vitest';
import { createPrintEngine } from './index.ts';
import { printer } from '../testing/printed.ts';

/**
 * The sheet on which pages are printed, its covers, and tables on it: read from the PDF itself by
 * poppler-utils and qpdf of Debian.
 */
const { printed } = printer(createPrintEngine());
const points = 72 / 25.4;
const workshop = shippedSheets['workshop']!;
const a4: PagePlan = { ...shippedPlans['a4-margin']!, cover: 'none' };
const meta =
  '<bookmeta><author>A. Keel</author><critdates><created date="2026-01-05"/>' +
  '<revised modified="2026-03-09"/></critdates><bookid><booknumber>BWI 4</booknumber>' +
  '</bookid><bookrights><copyrfirst><year>2026</year></copyrfirst><bookowner>' +
  '<organization>Brinewell</organization></bookowner></bookrights></bookmeta>';
const keys =
  '<topicgroup><keydef keys="product"><topicmeta><keywords><keyword>Tern Q</keyword>' +
  '</keywords></topicmeta></keydef></topicgroup>';
const book = (body: string): Publication =>
  composeTexts(
    [
      '<bookmap id="m"><booktitle><mainbooktitle>Quay</mainbooktitle>' +
        `</booktitle>${meta}<chapter href="topic:a"/>${keys}</bookmap>`,
      concept('a', body),
    ],
    {
      assets: [{ id: 'quay', name: 'quay.svg', mediaType: 'image/svg+xml' }],
    },
  );
const red = new TextEncoder().encode(
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 20 10">' +
    '<rect width="20" height="10" fill="#c81e1e"/></svg>',
);
const text = (page: { words: readonly { text: string }[] } | undefined): string =>
  (page?.words ?? []).map((word) => word.text).join(' ');

interface Boxes {
  readonly mediabox: readonly number[];
  readonly trimbox: readonly number[];
  readonly bleedbox: readonly number[];
}
/** Boxes of the first page, and the catalogue, as qpdf gives them. */
function inside(file: string): { boxes: Boxes; catalogue: Record<string, unknown> } {
  const { qpdf } = JSON.parse(
    execFileSync('qpdf', ['--json', file], { encoding: 'utf8', maxBuffer: 64 * 1024 * 1024 }),
  ) as { qpdf: [unknown, Record<string, { value?: Record<string, unknown> }>] };
  const objects = Object.values(qpdf[1]).flatMap(({ value }) =>
    value !== null && typeof value === 'object' ? [value] : [],
  );
  const page = objects.find((value) => value['/Type'] === '/Page')!;
  return {
    boxes: {
      mediabox: page['/MediaBox'] as number[],
      trimbox: page['/TrimBox'] as number[],
      bleedbox: page['/BleedBox'] as number[],
    },
    catalogue: objects.find((value) => value['/Type'] === '/Catalog')!,
  };
}

describe('the sheet', () => {
  it('grows by bleed and marks, has crop marks, and keeps the page in the middle', async () => {
    const body = '<p>Beginning of all.</p>';
    const plain = await printed(book(body), { sheet: workshop, plan: a4 });
    const { file, pages, problems } = await printed(book(body), {
      sheet: workshop,
      plan: { ...a4, trim: { bleed: '3mm', marks: true } },
    });
    expect(problems).toEqual([]);
    const { boxes } = inside(file);
    const around = 11 * points;
    const close = (box: readonly number[], expected: readonly number[]): void =>
      expected.forEach((value, at) => expect(box[at]).toBeCloseTo(value, 1));
    close(boxes.mediabox, [0, 0, 210 * points + 2 * around, 297 * points + 2 * around]);
    close(boxes.trimbox, [around, around, 210 * points + around, 297 * points + around]);
    close(boxes.bleedbox, [
      8 * points,
      8 * points,
      210 * points + 14 * points,
      297 * points + 14 * points,
    ]);
    const [word, moved] = [plain.pages[0]!, pages[0]!].map(({ words }) =>
      words.find((one) => one.text === 'Beginning')!,
    );
    expect(moved!.x - word!.x).toBeCloseTo(around, 1);
    expect(moved!.y - word!.y).toBeCloseTo(around, 1);
    expect(() => execFileSync('qpdf', ['--check', file])).not.toThrow();
  });
  it('is that of the plan with which it was set, where another cannot be used', async () => {
    for (const bleed of ['90mm', '-3mm']) {
      const { file, pages, problems } = await printed(book('<p>x</p>'), {
        sheet: workshop,
        plan: { ...a4, trim: { bleed, marks: true } },
      });
      expect(problems.map(({ code }) => code)).toEqual(['plan.bleed']);
      expect(inside(file).boxes.trimbox).toBeUndefined();
      expect(pages[0]!.width).toBeCloseTo(210 * points, 1);
    }
  });
  it.each([
    ['with bookmarks', '/PageMode', '/UseOutlines'],
    ['two pages side by side', '/PageLayout', '/TwoPageRight'],
  ] as const)('opens %s', async (opens, name, value) => {
    const { file } = await printed(book('<p>x</p>'), {
      sheet: workshop,
      plan: { ...a4, file: { ...a4.file, opens } },
    });
    expect(inside(file).catalogue[name]).toBe(value);
  });
  it('is kept as PDF/A-2a or PDF/UA-1, as it says of itself', async () => {
    const said = async (standard: PagePlan['file']['standard']): Promise<string> => {
      const { file, problems } = await printed(book('<p>x</p>'), {
        sheet: workshop,
        plan: { ...a4, file: { ...a4.file, standard } },
      });
      expect(problems).toEqual([]);
      return execFileSync('pdfinfo', ['-meta', file], { encoding: 'utf8' });
    };
    expect(await said('accessible')).toMatch(/pdfuaid:part>1</u);
    expect(await said('for the archive')).toMatch(/pdfaid:part>2<.*pdfaid:conformance>A</su);
  });
});

describe('the sheet', () => {
  it('has bookmarks as deep as the plan says', async () => {
    const deep = composeTexts([
      '<bookmap id="m"><booktitle><mainbooktitle>M</mainbooktitle></booktitle>' +
        '<chapter href="topic:a"><topicref href="topic:b"><topicref href="topic:c"/></topicref>' +
        '</chapter></bookmap>',
      ...['a', 'b', 'c'].map((id) => concept(id, '<p>x</p>')),
    ]);
    const titles = async (bookmarks: number): Promise<number> => {
      const { file } = await printed(deep, {
        sheet: workshop,
        plan: { ...a4, file: { ...a4.file, bookmarks } },
      });
      return (
        execFileSync('qpdf', ['--json', '--json-key=outlines', file], { encoding: 'utf8' }).split(
          '"title"',
        ).length - 1
      );
    };
    expect([await titles(1), await titles(2), await titles(3)]).toEqual([1, 2, 3]);
  });
});

describe('fields and covers', () => {
  it('fill heads with a localised date, a variable, the authors and an image', async () => {
    const head = {
      start: [{ field: 'date' as const }, { field: 'variable' as const, key: 'product' }],
      middle: [{ field: 'image' as const, image: 'asset:quay', height: '6mm' }],
      end: [{ field: 'authors' as const }],
    };
    const { file, pages } = await printed(
      book('<p>x</p>'),
      {
        sheet: workshop,
        plan: { ...a4, mirrored: false, head: { right: head, left: head, opening: null } },
      },
      () => ({
        id: 'quay',
        name: 'quay.svg',
        mediaType: 'image/svg+xml',
        bytes: red,
      }),
    );
    expect(text(pages[0])).toContain('March 9, 2026 · Tern Q A. Keel');
    // A drawing is no image to pdfimages; its colour is on the page.
    const pixels = execFileSync('pdftoppm', ['-r', '36', '-f', '1', '-l', '1', file], {
      maxBuffer: 64 * 1024 * 1024,
    });
    expect(hasColour(pixels, [200, 30, 30])).toBe(true);
  });
});

describe('fields and covers', () => {
  it('lay out covers on a grid, with a title page and the rights on its back', async () => {
    const part = {
      column: 0,
      row: 0,
      columns: 12,
      rows: 4,
      style: 'cover-facts',
      stands: 'start' as const,
      colour: '',
    };
    const plan: PagePlan = {
      ...a4,
      cover: 'own',
      back: 'own',
      titlePage: true,
      coverParts: {
        front: [
          { ...part, shows: { field: 'ground', colour: 'accent' } },
          {
            ...part,
            column: 3,
            row: 6,
            columns: 6,
            style: 'cover-title',
            colour: 'paper',
            shows: { field: 'title' },
          },
        ],
        back: [
          {
            ...part,
            column: 6,
            row: 11,
            columns: 6,
            rows: 1,
            stands: 'end',
            shows: { field: 'text', words: 'BACKWORDS' },
          },
        ],
      },
    };
    const { pages, problems } = await printed(book('<p>Content</p>'), { sheet: workshop, plan });
    expect(problems).toEqual([]);
    const title = pages[0]!.words.find((one) => one.text === 'Quay')!;
    const { width, height } = pageGeometry(plan);
    expect(title.x).toBeCloseTo(((3 * width) / 12) * points, 0);
    // Poppler’s boxes of words are as high as the face, which is a little more than the line.
    expect(Math.abs(title.y - ((6 * height) / 12) * points)).toBeLessThan(10);
    expect(text(pages[2])).toContain('Quay A. Keel BWI 4');
    expect(text(pages[3])).toBe('© 2026 Brinewell');
    expect(text(pages.at(-1))).toBe('BACKWORDS');
    expect(pages.length % 2).toBe(0);
    expect(pages.at(-1)!.words[0]!.end).toBeGreaterThan((width - 1) * points - 4);
  });
});

const row = (cells: readonly string[], name = 'entry'): string =>
  '<row>' +
  cells.map((cell) => (cell.startsWith('<') ? cell : `<${name}>${cell}</${name}>`)).join('') +
  '</row>';
const table = (attributes: string, head: string, rows: string): string =>
  `<table id="t"${attributes}><title>T</title><tgroup cols="3"><thead>${head}</thead>` +
  `<tbody>${rows}</tbody></tgroup></table>`;

describe('tables on paper', () => {
  it('gather their footnotes under themselves, with letters', async () => {
    const noted = table(
      '',
      row(['Part<fn>Of the station.</fn>', 'b', 'c']),
      row(['Pipe', 'Wedge<fn>Two of them.</fn>', 'z']),
    );
    const { pages } = await printed(
      book(`<section>${noted}<p>After.<fn>At the foot.</fn></p></section>`),
      { sheet: workshop, plan: a4 },
    );
    const [page] = pages;
    const y = (word: string): number => page!.words.find((one) => one.text.startsWith(word))!.y;
    expect(text(page)).toMatch(/a\s+Of the station\. b\s+Two of them\./u);
    expect(y('Two')).toBeGreaterThan(y('Pipe'));
    expect(y('After')).toBeGreaterThan(y('Two'));
    expect(y('foot')).toBeGreaterThan(y('After') + 200);
  });
  it('turn heads that ask for it, so that narrow columns can have long ones', async () => {
    const { pages } = await printed(
      book(
        '<section>' +
          table(
            '',
            row(['<entry rotate="1">Greatest permitted load</entry>', 'b', 'c']),
            row(['1', '2', '3']),
          ) +
          '</section>',
      ),
      { sheet: workshop, plan: a4 },
    );
    const words = ['Greatest', 'permitted', 'load'].map((word) =>
      pages[0]!.words.find((one) => one.text === word)!,
    );
    // Read from below to above, one over the other.
    expect(words[0]!.y).toBeGreaterThan(words[1]!.y);
    expect(words[1]!.y).toBeGreaterThan(words[2]!.y);
    expect(words[0]!.x).toBeCloseTo(words[2]!.x, 0);
  });
});

describe('tables on paper', () => {
  it('can stand on landscape pages between upright ones, with their heads repeated', async () => {
    const rows = Array.from({ length: 60 }, (_, at) => row([`Pipe${at}`, 'Wedge', 'z'])).join('');
    const { pages, problems } = await printed(
      book(
        '<p>Before.</p>' +
          `<section>${table(' orient="land"', row(['Headword', 'b', 'c']), rows)}</section>` +
          '<p>Afterwards.</p>',
      ),
      { sheet: workshop, plan: a4 },
    );
    expect(problems).toEqual([]);
    const lying = pages.filter(({ width, height }) => width > height);
    expect(lying.length).toBeGreaterThan(1);
    for (const page of lying) expect(text(page)).toContain('Headword');
    expect(pages[0]!.width).toBeLessThan(pages[0]!.height);
    expect(text(pages.at(-1))).toContain('Afterwards');
    // In a list no page can begin: there the table itself lies on its side, in one piece, or stands
    // upright where it does not fit.
    const listed = (count: number) =>
      printed(
        book(
          '<section><ul><li>Item ' +
            table(
              ' orient="land"',
              row(['Headword', 'b', 'c']),
              Array.from({ length: count }, (_, at) => row([`Pipe${at}`, 'Wedge', 'z'])).join(''),
            ) +
            '</li>' +
            '</ul></section>',
        ),
        { sheet: workshop, plan: a4 },
      );
    const columnOf = async (count: number): Promise<number> => {
      const cells = (await listed(count)).pages.flatMap(({ words }) =>
        words.filter(({ text: one }) => one.startsWith('Pipe')),
      );
      return new Set(cells.map(({ x }) => Math.round(x))).size;
    };
    expect(await columnOf(6)).toBe(6);
    // Left and right pages.
    expect(await columnOf(60)).toBe(2);
    // It is as wide as the page is high.
    expect(Math.max(...lying[0]!.words.map(({ end }) => end))).toBeLessThan(lying[0]!.width);
  });
});

describe('words that readers open, and what terms mean', () => {
  const opened =
    '<p>Hold the rail <ph outputclass="expandable">with both hands</ph> while you go.</p>';
  const table =
    '<table id="t"><tgroup cols="1"><tbody><row><entry>Line <ph outputclass="expandable">of ' +
    'hemp</ph></entry></row></tbody></tgroup></table>';
  const publication = composeTexts([
    '<bookmap id="m"><booktitle><mainbooktitle>M</mainbooktitle></booktitle>' +
      '<chapter href="topic:a"/><backmatter><topicgroup>' +
      '<glossref href="topic:g" keys="g" print="yes"/></topicgroup></backmatter></bookmap>',
    concept(
      'a',
      `${opened}<p>The <term keyref="g">rail</term> is long; a <term keyref="g">rail</term> ` +
        `ends.</p><section>${table}</section>`,
    ),
    '<glossentry id="g"><glossterm>rail</glossterm><glossdef>What one holds.</glossdef>' +
      '</glossentry>',
  ]);
  const page = async (
    expandable: string | undefined,
    meaning: string | undefined,
  ): Promise<string> => {
    const with_ = (sheet: StyleSheet, style: string, value: string | undefined): StyleSheet =>
      value === undefined
        ? sheet
        : withValue(sheet, style, { name: 'stands', medium: 'print', value });
    const { pages, problems } = await printed(publication, {
      sheet: with_(with_(workshop, 'expandable', expandable), 'meaning', meaning),
      plan: a4,
    });
    expect(problems).toEqual([]);
    return text(pages[0]);
  };
  it('stand in the line, and meanings nowhere, unless their style says otherwise', async () => {
    const usual = await page(undefined, undefined);
    expect(usual).toContain('Hold the rail with both hands while you go.');
    expect(usual).not.toContain('What one holds.');
  });
  it('stand in brackets, or nowhere', async () => {
    expect(await page('in brackets', 'in brackets')).toContain(
      'rail (with both hands) while you go. The rail (What one holds.) is long; a rail ends.',
    );
    expect(await page('nowhere', 'nowhere')).toContain('Hold the rail while you go.');
  });
  it('stand at the foot of page or table; a meaning where its term first occurs', async () => {
    const notes = await page('as a footnote', 'as a footnote');
    expect(notes).toMatch(/Hold the rail ?1 while you go\. The rail ?2 is long; a rail ends\./u);
    expect(notes).toMatch(/Line ?a .*a ?of hemp/u);
    expect(notes).toMatch(/1 ?with both hands 2 ?What one holds\./u);
  });
});

const made = (topics: readonly string[]): Publication =>
  composeTexts([
    '<bookmap id="m"><booktitle><mainbooktitle>M</mainbooktitle></booktitle>' +
      '<chapter href="topic:a"><topicref href="topic:b"/></chapter></bookmap>',
    ...topics,
  ]);
const filler = '<p>Keep one hand on the rail while the ladder is wet.</p>';
const before = made([
  concept('a', `${filler}<p>It stood here.</p><ul><li>ONCE</li><li>two</li></ul>`),
  concept('b', filler, 'Old title'),
]);
/**
 * Dark columns of ink in a strip right of the text of an odd page, or left of it: where bars are,
 * in points from the top.
 */
function bars(file: string, page: number, plan: PagePlan): [number, number][] {
  const { text } = pageGeometry(plan);
  const left = page % 2 === 1 ? (text.right + text.width) * points + 5 : text.left * points - 11;
  const pgm = execFileSync(
    'pdftoppm',
    [
      '-r',
      '72',
      '-gray',
      '-f',
      `${page}`,
      '-l',
      `${page}`,
      '-x',
      `${Math.round(left)}`,
      '-y',
      '60',
      '-W',
      '6',
      '-H',
      '700',
      file,
    ],
    {
      maxBuffer: 64 * 1024 * 1024,
    },
  );
  const header = /^P5\s+\d+\s+\d+\s+255\s/u.exec(pgm.subarray(0, 40).toString('latin1'))![0].length;
  const found: [number, number][] = [];
  for (let row = 0; row < 700; row += 1) {
    const isDark = pgm
      .subarray(header + row * 6, header + row * 6 + 6)
      .some((value) => value < 140);
    const last = found.at(-1);
    if (isDark && last && last[1] === row + 59) last[1] = row + 60;
    else if (isDark) found.push([row + 60, row + 60]);
  }
  return found;
}

describe('bars beside what changed', () => {
  it('stand in the outer margin beside all that is new or changed, across pages', async () => {
    const now = made([
      concept(
        'a',
        `${filler}<p>It stands ELSEWHERE.</p><ul><li>ONCE</li><li>TWICE</li>` +
          `</ul>${'<p>NEW one more time for the rail and the ladder.</p>'.repeat(70)}`,
      ),
      concept('b', filler, 'New title'),
    ]);
    const { file, pages, problems } = await printed(withChangeBars(now, before), {
      sheet: workshop,
      plan: a4,
    });
    expect(problems).toEqual([]);
    const y = (page: number, word: string): number =>
      pages[page - 1]!.words.find(({ text: one }) => one.startsWith(word))!.y;
    const onFirst = bars(file, 1, a4);
    /** Beside the middle of a line. */
    const covers = (all: readonly [number, number][], at: number): boolean =>
      all.some(([from, to]) => from <= at + 7 && to >= at + 7);
    expect(['ELSEWHERE', 'TWICE', 'NEW'].map((word) => covers(onFirst, y(1, word)))).toEqual([
      true,
      true,
      true,
    ]);
    expect(covers(onFirst, y(1, 'ONCE'))).toBe(false);
    expect(covers(onFirst, y(1, 'Keep'))).toBe(false);
    // From the first line of the second page, on its other side.
    const onSecond = bars(file, 2, a4);
    expect(covers(onSecond, y(2, 'NEW'))).toBe(true);
    const last = pages.length;
    expect(covers(bars(file, last, a4), y(last, 'title'))).toBe(true);
    expect(covers(bars(file, last, a4), y(last, 'Keep'))).toBe(false);
  });
  it('a short sign stands beside the place from which something is gone', async () => {
    const now = made([
      concept('a', `${filler}<p>It stood here.</p><ul><li>two</li></ul>`),
      concept('b', filler, 'Old title'),
    ]);
    const { file, pages } = await printed(withChangeBars(now, before), {
      sheet: workshop,
      plan: a4,
    });
    const [sign, ...more] = bars(file, 1, a4);
    expect(more).toEqual([]);
    expect(sign![1] - sign![0]).toBeLessThan(3);
    expect(
      Math.abs(sign![0] - pages[0]!.words.find(({ text: one }) => one === 'two')!.y),
    ).toBeLessThan(5);
  });
  it('there are none where nothing changed', async () => {
    const { file } = await printed(withChangeBars(before, before), { sheet: workshop, plan: a4 });
    expect(bars(file, 1, a4)).toEqual([]);
  });
});

/** Whether a PPM image (binary, 8 bits) has a pixel of about this colour. */
function hasColour(ppm: Buffer, [red, green, blue]: readonly [number, number, number]): boolean {
  const header = /^P6\s+\d+\s+\d+\s+255\s/u.exec(ppm.subarray(0, 40).toString('latin1'))![0].length;
  for (let at = header; at + 2 < ppm.length; at += 3)
    if (
      Math.abs(ppm[at]! - red) + Math.abs(ppm[at + 1]! - green) + Math.abs(ppm[at + 2]! - blue) <
      40
    )
      return true;
  return false;
}
