import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Lens } from '../facets/index.ts';
import { readableText, textLibrary } from '../library/index.ts';
import { childElements, textOf, writeXml } from '../markup/index.ts';
import { anyElement } from '../testing/arbitrary.ts';
import {
  bodyText,
  composeTexts,
  concept,
  libraryOf,
  mapText,
  problemCodes,
} from '../testing/library.ts';
import {
  allPlaces,
  compose,
  ComposeMemory,
  type Publication,
  type ResolvedElement,
} from './index.ts';

const outline = ({ places }: Publication): string[] =>
  allPlaces(places).map((place) => `${place.number ?? '-'} ${place.label}`);

/**
 * DITA 1.3, 2.4.5 (from memory): `to-content` makes one document of an entry and all below it; one
 * inside that says so again stands alone.
 */
describe('topics on one page', () => {
  const shape = (publication: Publication): string =>
    allPlaces(publication.places)
      .map(
        ({ anchor, isChunked, number, hasHeading }) =>
          `${isChunked ? '+' : ''}${anchor}${hasHeading ? ` ${number ?? '-'}` : ' (goes on)'}`,
      )
      .join(', ');
  const topics = ['a', 'b', 'c', 'd', 'e'].map((id) => concept(id));

  it('stand together below the entry that says so, down to one that says so again', () => {
    const inner =
      '<topicref href="topic:b"/><topicref href="topic:c" chunk="to-content">' +
      '<topicref href="topic:d"/></topicref>';
    expect(
      shape(
        composeTexts([
          mapText(
            `<topicref href="topic:a" chunk="to-content">${inner}</topicref>` +
              '<topicref href="topic:e"/>',
          ),
          ...topics,
        ]),
      ),
    ).toBe('a 1, +b 1.1, c 1.2, +d 1.2.1, e 2');
    expect(
      shape(composeTexts([mapText(`<topicref href="topic:a">${inner}</topicref>`), ...topics])),
    ).toBe('a 1, b 1.1, c 1.2, +d 1.2.1');
  });
  it('are those of each chapter where the map says so', () => {
    const text = mapText(
      '<topicref href="topic:a"><topicref href="topic:b"/></topicref><topicref href="topic:c"/>',
    ).replace('<map ', '<map chunk="to-content" ');
    expect(shape(composeTexts([text, ...topics]))).toBe('a 1, +b 1.1, c 2');
  });
  it('go on without a heading where that is said, and are then neither numbered nor listed', () => {
    const inner =
      '<topicref href="topic:b" outputclass="without-heading"/><topicref href="topic:c"/>';
    const publication = composeTexts([
      mapText(`<topicref href="topic:a" chunk="to-content">${inner}</topicref>`),
      ...topics,
    ]);
    expect(shape(publication)).toBe('a 1, +b (goes on), +c 1.1');
    expect(publication.places[0]!.children.map(({ inContents }) => inContents)).toEqual([
      false,
      true,
    ]);
    expect(
      shape(composeTexts([mapText(`<topicref href="topic:a">${inner}</topicref>`), ...topics])),
    ).toBe('a 1, b 1.1, c 1.2');
  });
  it('are those nested in one text where it says so', () => {
    const nested =
      '<concept id="n"><title>N</title><conbody/><concept id="in"><title>In</title><conbody/>' +
      '</concept></concept>';
    expect(shape(composeTexts([mapText('<topicref href="topic:n"/>'), nested]))).toMatch(
      /^n 1, n--in 1\.1$/u,
    );
    expect(
      shape(composeTexts([mapText('<topicref href="topic:n" chunk="by-document"/>'), nested])),
    ).toMatch(/^n 1, \+n--in 1\.1$/u);
  });
});

describe('maps', () => {
  it('nest, number and repeat', () => {
    const publication = composeTexts([
      '<bookmap id="m"><booktitle><mainbooktitle>B</mainbooktitle></booktitle><frontmatter>' +
        '<booklists><toc/></booklists><preface href="topic:p"/></frontmatter>' +
        '<chapter href="topic:a"><topicref href="topic:b"><topicref href="topic:c"/></topicref>' +
        '<mapref href="map:sub" format="ditamap"/></chapter><chapter href="topic:b"/>' +
        '<appendix href="topic:c"/><backmatter><booklists><indexlist/></booklists></backmatter>' +
        '</bookmap>',
      '<map id="sub"><topicref href="topic:d"/><topichead><topicmeta>' +
        '<navtitle>Head</navtitle></topicmeta><topicref href="topic:a"/></topichead></map>',
      ...['p', 'a', 'b', 'c', 'd'].map((id) => concept(id)),
    ]);
    expect(outline(publication)).toEqual([
      '- Contents',
      '- p',
      '1 a',
      '1.1 b',
      '1.1.1 c',
      '1.2 d',
      '1.3 Head',
      '1.3.1 a',
      '2 b',
      'A c',
      '- Index',
    ]);
    expect(new Set(allPlaces(publication.places).map(({ anchor }) => anchor)).size).toBe(11);
    expect(publication.problems).toEqual([]);
  });

  it('parts run through: chapters go on counting', () => {
    const publication = composeTexts([
      '<bookmap id="m"><title>B</title><part href="topic:a"><chapter href="topic:b"/></part>' +
        '<part href="topic:c"><chapter href="topic:d"/></part></bookmap>',
      ...['a', 'b', 'c', 'd'].map((id) => concept(id)),
    ]);
    expect(outline(publication)).toEqual(['I a', '1 b', 'II c', '2 d']);
  });

  it('that contain themselves, or name what is not there, leave that out and say so', () => {
    const publication = composeTexts([
      mapText(
        '<mapref href="map:m" format="ditamap"/><mapref href="map:none" format="ditamap"/>' +
          '<topicref href="topic:gone"/><topicref href="gone.dita"/>' +
          '<topicref href="topic:broken"/><topicref href="topic:a"/>',
      ),
      concept('a'),
      '<concept id="broken"><title>',
    ]);
    expect(outline(publication)).toEqual(['1 a']);
    expect(problemCodes(publication)).toEqual(
      expect.arrayContaining([
        'map.cycle',
        'map.missing-map',
        'topic.missing',
        'map.missing-topic',
        'xml.not-well-formed',
      ]),
    );
    expect(publication.problems.find(({ code }) => code === 'map.missing-topic')?.where).toEqual({
      item: 'm',
      path: [4],
    });
  });

  it('keep a locked title for contents and the topic’s own for its heading', () => {
    const publication = composeTexts([
      mapText(
        '<topicref href="topic:a" locktitle="yes"><topicmeta><navtitle>Short</navtitle>' +
          '</topicmeta></topicref>',
      ),
      concept('a', '', 'A very long title'),
    ]);
    expect(publication.places[0]).toMatchObject({ label: 'Short', title: ['A very long title'] });
  });
});

/**
 * Order by CLDR through `Intl.Collator`; see, see also and ranges as is common practice (ISO 999),
 * from memory.
 */
describe('the index', () => {
  const indexed = (terms: string, locale = 'en'): Publication =>
    composeTexts([mapText('<topicref href="topic:a"/>'), concept('a', `<p>${terms}</p>`)], {
      locale,
    });
  it('nests, sorts and groups', () => {
    const { index, problems } = indexed(
      '<indexterm>mast<indexterm>raising</indexterm></indexterm><indexterm>mast' +
        '<indexterm>clamp</indexterm></indexterm><indexterm>émigré</indexterm>' +
        '<indexterm>Eel</indexterm><indexterm>12 V<index-sort-as>twelve</index-sort-as>' +
        '</indexterm><indexterm>9 lives</indexterm><indexterm>spar<index-see>mast</index-see>' +
        '</indexterm><indexterm>boom<index-see-also>mast<indexterm>raising</indexterm>' +
        '</index-see-also></indexterm>',
    );
    expect(problems).toEqual([]);
    expect(index.map(({ letter, entries }) => [letter, entries.map(({ term }) => term)])).toEqual([
      ['#', ['9 lives']],
      ['B', ['boom']],
      ['E', ['Eel', 'émigré']],
      ['M', ['mast']],
      ['S', ['spar']],
      ['T', ['12 V']],
    ]);
    const [mast] = index[3]!.entries;
    expect(mast!.locators).toEqual([]);
    expect(mast!.entries.map(({ term }) => term)).toEqual(['clamp', 'raising']);
    expect(index[4]!.entries[0]).toMatchObject({ see: ['mast'], locators: [] });
    expect(index[1]!.entries[0]).toMatchObject({ seeAlso: ['mast, raising'], locators: [{}] });
  });
  it('is in the order of the collator of its language', () => {
    const words = ['Zebra', 'ähnlich', 'apfel', 'Ärger', 'öl', 'ofen', 'zahn'];
    for (const locale of ['de', 'sv', 'en']) {
      const { index } = indexed(
        words.map((word) => `<indexterm>${word}</indexterm>`).join(''),
        locale,
      );
      expect(index.flatMap(({ entries }) => entries.map(({ term }) => term))).toEqual(
        words.toSorted(new Intl.Collator(locale, { numeric: true }).compare),
      );
      expect(new Set(index.map(({ letter }) => letter)).size).toBe(index.length);
    }
  });
  it('closes ranges and reports those that stay open', () => {
    const publication = indexed(
      '<indexterm start="r">tide</indexterm>x<indexterm end="r"/>' +
        '<indexterm start="o">wave</indexterm>',
    );
    expect(publication.index[0]!.entries[0]!.locators[0]).toMatchObject({
      anchor: expect.any(String),
      until: expect.any(String),
    });
    expect(problemCodes(publication)).toEqual(['index.range-open']);
  });
  it('takes entries of the prolog once, for the whole topic', () => {
    const publication = composeTexts([
      mapText('<topicref href="topic:a"/>'),
      '<concept id="a"><title>A</title><prolog><metadata><keywords><indexterm>tide' +
        '<indexterm>low</indexterm></indexterm></keywords></metadata></prolog></concept>',
    ]);
    expect(publication.index).toEqual([
      {
        letter: 'T',
        entries: [
          {
            term: 'tide',
            locators: [],
            see: [],
            seeAlso: [],
            entries: [
              { term: 'low', locators: [{ anchor: 'a' }], see: [], seeAlso: [], entries: [] },
            ],
          },
        ],
      },
    ]);
  });
});

describe('what a lens marks', () => {
  const look = { color: '#12305f', start: 'D only:', end: '(D)' };
  it('looks as it says, with its words where the first and last lines are', () => {
    const body =
      '<section product="d"><title>Pile</title><ul><li><p>Clamp</p></li><li><p>Chain' +
      '<indexterm>x</indexterm></p></li></ul></section><p>With <ph product="d">a ' +
      'pile</ph>.</p><image product="d" href="asset:i"/>';
    const lens: Lens = {
      name: 'x',
      rules: [{ facet: 'product', value: 'd', action: 'mark', look }],
    };
    const publication = composeTexts([mapText('<topicref href="topic:a"/>'), concept('a', body)], {
      lens,
    });
    expect(readableText(publication.places[0]!.content!)).toBe(
      'a D only: Pile Clamp Chain (D) With D only: a pile (D).',
    );
    const [section] = childElements(publication.places[0]!.content!).at(-1)!
      .children as ResolvedElement[];
    expect(section!.marked).toEqual(look);
  });
});

const lensOf = (rules: Lens['rules']): Lens => ({ name: 'x', rules });

describe('any library', () => {
  it('composes the same twice, and the order of rules does not matter', () => {
    const rules = [
      { facet: 'audience', value: 'installer', action: 'drop' as const },
      { facet: 'audience', value: 'operator', action: 'keep' as const },
      { facet: 'platform', action: 'drop' as const },
    ];
    fc.assert(
      fc.property(fc.array(anyElement('concept', 4), { minLength: 1, maxLength: 4 }), (roots) => {
        const texts = [
          mapText(roots.map((_, index) => `<topicref href="topic:t${index}"/>`).join('')),
          ...roots.map((root, index) =>
            writeXml({ ...root, attributes: { ...root.attributes, id: `t${index}` } }),
          ),
        ];
        const once = composeTexts(texts, { lens: lensOf(rules) });
        expect(composeTexts(texts, { lens: lensOf(rules.toReversed()) })).toEqual(once);
      }),
      { numRuns: 60 },
    );
  });
});

describe('a map that changes', () => {
  it('keeps topics that use keys when an entry comes before the definition', () => {
    const key =
      '<keydef keys="k"><topicmeta><keywords><keyword>K</keyword></keywords></topicmeta></keydef>';
    const library = libraryOf([
      mapText(`${key}<topicref href="topic:a"/>`),
      concept('a', '<p><ph keyref="k"/></p>'),
      concept('b'),
    ]);
    const memory = new ComposeMemory();
    const contentOf = () =>
      allPlaces(compose({ library, map: 'm' }, memory).places).find(({ anchor }) => anchor === 'a')!
        .content;
    const before = contentOf();
    const text = mapText(`<topicref href="topic:b"/>${key}<topicref href="topic:a"/>`);
    library.set({ id: 'm', kind: 'map', text });
    expect(contentOf()).toBe(before);
  });
});

describe('any library', () => {
  it('gives the same with memory as without, also after a lender changed', () => {
    const memory = new ComposeMemory();
    const texts = [
      mapText('<topicref href="topic:a"/><topicref href="topic:b"/>'),
      concept('a', '<p conref="topic:l/x"/>'),
      concept('b', '<p>b</p>'),
      concept('l', '<p id="x">old</p>'),
    ];
    const library = libraryOf(texts);
    const first = compose({ library, map: 'm' }, memory);
    expect(bodyText(first, 'a')).toBe('old');
    library.set({ id: 'l', kind: 'topic', text: concept('l', '<p id="x">new</p>') });
    const second = compose({ library, map: 'm' }, memory);
    expect(bodyText(second, 'a')).toBe('new');
    expect(second.places[1]!.content).toBe(first.places[1]!.content);
    expect(second).toEqual(compose({ library, map: 'm' }));
  });
  it('notices a lender and an image that were missing and have come', () => {
    const memory = new ComposeMemory();
    const texts = [
      mapText('<topicref href="topic:a"/>'),
      concept('a', '<p conref="topic:l/x"/><image href="asset:i"><alt>I</alt></image>'),
    ];
    const early = libraryOf(texts);
    expect(problemCodes(compose({ library: early, map: 'm' }, memory))).toEqual([
      'borrow.missing',
      'image.missing',
    ]);
    const items = [...texts, concept('l', '<p id="x">come</p>')].map((text) => ({
      id: /id="([^"]+)"/u.exec(text)![1]!,
      kind: text.startsWith('<map') ? ('map' as const) : ('topic' as const),
      text,
    }));
    const late = textLibrary(items, [{ id: 'i', name: 'i.svg', mediaType: 'image/svg+xml' }], {
      earlier: early,
    });
    expect(late.item('a')).toBe(early.item('a'));
    const publication = compose({ library: late, map: 'm' }, memory);
    expect(publication.problems).toEqual([]);
    expect(bodyText(publication, 'a')).toContain('come');
    expect(
      compose(
        {
          library: textLibrary(items, [{ id: 'i', name: 'i.svg', mediaType: 'image/svg+xml' }], {
            earlier: late,
          }),
          map: 'm',
        },
        memory,
      ).places[0]!.content,
    ).toBe(publication.places[0]!.content);
  });
});

describe('any library', () => {
  it('never publishes comments for the team, guidance or unknown elements', () => {
    const publication = composeTexts([
      mapText('<topicref href="topic:a"/>'),
      concept(
        'a',
        '<p>a<draft-comment>secret</draft-comment><?guidance secret?><gadget>secret</gadget>' +
          '<required-cleanup>secret</required-cleanup></p>',
      ),
    ]);
    expect(textOf(publication.places[0]!.content!)).not.toContain('secret');
  });
});
