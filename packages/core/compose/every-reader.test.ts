import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  both,
  readersOf,
  readerSpace,
  uncovered,
  type Facet,
  type Lens,
  type Readers,
} from '../facets/index.ts';
import { findAll, isElement } from '../markup/index.ts';
import { composeTexts, concept, libraryOf, mapText } from '../testing/library.ts';
import { allPlaces, checkEveryReader } from './index.ts';

const facets: Facet[] = [
  {
    name: 'product',
    label: 'Model',
    values: ['q', 'd'].map((name) => ({ name, label: `Tern ${name.toUpperCase()}` })),
  },
  {
    name: 'platform',
    label: 'Power',
    values: [
      { name: 'mains', label: 'Mains' },
      {
        name: 'solar',
        label: 'Solar',
        values: [
          { name: 'solar-40', label: '40 W' },
          { name: 'solar-90', label: '90 W' },
        ],
      },
    ],
  },
  {
    name: 'release',
    label: 'Release',
    values: ['4.1', '4.2'].map((name) => ({ name, label: name })),
  },
];
const check = (texts: readonly string[], lens?: Lens): string[] =>
  checkEveryReader({ library: libraryOf(texts), map: 'm', facets, ...(lens ? { lens } : {}) }).map(
    ({ code, message }) => `${code}: ${message}`,
  );
const task = (body: string): string =>
  `<task id="a"><title>A</title><taskbody>${body}</taskbody></task>`;
const one = (topic: string): string[] => check([mapText('<topicref href="topic:a"/>'), topic]);

describe('through every lens at once', () => {
  it('a task is left without steps, or its steps without one', () => {
    expect(
      one(
        task(
          '<steps><step product="q"><cmd>1</cmd></step><step product="d" platform="solar">' +
            '<cmd>2</cmd></step></steps>',
        ),
      ),
    ).toEqual(['readers.empty-list: The steps have nothing for Model Tern D, Power Mains.']);
    expect(
      one(
        task(
          '<context><p>c</p></context><steps platform="solar-40 mains"><step><cmd>1</cmd>' +
            '</step></steps>',
        ),
      ),
    ).toEqual(['readers.no-steps: The task has no steps for Power 90 W.']);
    expect(
      one(
        task(
          '<steps><step product="q"><cmd>1</cmd></step><step product="d"><cmd>2</cmd></step>' +
            '</steps>',
        ),
      ),
    ).toEqual([]);
    expect(
      one(
        task('<steps product="d"><step product="d"><cmd>1</cmd></step></steps>').replace(
          '<task ',
          '<task product="d" ',
        ),
      ),
    ).toEqual([]);
  });
  it('a row lacks a cell that others have; a column that goes as a whole is none of it', () => {
    const table = (first: string, second: string): string =>
      concept(
        'a',
        `<table><tgroup cols="2"><tbody><row><entry>a</entry><entry ${first}>b</entry></row>` +
          `<row><entry>c</entry><entry ${second}>d</entry></row></tbody></tgroup></table>`,
      );
    expect(one(table('', 'product="q"'))).toEqual([
      'readers.missing-cell: This row lacks a cell for Model Tern D.',
    ]);
    expect(one(table('product="q"', 'product="q"'))).toEqual([]);
  });
});

describe('through every lens at once', () => {
  it('cells stand for each other in one row, and joined cells reach as far as they should', () => {
    const table = (...rows: string[]): string =>
      concept(
        'a',
        '<table><tgroup cols="2"><colspec colname="c1"/><colspec colname="c2"/>' +
          `<tbody>${rows.join('')}</tbody></tgroup></table>`,
      );
    const twice = (last: string) =>
      '<row><entry>a</entry><entry platform="mains">m</entry>' +
      `<entry platform="${last}">s</entry></row><row><entry>b</entry><entry>c</entry></row>`;
    expect(one(table(twice('solar')))).toEqual([]);
    expect(one(table(twice('solar-40')))).toEqual([
      'readers.missing-cell: This row lacks a cell for Power 90 W.',
    ]);
    const joined = (row: string, last = '<row><entry>e</entry><entry>f</entry></row>') =>
      table(
        `<row><entry morerows="1">a</entry><entry>b</entry></row><row ${row}><entry>c</entry>` +
          '</row>',
        last,
      );
    expect(one(joined('outputclass="x"'))).toEqual([]);
    expect(one(joined('product="q"'))).toEqual([
      'readers.joined-cell: Cells of this table reach into each other for Model Tern D.',
    ]);
    expect(
      one(
        table(
          '<row product="q"><entry morerows="1">a</entry><entry>b</entry></row><row>' +
            '<entry>c</entry></row>',
          '<row><entry>e</entry><entry>f</entry></row>',
        ),
      ),
    ).toEqual(['readers.missing-cell: This row lacks a cell for Model Tern D.']);
    expect(
      one(
        table(
          '<row product="q"><entry namest="c1" nameend="c2">a</entry></row><row>' +
            '<entry>e</entry><entry>f</entry></row>',
        ),
      ),
    ).toEqual([]);
    // What lacks a cell for everybody varies by nothing.
    expect(
      one(
        table(
          '<row><entry>a</entry></row><row><entry product="q">e</entry>' +
            '<entry product="d">f</entry><entry>g</entry></row>',
        ),
      ),
    ).toEqual([]);
  });
  it('a link leads to what its reader does not get', () => {
    const texts = (place: string, attributes: string): string[] => [
      mapText(`<topicref href="topic:a"/><topicref href="topic:b" ${place}/>`),
      concept('a', `<p ${attributes}><xref href="topic:b"/></p>`),
      concept('b', '<p>b</p>'),
    ];
    expect(check(texts('product="d"', ''))).toEqual([
      'readers.dropped-target: The link leads to “b”, which is not there for Model Tern Q.',
    ]);
    expect(check(texts('product="d"', 'product="d"'))).toEqual([]);
    expect(
      check(texts('product="d"', ''), {
        name: 'l',
        rules: [{ facet: 'product', value: 'q', action: 'drop' }],
      }),
    ).toEqual([]);
    const part = [
      mapText('<topicref href="topic:a"/><topicref href="topic:b"/>'),
      concept('a', '<p><xref href="topic:b/x"/></p>'),
      concept('b', '<section id="x" release="4.2"><p>x</p></section><p>b</p>'),
    ];
    expect(check(part)).toEqual([
      'readers.dropped-target: The link leads to “b”, which is not there for Release 4.1.',
    ]);
  });
});

describe('through every lens at once', () => {
  it('a heading has nothing under it, in a topic or in the map', () => {
    expect(
      one(concept('a', '<section><title>Wiring</title><p product="q">x</p></section>')),
    ).toEqual(['readers.empty-part: Under “Wiring” there is nothing for Model Tern D.']);
    const head = mapText(
      '<topichead><topicmeta><navtitle>Care</navtitle></topicmeta>' +
        '<topicref href="topic:a" release="4.2"/></topichead>',
    );
    expect(check([head, concept('a', '<p>x</p>')])).toEqual([
      'readers.empty-part: Under “Care” there is nothing for Release 4.1.',
    ]);
  });
  it('a sentence lacks the words for somebody', () => {
    const sentence = (last: string): string =>
      concept(
        'a',
        `<p>Fitted with <ph platform="mains">a lead</ph><ph platform="${last}">a panel</ph>.</p>`,
      );
    expect(one(sentence('solar-40'))).toEqual([
      'readers.missing-words: Of “a lead” and “a panel” none is for Power 90 W.',
    ]);
    expect(one(sentence('solar'))).toEqual([]);
    expect(
      one(
        concept('a', '<p>Open it<ph platform="mains"> now</ph><ph product="q">, slowly</ph>.</p>'),
      ),
    ).toEqual([]);
  });
  it('sees through borrowing, and values in no list', () => {
    const texts = [
      mapText('<topicref href="topic:a"/>'),
      concept('a', '<ul><li conref="topic:l/x"/></ul>'),
      concept('l', '<ul><li id="x" otherprops="wet">x</li></ul>'),
    ];
    expect(check(texts)).toEqual([
      'readers.empty-list: The list has no entry for otherprops none of these.',
    ]);
  });
});

const values: Readonly<Record<string, readonly string[]>> = {
  product: ['q', 'd'],
  platform: ['mains', 'solar', 'solar-40', 'solar-90'],
  release: ['4.1', '4.2'],
};
const condition = fc.record(
  {
    product: fc.subarray([...values['product']!], { minLength: 1 }),
    platform: fc.subarray([...values['platform']!], { minLength: 1 }),
    release: fc.subarray([...values['release']!], { minLength: 1 }),
  },
  { requiredKeys: [] },
);
const written = (set: Partial<Record<string, string[]>>): Record<string, string> =>
  Object.fromEntries(Object.entries(set).map(([name, list]) => [name, list!.join(' ')]));
/** Every reader there can be, one by one. */
const everybody = ['q', 'd'].flatMap((product) =>
  ['mains', 'solar-40', 'solar-90'].flatMap((platform) =>
    ['4.1', '4.2'].map((release) => ({ product, platform, release })),
  ),
);
const lensFor = (reader: (typeof everybody)[number]): Lens => ({
  name: 'one',
  rules: Object.entries(reader).flatMap(([facet, value]) => [
    { facet, value, action: 'keep' as const },
    ...(value.startsWith('solar-')
      ? [
          { facet, value: 'solar', action: 'keep' as const },
          { facet, value: value === 'solar-40' ? 'solar-90' : 'solar-40', action: 'drop' as const },
        ]
      : []),
    { facet, action: 'drop' as const },
  ]),
});

describe('sets of readers', () => {
  const space = readerSpace(
    facets,
    new Map(Object.entries(values).map(([name, list]) => [name, new Set(list)])),
  );
  const isIn = (reader: (typeof everybody)[number], readers: Readers): boolean => {
    const single = readersOf(reader, space);
    return uncovered(single, [readers], space).length === 0;
  };
  it('are what is left of each other, as going through everybody tells', () => {
    fc.assert(
      fc.property(condition, fc.array(condition, { maxLength: 5 }), (of, covers) => {
        const readers = readersOf(written(of), space);
        const sets = covers.map((cover) => readersOf(written(cover), space));
        const left = uncovered(readers, sets, space);
        if (left === 'too-many') throw new Error('too many');
        for (const reader of everybody) {
          const expected = isIn(reader, readers) && !sets.some((set) => isIn(reader, set));
          expect(left.filter((one_) => isIn(reader, one_)).length).toBe(expected ? 1 : 0);
        }
        expect(both(readers, readers)).toEqual(readers);
      }),
      { numRuns: 300 },
    );
  });
});

it('finds a list that is left empty exactly where composing for some reader gives one', () => {
  const attributes = (set: Partial<Record<string, string[]>>): string =>
    Object.entries(written(set))
      .map(([name, value]) => ` ${name}="${value}"`)
      .join('');
  fc.assert(
    fc.property(
      condition,
      condition,
      fc.array(condition, { minLength: 1, maxLength: 4 }),
      (place, list, items) => {
        const texts = [
          mapText(`<topicref href="topic:a"${attributes(place)}/>`),
          concept(
            'a',
            `<ul${attributes(list)}>` +
              `${items.map((item) => `<li${attributes(item)}>x</li>`).join('')}</ul>`,
          ),
        ];
        const isLeftEmpty = everybody.some((reader) => {
          const lists = allPlaces(
            composeTexts(texts, { lens: lensFor(reader), facets }).places,
          ).flatMap(({ content }) =>
            content ? findAll(content, ({ name }) => name === 'ul') : [],
          );
          return lists.some(({ children }) => !children.some(isElement));
        });
        expect(check(texts).some((found) => found.startsWith('readers.empty-list'))).toBe(
          isLeftEmpty,
        );
      },
    ),
    { numRuns: 150 },
  );
});
