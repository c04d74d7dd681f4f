import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { allPlaces, type IndexEntry } from '@ukiyo/core/compose';
import { lineOf, element } from '@ukiyo/core/markup';
import { composeTexts, concept, mapText } from '@ukiyo/core/testing';
import { printable } from '../shared/index.ts';
import { describe, expect, it } from 'vitest';
import { composeDemo, demoAssets } from '../testing/demo.ts';
import { createPrintEngine, printPublication } from './index.ts';

const engine = createPrintEngine();
const run = (program: string, ...args: string[]): string =>
  execFileSync(program, args, { encoding: 'utf8', maxBuffer: 64 * 1024 * 1024 });
function toFile(pdf: Uint8Array): string {
  const file = join(mkdtempSync(join(tmpdir(), 'ukiyo-print-')), 'out.pdf');
  writeFileSync(file, pdf);
  return file;
}
const flat = (text: string): string => text.replace(/\s+/gu, ' ').trim();

/** Checked against poppler-utils (pdftotext, pdfinfo) and qpdf of Debian, on our own output. */
const publication = composeDemo(
  'installation-manual',
  'installer-tern-q',
  { product: 'Tern Q' },
  { deliveryTargets: ['print'] },
);
const result = await printPublication(publication, demoAssets, engine);
const file = toFile(result.pdf!);
const sheets = run('pdftotext', '-layout', file, '-').split('\f').slice(0, -1);
const text = (sheet: number): string => flat(sheets[sheet - 1] ?? '');
const byShown = new Map(result.pages.map(({ shown, sheet }) => [shown, sheet]));
const sheetOf = new Map(result.pages.map(({ id, sheet }) => [id, sheet]));

describe('the printed manual of the demo', () => {
  it('has no problems and is a whole PDF, tagged, with language and title', () => {
    expect(publication.problems).toEqual([]);
    expect(result.problems).toEqual([]);
    expect(() => run('qpdf', '--check', file)).not.toThrow();
    const info = run('pdfinfo', file);
    expect(info).toMatch(/Title:\s+Tern Q Installation Manual/u);
    expect(info).toMatch(/Tagged:\s+yes/u);
    expect(info).toMatch(/Page size:\s+595\.\d+ x 841\.\d+ pts \(A4\)/u);
    expect(Number(/Pages:\s+(\d+)/u.exec(info)?.[1])).toBe(result.pageCount);
    expect(run('qpdf', '--json', file)).toMatch(/"\/Lang": "u:en"/u);
  });
  it('prints every heading on the page that was read back for it', () => {
    const places = allPlaces(publication.places).filter(
      ({ role, content }) => content && role !== 'glossaryentry',
    );
    expect(places.length).toBeGreaterThan(50);
    for (const { anchor, title } of places)
      expect(text(sheetOf.get(anchor)!), anchor).toContain(flat(lineOf(element('t', {}, title))));
  });
  it('gives in the contents the page on which each chapter and section stands', () => {
    const contents = flat(sheets.slice(1, 6).join(' '));
    const listed = allPlaces(publication.places).filter(
      ({ role, level, inContents }) =>
        inContents && level <= 2 && !['toc', 'frontmatter'].includes(role),
    );
    for (const { anchor, label, number } of listed) {
      const shown = result.pages.find(({ id }) => id === anchor)!.shown;
      const line = new RegExp(
        (number === undefined ? '' : `${number.replace('.', '\\.')} `) +
          `${label.replace(/[.*+?^${}()|[\]\\]/gu, '\\$&')} ` +
          `[ .]*${shown}( |$)`,
        'u',
      );
      expect(contents, label).toMatch(line);
    }
  });
  it('names in every “on page” the page that the target is on', () => {
    const whole = flat(sheets.join(' '));
    const references = [...whole.matchAll(/“([^“”]+)” on page (\d+)/gu)];
    expect(references.length).toBeGreaterThan(30);
    const titles = new Map(
      allPlaces(publication.places).map(({ anchor, label }) => [label, anchor]),
    );
    for (const [, quoted, page] of references) {
      // A word divided at the end of a line is one word.
      const title = quoted!.replace(/[-\u00AD] (?=\p{Ll})/gu, '');
      const anchor = titles.get(title);
      expect(anchor, title).toBeDefined();
      expect(text(byShown.get(page!)!), `${title} on page ${page}`).toContain(title);
      expect(sheetOf.get(anchor!)).toBe(byShown.get(page!));
    }
    const figures = [...whole.matchAll(/(Table|Figure) (\d+-\d+) on page (\d+)/gu)];
    expect(figures.length).toBeGreaterThan(1);
    for (const [, kind, number, page] of figures)
      expect(text(byShown.get(page!)!)).toMatch(new RegExp(`${kind} ${number} +\\S`, 'u'));
  });
  it('prints in the index the pages on which the entries stand', () => {
    const start =
      sheetOf.get(publication.places.find(({ role }) => role === 'indexlist')!.anchor)! - 1;
    const index = flat(run('pdftotext', '-f', `${start + 1}`, file, '-'));
    const shownOf = (anchor: string): string => result.pages.find(({ id }) => id === anchor)!.shown;
    const check = (entry: IndexEntry): void => {
      const pages = [...new Set(entry.locators.map(({ anchor }) => shownOf(anchor)))];
      if (pages.length === 1) expect(index, entry.term).toContain(`${entry.term}, ${pages[0]}`);
      entry.entries.forEach(check);
    };
    publication.index.forEach(({ entries }) => entries.forEach(check));
    expect(publication.index.length).toBeGreaterThan(12);
  });
});

describe('the printed manual of the demo', () => {
  it('starts chapters on right-hand pages, mirrors feet and repeats table heads', () => {
    for (const { anchor } of publication.places.filter(
      ({ role }) => role === 'chapter' || role === 'appendix',
    ))
      expect(sheetOf.get(anchor)! % 2, anchor).toBe(1);
    const alarms = sheetOf.get('alarm-codes')!;
    expect(
      sheets
        .slice(alarms - 1, alarms + 2)
        .filter((sheet) => /Code\s+Meaning\s+What to do/u.test(sheet)).length,
    ).toBeGreaterThan(1);
    const foot = (sheet: number): string => sheets[sheet - 1]!.trimEnd().split('\n').at(-1)!.trim();
    expect(foot(sheetOf.get('fit-the-bracket')! | 1)).toMatch(/^BM-1042 · Release 4\.2\s+\d+$/u);
  });
  it('has bookmarks for every place', () => {
    const outlines = run('qpdf', '--json', '--json-key=outlines', file);
    for (const { label } of allPlaces(publication.places).filter(({ role }) => role === 'chapter'))
      expect(outlines).toContain(JSON.stringify(label).slice(1, -1));
  });
});

describe('links without words of their own', () => {
  it('name their target in the form they ask for, with the page or without', async () => {
    const form = (name: string, to: string): string =>
      `<p>${name}: <xref href="topic:${to}" outputclass="words-${name}"/>.</p>`;
    const links = (to: string): string =>
      ['usual', 'title', 'number', 'page'].map((name) => form(name, to)).join('');
    const publication = composeTexts([
      mapText('<topicref href="topic:a"/><topicref href="topic:b"/>'),
      concept('a', links('b') + links('b/f')),
      concept('b', '<fig id="f"><title>Cabinet</title><p>x</p></fig>', 'Mounting'),
    ]);
    const text = flat(
      run(
        'pdftotext',
        toFile((await printPublication(publication, () => undefined, engine)).pdf!),
        '-',
      ),
    );
    const [, onPage] = /usual: “Mounting” on page (\d+)\./u.exec(text)!;
    for (const said of [
      'title: “Mounting”.',
      `number: 2 Mounting on page ${onPage}.`,
      `page: page ${onPage}.`,
    ])
      expect(text).toContain(said);
    for (const said of [
      `usual: Figure 2-1 on page ${onPage}.`,
      'title: “Cabinet”.',
      `number: Figure 2-1, Cabinet on page ${onPage}.`,
    ])
      expect(text).toContain(said);
  });
});

describe('what the edition marks', () => {
  it('has its words, and its colours on the page', async () => {
    const lens = {
      name: 'x',
      rules: [
        {
          facet: 'product',
          value: 'd',
          action: 'mark' as const,
          look: { color: '#b93a25', background: '#f6e7c3', bar: true, start: 'Tern D:' },
        },
      ],
    };
    const body =
      '<p product="d">Clamp it.</p><p>Use <ph product="d">a chain</ph>.</p><table>' +
      '<tgroup cols="1"><tbody><row product="d"><entry>Row</entry></row></tbody></tgroup>' +
      '</table>';
    const result = await printPublication(
      composeTexts([mapText('<topicref href="topic:a"/>'), concept('a', body)], { lens }),
      () => undefined,
      engine,
    );
    expect(result.problems).toEqual([]);
    const file = toFile(result.pdf!);
    expect(flat(run('pdftotext', file, '-'))).toContain(
      'Tern D: Clamp it. Use Tern D: a chain. Tern D: Row',
    );
    // 0.9647 0.9059 0.7647 is #f6e7c3 as the page describes a filled area (ISO 32000-1, 8.6.8 `rg`,
    // or `scn` in a colour space).
    const colours = run('qpdf', '--qdf', '--stream-data=uncompress', file, '-');
    expect(colours.match(/0\.964\d* 0\.905\d* 0\.764\d* (rg|scn)/gu)?.length).toBeGreaterThan(2);
    expect(colours).toMatch(/0\.725\d* 0\.227\d* 0\.145\d* (rg|scn)/u);
  });
});

describe('video and sound', () => {
  it('are their poster, what they show and where they can be played', async () => {
    const publication = composeTexts(
      [
        mapText('<topicref href="topic:a"/>'),
        concept(
          'a',
          '<object data="https://tides.example/fog.mp3"><desc>A fog horn</desc></object>' +
            '<object data="asset:v"><desc>Turn the key</desc></object>',
        ),
      ],
      {
        assets: [{ id: 'v', name: 'v.webm', mediaType: 'video/webm' }],
      },
    );
    const result = await printPublication(
      publication,
      () => ({ id: 'v', name: 'v.webm', mediaType: 'video/webm', bytes: new Uint8Array() }),
      engine,
    );
    const text = flat(run('pdftotext', toFile(result.pdf!), '-'));
    expect(text).toContain('Sound: A fog horn https://tides.example/fog.mp3');
    expect(text).toContain('Video: Turn the key');
    expect(result.problems).toEqual([]);
  });
});

describe('a topic whose text goes on in that of the topic above', () => {
  it('is printed without a heading, and pages are named where it stands', async () => {
    const map = mapText(
      '<topicref href="topic:a" chunk="to-content">' +
        '<topicref href="topic:b" outputclass="without-heading"/><topicref href="topic:c"/>' +
        '</topicref>',
    );
    const publication = composeTexts([
      map,
      concept('a', '<p>First. See <xref href="topic:b"/>.</p>', 'Above'),
      concept('b', '<p>Second</p>', 'Hidden title'),
      concept('c', '<p>Third</p>', 'Below'),
    ]);
    const { pdf, problems } = await printPublication(publication, () => undefined, engine);
    expect([...publication.problems, ...problems]).toEqual([]);
    const text = flat(run('pdftotext', toFile(pdf!), '-'));
    expect(text).toMatch(/First\. See “Hidden title”\. Second 1\.1 ?Below Third/u);
    expect(text.match(/Hidden title/gu)).toHaveLength(1);
  });
});

describe('a link to another publication', () => {
  it('is printed as the title and number there and the name of that publication', async () => {
    const handbook =
      '<bookmap id="h"><booktitle><mainbooktitle>Handbook</mainbooktitle></booktitle>' +
      '<bookmeta><bookid><booknumber>BWI 7</booknumber></bookid></bookmeta>' +
      '<chapter href="topic:care"/></bookmap>';
    const map = mapText(
      '<topicref href="topic:a"/>' +
        '<mapref href="map:h" format="ditamap" scope="peer" keyscope="book"/>',
    );
    const publication = composeTexts([
      map,
      handbook,
      concept(
        'a',
        '<p>See <xref href="topic:care"/>, or <xref href="topic:care">how to wash</xref>.</p>',
      ),
      concept('care', '', 'Care'),
    ]);
    const { pdf, problems } = await printPublication(publication, () => undefined, engine);
    expect([...publication.problems, ...problems]).toEqual([]);
    expect(flat(run('pdftotext', toFile(pdf!), '-'))).toContain(
      'See “1 Care” (Handbook, BWI 7), or how to wash (“1 Care”, Handbook, BWI 7).',
    );
  });
});

const svg = (bytes: string) => ({
  id: 'i',
  name: 'i.svg',
  mediaType: 'image/svg+xml',
  bytes: new TextEncoder().encode(bytes),
});
const assets = [{ id: 'i', name: 'i.svg', mediaType: 'image/svg+xml' }];
const print = async (body: string, image?: ReturnType<typeof svg>, title = 'A') => {
  const publication = composeTexts(
    [
      mapText('<topicref href="topic:a"/><topicref href="topic:b"/>'),
      concept('a', body, title),
      concept('b', '<p>Still here</p>'),
    ],
    { assets },
  );
  const result = await printPublication(
    publication,
    (id) => (id === 'i' ? image : undefined),
    engine,
  );
  return {
    ...result,
    text: result.pdf ? flat(run('pdftotext', toFile(result.pdf), '-')) : '',
    publication,
  };
};

describe('bad content', () => {
  it.each([
    [
      'an image that is not one',
      '<fig><title>F</title><image href="asset:i"><alt>Words instead</alt></image></fig>',
      'not an image',
    ],
    [
      'an SVG that the engine refuses',
      '<image href="asset:i"><alt>Words instead</alt></image>',
      '<svg xmlns="http://www.w3.org/2000/svg" width="-5" height="0"/>',
    ],
  ])('%s is left out, and the rest is printed', async (_what, body, bytes) => {
    const { text, problems } = await print(body, svg(bytes));
    expect(problems.map(({ code }) => code)).toContain('image.unreadable');
    expect(text).toContain('Still here');
  });
  it('a missing image is marked with its words', async () => {
    const { text, publication } = await print(
      '<image href="asset:none"><alt>Words instead</alt></image>',
    );
    expect(text).toContain('Words instead');
    expect(publication.problems.map(({ code }) => code)).toEqual(['image.missing']);
  });
  it('markup, script ends, control and direction marks in text are only text', async () => {
    const { text } = await print(
      '<p>#panic("x") $math$ \\ *b* _i_ @ref `raw` &lt;label&gt; \u202Eabc\u0085</p>',
      undefined,
      '&lt;/script&gt; #import "x" {{ template }}',
    );
    expect(text).toContain('#panic("x") $math$ \\ *b* _i_ @ref `raw` <label> abc');
    expect(text).toContain('</script> #import "x" {{ template }}');
  });
  it('letters under thousands of marks are set with as many as any language has', async () => {
    const { text } = await print(`<p>Tide${'\u0301'.repeat(50_000)} marks.</p>`);
    expect(text).toContain('marks.');
    expect(printable(`e${'\u0301'.repeat(1000)}`)).toBe(`e${'\u0301'.repeat(30)}`);
  });
  it('impossible spans and deep nesting are drawn as far as they go', async () => {
    const deep =
      `${'<ul><li>'.repeat(70)}bottom${'</li></ul>'.repeat(70)}` +
      `${'<note><lq><ol><li>'.repeat(20)}floor${'</li></ol></lq></note>'.repeat(20)}`;
    const { text, problems, publication } = await print(
      '<table><tgroup cols="2"><colspec colname="a"/><tbody><row>' +
        '<entry morerows="9">x</entry><entry>y</entry><entry>z</entry></row></tbody></tgroup>' +
        `</table>${deep}`,
    );
    expect([...publication.problems, ...problems].map(({ code }) => code)).toEqual(
      expect.arrayContaining(['table.span', 'table.too-many-cells', 'print.too-deep']),
    );
    expect(text).toContain('bottom');
    expect(text).toContain('floor');
    expect(text).toContain('Still here');
  });
});
