import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { matches, type Facet, type Lens } from '../facets/index.ts';
import { childElements, childNamed, findAll, lineOf, textOf } from '../markup/index.ts';
import { anyElement } from '../testing/arbitrary.ts';
import { composeTexts, concept, libraryOf, mapOf } from '../testing/library.ts';
import { writeXml } from '../markup/index.ts';
import { readableText, textLibrary } from '../library/index.ts';
import {
  allPlaces,
  compose,
  ComposeMemory,
  type Publication,
  type ResolvedElement,
} from './index.ts';

const codes = ({ problems }: Publication): string[] => problems.map(({ code }) => code);
const bodyText = (publication: Publication, anchor: string): string =>
  lineOf(
    childNamed(
      allPlaces(publication.places).find((place) => place.anchor === anchor)!.content!,
      'conbody',
      'taskbody',
      'body',
    )!,
  );
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
          mapOf(
            `<topicref href="topic:a" chunk="to-content">${inner}</topicref>` +
              '<topicref href="topic:e"/>',
          ),
          ...topics,
        ]),
      ),
    ).toBe('a 1, +b 1.1, c 1.2, +d 1.2.1, e 2');
    expect(
      shape(composeTexts([mapOf(`<topicref href="topic:a">${inner}</topicref>`), ...topics])),
    ).toBe('a 1, b 1.1, c 1.2, +d 1.2.1');
  });
  it('are those of each chapter where the map says so', () => {
    const text = mapOf(
      '<topicref href="topic:a"><topicref href="topic:b"/></topicref><topicref href="topic:c"/>',
    ).replace('<map ', '<map chunk="to-content" ');
    expect(shape(composeTexts([text, ...topics]))).toBe('a 1, +b 1.1, c 2');
  });
  it('go on without a heading where that is said, and are then neither numbered nor listed', () => {
    const inner =
      '<topicref href="topic:b" outputclass="without-heading"/><topicref href="topic:c"/>';
    const publication = composeTexts([
      mapOf(`<topicref href="topic:a" chunk="to-content">${inner}</topicref>`),
      ...topics,
    ]);
    expect(shape(publication)).toBe('a 1, +b (goes on), +c 1.1');
    expect(publication.places[0]!.children.map(({ inContents }) => inContents)).toEqual([
      false,
      true,
    ]);
    expect(
      shape(composeTexts([mapOf(`<topicref href="topic:a">${inner}</topicref>`), ...topics])),
    ).toBe('a 1, b 1.1, c 1.2');
  });
  it('are those nested in one text where it says so', () => {
    const nested =
      '<concept id="n"><title>N</title><conbody/><concept id="in"><title>In</title><conbody/>' +
      '</concept></concept>';
    expect(shape(composeTexts([mapOf('<topicref href="topic:n"/>'), nested]))).toMatch(
      /^n 1, n--in 1\.1$/u,
    );
    expect(
      shape(composeTexts([mapOf('<topicref href="topic:n" chunk="by-document"/>'), nested])),
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
      mapOf(
        '<mapref href="map:m" format="ditamap"/><mapref href="map:none" format="ditamap"/>' +
          '<topicref href="topic:gone"/><topicref href="gone.dita"/>' +
          '<topicref href="topic:broken"/><topicref href="topic:a"/>',
      ),
      concept('a'),
      '<concept id="broken"><title>',
    ]);
    expect(outline(publication)).toEqual(['1 a']);
    expect(codes(publication)).toEqual(
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

  it('keep a short title for contents and the topic’s own for its heading', () => {
    const publication = composeTexts([
      mapOf(
        '<topicref href="topic:a"><topicmeta><navtitle>Short</navtitle></topicmeta></topicref>',
      ),
      concept('a', '', 'A very long title'),
    ]);
    expect(publication.places[0]).toMatchObject({ label: 'Short', title: ['A very long title'] });
  });
});

/** From memory of OASIS DITA 1.3, 2.4.4 “Indirect key-based addressing”. */
const use = concept('a', '<p><ph keyref="k"/></p>');
const key = (text: string, more = ''): string =>
  `<keydef keys="k"${more}><topicmeta><keywords><keyword>${text}</keyword></keywords>` +
  '</topicmeta></keydef>';

describe('keys', () => {
  it('the first definition in the map holds, also before one in a sub-map', () => {
    const publication = composeTexts([
      mapOf(`${key('outer')}<mapref href="map:s" format="ditamap"/><topicref href="topic:a"/>`),
      `<map id="s">${key('inner')}</map>`,
      use,
    ]);
    expect(bodyText(publication, 'a')).toBe('outer');
  });
  it('a definition that the lens drops does not count', () => {
    const publication = composeTexts(
      [
        mapOf(
          `${key('q', ' product="tern-q"')}${key('d', ' product="tern-d"')}` +
            '<topicref href="topic:a"/>',
        ),
        use,
      ],
      {
        lens: { name: 'd', rules: [{ facet: 'product', value: 'tern-q', action: 'drop' }] },
      },
    );
    expect(bodyText(publication, 'a')).toBe('d');
  });
  it('an outer scope goes before an inner one, and reaches in by a qualified name', () => {
    const scoped = mapOf(
      `<topicgroup keyscope="s">${key('inside')}<topicref href="topic:a"/></topicgroup>` +
        '<topicref href="topic:b"/>',
    );
    const publication = composeTexts([scoped, use, concept('b', '<p><ph keyref="s.k"/></p>')]);
    expect(bodyText(publication, 'a')).toBe('inside');
    expect(bodyText(publication, 'b')).toBe('inside');
    const outer = composeTexts([
      mapOf(
        `${key('outside')}<topicgroup keyscope="s">${key('inside')}<topicref href="topic:a"/>` +
          '</topicgroup>',
      ),
      use,
    ]);
    expect(bodyText(outer, 'a')).toBe('outside');
  });
  it('a variable of the edition goes before all, also in the titles of the map', () => {
    const publication = composeTexts(
      [
        '<map id="m"><title><ph keyref="k"/> ' +
          `Manual</title>${key('x')}<topicref href="topic:a"/></map>`,
        use,
      ],
      { variables: { k: 'edition' } },
    );
    expect(bodyText(publication, 'a')).toBe('edition');
    expect(publication.facts.title).toBe('edition Manual');
  });
  it('a map goes before the maps that it takes in, wherever they stand', () => {
    const publication = composeTexts([
      mapOf(`<mapref href="map:s" format="ditamap"/>${key('outer')}<topicref href="topic:a"/>`),
      `<map id="s"><mapref href="map:t" format="ditamap"/>${key('inner')}</map>`,
      `<map id="t">${key('innermost')}</map>`,
      use,
    ]);
    expect(bodyText(publication, 'a')).toBe('outer');
    const nested = composeTexts([
      mapOf('<mapref href="map:s" format="ditamap"/><topicref href="topic:a"/>'),
      `<map id="s"><mapref href="map:t" format="ditamap"/>${key('inner')}</map>`,
      `<map id="t">${key('innermost')}</map>`,
      use,
    ]);
    expect(bodyText(nested, 'a')).toBe('inner');
  });
});

describe('keys', () => {
  it('a set that holds everywhere comes behind all that the maps say themselves', () => {
    const set =
      '<map id="s"><topicmeta><data name="holds-in" value="every-map"/>' +
      `</topicmeta>${key('common')}${key('also').replace('"k"', '"j"')}</map>`;
    const both = concept('a', '<p><ph keyref="k"/> <ph keyref="j"/></p>');
    expect(bodyText(composeTexts([mapOf('<topicref href="topic:a"/>'), set, both]), 'a')).toBe(
      'common also',
    );
    const publication = composeTexts([
      mapOf('<topicref href="topic:a"/><mapref href="map:t" format="ditamap"/>'),
      `<map id="t">${key('own')}</map>`,
      set,
      both,
    ]);
    expect(bodyText(publication, 'a')).toBe('own also');
    expect(codes(publication)).toEqual([]);
  });
  it('prefer the definition that fits readers and language best, and report duplicates', () => {
    const facets = [
      {
        name: 'product',
        label: 'Model',
        values: [
          { name: 'tern-q', label: 'Q' },
          { name: 'tern-d', label: 'D' },
        ],
      },
    ];
    const lens: Lens = {
      name: 'd',
      rules: [{ facet: 'product', value: 'tern-q', action: 'drop' }],
    };
    const map = mapOf(
      `${key('base')}${key('deep', ' product="tern-d"')}${key('quay', ' product="tern-q"')}` +
        `${key('tief', ' product="tern-d" xml:lang="de"')}<topicref href="topic:a"/>`,
    );
    expect(bodyText(composeTexts([map, use], { facets, lens }), 'a')).toBe('deep');
    expect(bodyText(composeTexts([map, use], { facets }), 'a')).toBe('base');
    expect(bodyText(composeTexts([map, use], { facets, lens, locale: 'de-AT' }), 'a')).toBe('tief');
    const twice = composeTexts([
      mapOf(`${key('one')}${key('two')}<topicref href="topic:a"/>`),
      use,
    ]);
    expect([bodyText(twice, 'a'), codes(twice)]).toEqual(['one', ['key.twice']]);
  });
  it('a map that is only a resource gives its keys, and stands nowhere', () => {
    const publication = composeTexts([
      mapOf(
        '<topicref href="topic:a"/>' +
          '<mapref href="map:s" format="ditamap" processing-role="resource-only"/>',
      ),
      `<map id="s">${key('given')}<topicref href="topic:b"/></map>`,
      use,
      concept('b'),
    ]);
    expect([outline(publication), bodyText(publication, 'a')]).toEqual([['1 a'], 'given']);
  });
  it('scopes of one name are searched in the order of the map', () => {
    const scope = (inner: string): string => `<topicgroup keyscope="s">${inner}</topicgroup>`;
    const publication = composeTexts([
      mapOf(`${scope('')}${scope(key('second'))}${scope(key('third'))}<topicref href="topic:b"/>`),
      concept('b', '<p><ph keyref="s.k"/></p>'),
    ]);
    expect(bodyText(publication, 'b')).toBe('second');
  });
  it('may use other variables in a map’s title; one that uses itself shows nothing', () => {
    const text = (name: string, words: string): string =>
      `<keydef keys="${name}"><topicmeta><linktext>${words}</linktext></topicmeta></keydef>`;
    const publication = composeTexts([
      '<map id="m"><title>' +
        `<ph keyref="full"/>!</title>${text('full', 'Tern <ph keyref="k"/>')}` +
        `${text('k', 'Q <ph keyref="loop"/>')}${text('loop', 'x<ph keyref="loop"/>')}</map>`,
    ]);
    expect(publication.facts.title).toBe('Tern Q x!');
  });
});

describe('keys', () => {
  it('what is not defined, or defined by itself, is said and marked', () => {
    expect(composeTexts([mapOf('<topicref href="topic:a"/>'), use]).problems[0]).toMatchObject({
      code: 'key.undefined',
      where: { item: 'a', path: [1, 0, 0] },
    });
    const cyclic = mapOf(
      '<keydef keys="k"><topicmeta><linktext>x <ph keyref="k"/></linktext></topicmeta>' +
        '</keydef><topicref href="topic:a"/>',
    );
    expect(codes(composeTexts([cyclic, use]))).toEqual(['key.cycle']);
  });
});

/** From memory of OASIS DITA 1.3, 2.4.5 “Content inclusion (conref)”. */
const lender = concept(
  'l',
  '<p id="one" audience="operator">First <b>bold</b></p><p id="two">Second</p>' +
    '<p id="three">Third</p><note id="n" type="danger">Note</note>',
);
const borrow = (body: string, more: readonly string[] = []): Publication =>
  composeTexts([mapOf('<topicref href="topic:a"/>'), concept('a', body), lender, ...more]);

describe('borrowed passages', () => {
  it('show what is lent, with the borrower’s id and attributes before the lender’s', () => {
    const publication = borrow(
      '<note id="mine" conref="topic:l/n" type="tip"/><p conref="topic:l/one"/>',
    );
    const [note, paragraph] = findAll(
      publication.places[0]!.content!,
      ({ name }) => name === 'note' || name === 'p',
    );
    expect(note).toMatchObject({
      attributes: { id: 'mine', type: 'tip' },
      children: ['Note'],
      origin: { item: 'l', path: [1, 3] },
    });
    expect(paragraph?.attributes).toEqual({ audience: 'operator' });
    expect(publication.why.filter(({ kind }) => kind === 'borrowed')).toHaveLength(2);
  });
  it('may leave an attribute to the lender', () => {
    const publication = borrow('<note conref="topic:l/n" type="-dita-use-conref-target"/>');
    expect(
      findAll(publication.places[0]!.content!, ({ name }) => name === 'note')[0]?.attributes,
    ).toEqual({ type: 'danger' });
  });
  it('may be a run of siblings', () => {
    expect(bodyText(borrow('<p conref="topic:l/one" conrefend="topic:l/three"/>'), 'a')).toBe(
      'First boldSecondThird',
    );
  });
  it('go through several lenders, and are filtered like any other content', () => {
    const publication = composeTexts(
      [
        mapOf('<topicref href="topic:a"/>'),
        concept('a', '<p conref="topic:b/x"/>'),
        concept('b', '<p id="x" conref="topic:l/one"/>'),
        lender,
      ],
      {
        lens: { name: 'i', rules: [{ facet: 'audience', value: 'operator', action: 'drop' }] },
      },
    );
    expect(bodyText(publication, 'a')).toBe('');
    expect(publication.why.some(({ kind }) => kind === 'dropped')).toBe(true);
  });
  it('says where nothing is left for the readers, and only there', () => {
    const drop: Lens = { name: 'q', rules: [{ facet: 'product', value: 'd', action: 'drop' }] };
    const empty = (body: string): string[] => {
      const { problems } = composeTexts([mapOf('<topicref href="topic:a"/>'), concept('a', body)], {
        lens: drop,
      });
      return problems
        .filter(({ code }) => code === 'filter.empty')
        .map(({ message, where }) => `${message} ${where.path?.join('.')}`);
    };
    expect(empty('<p>x</p><ul><li product="d">a</li><li product="d">b</li></ul>')).toEqual([
      '“Bullet list” has nothing left for these readers. 1.1',
    ]);
    expect(empty('<p><ph product="d">a</ph></p>')).toEqual([
      '“Paragraph” has nothing left for these readers. 1.0',
    ]);
    expect(
      empty('<p product="d">x</p><p>y</p><ul><li product="d">a</li><li>b</li></ul><p/>'),
    ).toEqual([]);
  });
  it.each([
    ['<p conref="topic:none/x"/>', 'borrow.missing'],
    ['<p conref="topic:l/none"/>', 'borrow.missing'],
    ['<p id="me" conref="topic:a/me"/>', 'borrow.cycle'],
    ['<ul conref="topic:l/one"/>', 'borrow.mismatch'],
    ['<p conref="topic:c/x"/>', 'borrow.cycle'],
  ])('are refused where they cannot be: %s', (body, code) => {
    const publication = borrow(`${body}<p>stays</p>`, [
      concept('c', '<p id="x"><ph id="y" conref="topic:d/y"/></p>'),
      concept('d', '<p><ph id="y" conref="topic:c/y"/></p>'),
    ]);
    expect(codes(publication)).toEqual([code]);
    expect(bodyText(publication, 'a')).toContain('stays');
  });
});

describe('links', () => {
  it('lead to topics, figures, tables and steps, with their numbers', () => {
    const task =
      '<task id="t"><title>Do</title><taskbody><steps><step><cmd>a</cmd></step><step id="s">' +
      '<cmd>b</cmd></step></steps></taskbody></task>';
    const publication = composeTexts([
      mapOf('<topicref href="topic:a"/><topicref href="topic:b"/><topicref href="topic:t"/>'),
      concept(
        'a',
        '<p><xref href="topic:b"/><xref href="topic:b/f"/><xref href="topic:b/s"/>' +
          '<xref href="topic:t/s"/><xref href="#a/here"/><xref href="https://example.org/"/>' +
          '</p><p id="here">x</p>',
      ),
      concept(
        'b',
        '<fig id="f"><title>Fig</title></fig><simpletable id="s"><title>Tab</title><strow>' +
          '<stentry>x</stentry></strow></simpletable>',
        'Bee',
      ),
      task,
    ]);
    expect(
      Object.values(publication.links).map((link) =>
        link.kind === 'target' ? link.text : link.kind,
      ),
    ).toEqual(['Bee', 'Figure 2-1', 'Table 2-1', 'step 2', 'a', 'external']);
    expect(publication.figures).toMatchObject([{ number: '2-1', anchor: 'b--f' }]);
  });
  it('to what is not in the publication, not in the library or not safe are told apart', () => {
    const publication = composeTexts([
      mapOf('<topicref href="topic:a"/>'),
      concept(
        'a',
        '<p><xref href="topic:b"/><xref href="topic:c"/><xref href="topic:a/x"/>' +
          '<xref href="javascript:alert(1)"/></p>',
      ),
      concept('b'),
    ]);
    expect(codes(publication)).toEqual([
      'link.outside-publication',
      'link.unknown-target',
      'link.unknown-element',
      'link.unknown-target',
    ]);
    expect(Object.values(publication.links).every(({ kind }) => kind === 'broken')).toBe(true);
  });
  it('of a relationship table go both ways', () => {
    const publication = composeTexts([
      mapOf(
        '<topicref href="topic:a"/><topicref href="topic:b"/><reltable><relrow><relcell>' +
          '<topicref href="topic:a"/></relcell><relcell><topicref href="topic:b"/></relcell>' +
          '</relrow></reltable>',
      ),
      concept('a'),
      concept('b'),
    ]);
    expect(publication.places.map(({ related }) => related)).toEqual([
      [{ anchor: 'b' }],
      [{ anchor: 'a' }],
    ]);
  });
});

const relatedIn = (map: string, lens?: Lens): Record<string, readonly string[]> =>
  Object.fromEntries(
    allPlaces(
      composeTexts([mapOf(map), ...['a', 'b', 'c'].map((id) => concept(id))], lens ? { lens } : {})
        .places,
    ).map(({ anchor, related }) => [anchor, related.map((one) => one.anchor)]),
  );
const all = ['a', 'b', 'c'].map((id) => `<topicref href="topic:${id}"/>`).join('');
const cells = (...inner: string[]): string =>
  `<reltable><relrow>${inner.map((one) => `<relcell>${one}</relcell>`).join('')}</relrow>` +
  '</reltable>';

describe('links made by where topics stand', () => {
  it('go one way only, or not at all, where the entry says so', () => {
    expect(
      relatedIn(
        all +
          cells(
            '<topicref href="topic:a" linking="sourceonly"/>',
            '<topicref href="topic:b"/>',
            '<topicref href="topic:c" linking="none"/>',
          ),
      ),
    ).toEqual({ a: ['b'], b: [], c: [] });
    expect(
      relatedIn(
        all +
          cells('<topicref href="topic:a" linking="targetonly"/>', '<topicref href="topic:b"/>'),
      ),
    ).toEqual({ a: [], b: ['a'], c: [] });
  });
  it('do not lead to what the lens drops from the table', () => {
    const lens: Lens = { name: 'x', rules: [{ facet: 'product', value: 'd', action: 'drop' }] };
    expect(
      relatedIn(
        all +
          cells(
            '<topicref href="topic:a"/>',
            '<topicref href="topic:b" product="d"/><topicref href="topic:c"/>',
          ),
        lens,
      ),
    ).toEqual({ a: ['c'], b: [], c: ['a'] });
  });
  it('say for whom they are where readers choose: by row, cell and entry', () => {
    const facets: Facet[] = [
      {
        name: 'product',
        label: 'Model',
        values: ['q', 'd'].map((name) => ({ name, label: name })),
      },
    ];
    const row = (attributes: string, first: string, second: string): string =>
      `<relrow ${attributes}><relcell>${first}</relcell>` +
      `<relcell product="q d">${second}</relcell></relrow>`;
    const [a, b, c] = ['a', 'b', 'c'].map((id) => `<topicref href="topic:${id}"/>`);
    const relations =
      `<reltable>${row('product="d"', a!, b!)}` +
      `${row('', '<topicref href="topic:a" product="q"/>', b!)}${row('product="q"', a!, c!)}` +
      `${row('', b!, c!)}${row('product="d"', b!, c!)}</reltable>`;
    const { places } = composeTexts(
      [mapOf(all + relations), ...['a', 'b', 'c'].map((id) => concept(id))],
      { facets, open: ['product'] },
    );
    const when = (value: string) => ({ any: { product: [value] } });
    expect(places[0]!.related).toEqual([
      { anchor: 'b', when: [{ either: [[when('d')], [when('q')]] }] },
      { anchor: 'c', when: [when('q')] },
    ]);
    expect(places[1]!.related).toEqual([
      { anchor: 'a', when: [{ either: [[when('d')], [when('q')]] }] },
      { anchor: 'c' },
    ]);
    expect(matches(places[0]!.related[0]!.when![0]!, { product: ['q'] })).toBe(true);
    expect(matches({ either: [[when('d'), when('q')], [when('d')]] }, { product: ['q'] })).toBe(
      false,
    );
  });
});

describe('links made by where topics stand', () => {
  it('stay within a branch, from wherever a topic stands', () => {
    const filter = (name: string): string =>
      `<ditavalref href="lens:${name}" format="ditaval"><ditavalmeta>` +
      `<dvrResourcePrefix>${name}-</dvrResourcePrefix></ditavalmeta></ditavalref>`;
    const branch = (name: string): string =>
      `<topichead navtitle="${name}">${filter(name)}${all}</topichead>`;
    const library = libraryOf(
      [
        mapOf(
          branch('x') +
            branch('y') +
            cells('<topicref href="topic:a"/>', '<topicref href="topic:b"/>'),
        ),
        ...['a', 'b', 'c'].map((id) => concept(id)),
      ],
      [],
      ['x', 'y'].map((name) => ({ id: name, name, rules: [] })),
    );
    const related = allPlaces(compose({ library, map: 'm' }).places).flatMap(
      ({ anchor, related: leads }) => leads.map((one) => `${anchor} ${one.anchor}`),
    );
    expect(related).toEqual(['x-a x-b', 'x-b x-a', 'y-a y-b', 'y-b y-a']);
  });
  it('lead among the members of a family', () => {
    expect(
      relatedIn(
        '<topicref href="topic:a" collection-type="family"><topicref href="topic:b"/>' +
          '<topicref href="topic:c"/></topicref>',
      ),
    ).toEqual({ a: [], b: ['c'], c: ['b'] });
    expect(
      relatedIn(
        '<topichead navtitle="H" collection-type="family"><topicref href="topic:a"/>' +
          '<topicref href="topic:b" linking="none"/><topicref href="topic:c"/></topichead>',
      ),
    ).toMatchObject({
      a: ['c'],
      b: [],
      c: ['a'],
    });
  });
});

/**
 * Order by CLDR through `Intl.Collator`; see, see also and ranges as is common practice (ISO 999),
 * from memory.
 */
describe('the index', () => {
  const indexed = (terms: string, locale = 'en'): Publication =>
    composeTexts([mapOf('<topicref href="topic:a"/>'), concept('a', `<p>${terms}</p>`)], {
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
    expect(codes(publication)).toEqual(['index.range-open']);
  });
  it('takes entries of the prolog once, for the whole topic', () => {
    const publication = composeTexts([
      mapOf('<topicref href="topic:a"/>'),
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
    const publication = composeTexts([mapOf('<topicref href="topic:a"/>'), concept('a', body)], {
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
          mapOf(roots.map((_, index) => `<topicref href="topic:t${index}"/>`).join('')),
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
  it('gives the same with memory as without, also after a lender changed', () => {
    const memory = new ComposeMemory();
    const texts = [
      mapOf('<topicref href="topic:a"/><topicref href="topic:b"/>'),
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
      mapOf('<topicref href="topic:a"/>'),
      concept('a', '<p conref="topic:l/x"/><image href="asset:i"><alt>I</alt></image>'),
    ];
    const early = libraryOf(texts);
    expect(codes(compose({ library: early, map: 'm' }, memory))).toEqual([
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
      mapOf('<topicref href="topic:a"/>'),
      concept(
        'a',
        '<p>a<draft-comment>secret</draft-comment><?guidance secret?><gadget>secret</gadget>' +
          '<required-cleanup>secret</required-cleanup></p>',
      ),
    ]);
    expect(textOf(publication.places[0]!.content!)).not.toContain('secret');
  });
});
