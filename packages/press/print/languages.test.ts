import { execFileSync } from 'node:child_process';
import { pageGeometry, shippedPlans, shippedSheets, type PagePlan } from '@ukiyo/core/styles';
import { composeTexts, concept } from '@ukiyo/core/testing';
import type { Publication } from '@ukiyo/core/compose';
import { describe, expect, it } from 'vitest';
import { printer } from '../testing/printed.ts';
import { createPrintEngine } from './index.ts';

/** Scripts other than Latin: where things stand is read from the PDF by poppler-utils of Debian. */
const { printed } = printer(createPrintEngine());
const points = 72 / 25.4;
const sheet = shippedSheets['workshop']!;
const plan: PagePlan = {
  ...shippedPlans['a4-margin']!,
  cover: 'none',
  chaptersBegin: 'on a new page',
};
const languages = {
  ja: {
    title: '岸壁に設置する',
    words:
      '測定部は最低潮位より二メートル下に下げます。作業は二人で行い、一人が管を支え、もう一人がくさびを打ちます。',
    contents: '目次',
    onPage: /\(\d+\s?ページ\)/u,
  },
  ar: {
    title: 'التركيب على الرصيف',
    words: 'يعمل شخصان معًا، أحدهما يمسك الأنبوب والآخر يدق الأوتاد. ',
    contents: 'المحتويات',
    onPage: /./u,
  },
  he: {
    title: 'התקנה על הרציף',
    words: 'שני אנשים עובדים יחד, אחד מחזיק את הצינור והשני דופק את היתדות. ',
    contents: 'תוכן',
    onPage: /בעמוד/u,
  },
} as const;
type Language = keyof typeof languages;
const book = (language: Language): Publication => {
  const { title, words } = languages[language];
  const topic = (id: string, body: string): string => concept(id, body, title);
  return composeTexts(
    [
      '<bookmap id="m"><booktitle><mainbooktitle>M</mainbooktitle></booktitle><frontmatter>' +
        '<booklists><toc/></booklists></frontmatter><chapter href="topic:a"/>' +
        '<chapter href="topic:b"/></bookmap>',
      topic(
        'a',
        `<note type="warning">${words}</note><p>${words.repeat(8)}</p><p>` +
          `<xref href="topic:b">${title}</xref></p>${`<p>${words.repeat(6)}</p>`.repeat(14)}`,
      ),
      topic('b', `<p>${words}</p>`),
    ],
    { locale: language },
  );
};

describe('manuals in other scripts', () => {
  it.each(Object.keys(languages) as Language[])(
    '%s: every sign has a face, words of the product are of the language, and the file says it',
    async (language) => {
      const { file, problems } = await printed(book(language), { sheet, plan });
      expect(problems).toEqual([]);
      const text = execFileSync('pdftotext', ['-raw', file, '-'], { encoding: 'utf8' }).normalize(
        'NFKC',
      );
      // Poppler gives Arabic in pieces, letters and their dots apart: there each letter is looked
      // for.
      for (const part of language === 'ar' ? languages.ar.contents : [languages[language].contents])
        expect(text).toContain(part);
      expect(text).toMatch(languages[language].onPage);
      expect(
        execFileSync('qpdf', ['--json', file], { encoding: 'utf8', maxBuffer: 64 * 1024 * 1024 }),
      ).toContain(`"/Lang": "u:${language}"`);
      // No face stands in with boxes: all glyphs are of the embedded faces, and each has its sign
      // in Unicode.
      const faces = execFileSync('pdffonts', [file], { encoding: 'utf8' });
      expect(faces).toMatch(
        { ja: /NotoSansJP/u, ar: /NotoNaskhArabic/u, he: /NotoSansHebrew/u }[language],
      );
    },
  );
  it.each(['ar', 'he'] as const)(
    '%s: pages are mirrored, from the right to the left',
    async (language) => {
      const { pages } = await printed(book(language), { sheet, plan });
      const { width, text } = pageGeometry(plan);
      // The first page lies left of the fold: its inner margin is on its right, its text begins
      // there.
      const body = pages[2]!.words.filter(
        ({ y }) => y > text.top * points + 40 && y < (text.top + text.height) * points,
      );
      expect(Math.max(...body.map(({ end }) => end))).toBeCloseTo((width - text.right) * points, 0);
      const left = pages[3]!.words.filter(
        ({ y }) => y > text.top * points && y < (text.top + text.height) * points,
      );
      expect(Math.max(...left.map(({ end }) => end))).toBeCloseTo((width - text.left) * points, 0);
    },
  );
  it('ja: breaks lines between signs, but not before forbidden ones (JIS X 4051)', async () => {
    const { file } = await printed(book('ja'), { sheet, plan });
    const lines = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' })
      .split('\n')
      .map((line) => line.trim())
      .filter((line) => /[ぁ-ん]/u.test(line));
    expect(lines.length).toBeGreaterThan(20);
    expect(lines.filter((line) => /^[、。）」]/u.test(line))).toEqual([]);
  });
});

it('a sign that no face has is told with its topic and place, once for each', async () => {
  const publication = composeTexts([
    '<map id="m"><title>M</title><topicref href="topic:a"/><topicref href="topic:b"/></map>',
    concept('a', '<p>plain</p><p>A rune ᚠ, and again ᚠ.</p>'),
    concept('b', '<p>𓀀 ᚠ ß ≤ → 測 م ש</p>'),
  ]);
  const { problems } = await printed(publication, { sheet, plan });
  const told = problems.filter(({ code }) => code === 'print.glyph') as unknown as {
    message: string;
    where: { item: string; path: number[] };
  }[];
  expect(
    told.map(
      ({ message, where }) =>
        `${/“(.*?)” \((.*?)\)/u.exec(message)!.slice(1).join(' ')} ${where.item} ` +
        where.path.join('.'),
    ),
  ).toEqual(['ᚠ U+16A0 a 1.1', '𓀀 U+13000 b 1.0', 'ᚠ U+16A0 b 1.0']);
});
