import { expect, it } from 'vitest';
import { numberingFor, usualNumbering, writtenNumber, type Numbering } from '../styles/index.ts';
import { composeTexts, concept } from '../testing/library.ts';
import { allPlaces } from './index.ts';

const fig = (id: string): string => `<fig id="${id}"><title>${id}</title><p>x</p></fig>`;
const book = [
  '<bookmap id="m"><booktitle><mainbooktitle>M</mainbooktitle></booktitle>' +
    '<part href="topic:p"><chapter href="topic:a"><topicref href="topic:a1">' +
    '<topicref href="topic:a2"/></topicref></chapter></part><part href="topic:q">' +
    '<chapter href="topic:b"/></part><appendix href="topic:x"/></bookmap>',
  concept('p', '<p>p</p>'),
  concept('q', '<p>q</p>'),
  concept('a', fig('f1')),
  concept('a1', fig('f2')),
  concept('a2', '<p>x</p>'),
  concept('b', `${fig('f3')}<p><xref href="topic:a/f1"/></p>`),
  concept('x', fig('f4')),
];
function numbers(change: Partial<Numbering>): {
  places: string[];
  figures: string[];
  link: string | undefined;
} {
  const publication = composeTexts(book, { numbering: { ...usualNumbering, ...change } });
  const [link] = Object.values(publication.links);
  return {
    places: allPlaces(publication.places).map(({ number }) => number ?? ''),
    figures: publication.figures.map(({ number }) => number),
    link: link?.kind === 'target' ? link.text : undefined,
  };
}

it('is usual where nothing else is said', () => {
  expect(numbers({})).toEqual({
    places: ['I', '1', '1.1', '1.1.1', 'II', '2', 'A'],
    figures: ['1-1', '1-2', '2-1', 'A-1'],
    link: 'Figure 1-1',
  });
});

it('has the forms, signs and depth that are asked for, in links too', () => {
  const made = numbers({
    parts: 'A',
    chapters: 'i',
    sections: 'a',
    appendices: '01',
    depth: 2,
    sign: '-',
    captionForm: 'A',
    captionSign: '.',
  });
  expect(made).toEqual({
    places: ['A', 'i', 'i-a', '', 'B', 'ii', '01'],
    figures: ['i.A', 'i.B', 'ii.A', '01.A'],
    link: 'Figure i.A',
  });
});

it('begins again in each part, or goes on throughout the book', () => {
  expect(numbers({ chaptersByPart: true }).places).toEqual([
    'I',
    '1',
    '1.1',
    '1.1.1',
    'II',
    '1',
    'A',
  ]);
  expect(numbers({ captions: 'throughout' }).figures).toEqual(['1', '2', '3', '4']);
});

it('can be left away: links then name titles', () => {
  expect(numbers({ chapters: 'none', captionForm: 'none' })).toEqual({
    places: ['I', '', '', '', 'II', '', 'A'],
    figures: ['', '', '', ''],
    link: 'f1',
  });
  expect(numbers({ depth: 0 }).places).toEqual(['I', '', '', '', 'II', '', 'A']);
});

it('counts examples with a title as figures where that is wanted, and links say so', () => {
  const texts = [
    '<bookmap id="m"><booktitle><mainbooktitle>M</mainbooktitle></booktitle>' +
      '<chapter href="topic:a"/></bookmap>',
    concept(
      'a',
      '<example><p>without a title</p></example><example id="e"><title>One tide</title>' +
        '<p>x</p></example><example><title>Another</title><p>x</p></example><p>' +
        '<xref href="topic:a/e"/></p>',
    ),
  ];
  const of = (examples: boolean): [string[], string | undefined] => {
    const { targets, links } = composeTexts(texts, {
      numbering: { ...usualNumbering, examples },
    });
    const [link] = Object.values(links);
    return [
      Object.values(targets).flatMap(({ kind, number }) =>
        kind === 'example' && number !== undefined ? [number] : [],
      ),
      link?.kind === 'target' ? link.text : undefined,
    ];
  };
  expect(of(true)).toEqual([['1-1', '1-2'], 'Example 1-1']);
  expect(of(false)).toEqual([[], 'One tide']);
});

it('may differ in one language, and in a region before its language', () => {
  const numbering: Numbering = {
    ...usualNumbering,
    byLanguage: {
      ja: { chapters: '一' },
      'ja-JP': { captionSign: '.' },
      ar: { chapters: '١', sections: '١', captionForm: '١' },
    },
  };
  expect([
    numberingFor(numbering, 'ja').chapters,
    numberingFor(numbering, 'ja-JP').captionSign,
    numberingFor(numbering, 'en').chapters,
  ]).toEqual(['一', '.', '1']);
  expect(numbers(numberingFor(numbering, 'ar')).figures).toEqual(['١-١', '١-٢', '٢-١', 'A-١']);
});

it.each([
  [
    '一',
    [1, 10, 11, 20, 21, 100, 119, 1005, 9999],
    ['一', '十', '十一', '二十', '二十一', '百', '百十九', '千五', '九千九百九十九'],
  ],
  ['١', [1, 12, 1234567890], ['١', '١٢', '١٢٣٤٥٦٧٨٩٠']],
] as const)('writes counts as %s', (form, counts, written) => {
  expect(counts.map((count) => writtenNumber(form, count))).toEqual(written);
});
