import { describe, expect, it } from 'vitest';
import { matches, type Facet, type Lens } from '../facets/index.ts';
import { composeTexts, concept, libraryOf, mapText, problemCodes } from '../testing/library.ts';
import { allPlaces, compose } from './index.ts';

describe('links', () => {
  it('lead to topics, figures, tables and steps, with their numbers', () => {
    const task =
      '<task id="t"><title>Do</title><taskbody><steps><step><cmd>a</cmd></step><step id="s">' +
      '<cmd>b</cmd></step></steps></taskbody></task>';
    const publication = composeTexts([
      mapText('<topicref href="topic:a"/><topicref href="topic:b"/><topicref href="topic:t"/>'),
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
    ).toEqual(['Bee', 'Figure 2-1', 'Table 2-1', 'step 2', 'x', 'external']);
    expect(publication.figures).toMatchObject([{ number: '2-1', anchor: 'b--f' }]);
  });
  it('to what is not in the publication, not in the library or not safe are told apart', () => {
    const publication = composeTexts([
      mapText('<topicref href="topic:a"/>'),
      concept(
        'a',
        '<p><xref href="topic:b"/><xref href="topic:c"/><xref href="topic:a/x"/>' +
          '<xref href="javascript:alert(1)"/></p>',
      ),
      concept('b'),
    ]);
    expect(problemCodes(publication)).toEqual([
      'link.outside-publication',
      'link.unknown-target',
      'link.unknown-element',
      'link.unknown-target',
    ]);
    expect(Object.values(publication.links).every(({ kind }) => kind === 'broken')).toBe(true);
  });
  it('of a relationship table go both ways', () => {
    const publication = composeTexts([
      mapText(
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
      composeTexts(
        [mapText(map), ...['a', 'b', 'c'].map((id) => concept(id))],
        lens ? { lens } : {},
      ).places,
    ).map(({ anchor, related }) => [
      anchor,
      related.map((one) => ('anchor' in one ? one.anchor : one.href)),
    ]),
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
      [mapText(all + relations), ...['a', 'b', 'c'].map((id) => concept(id))],
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
        mapText(
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
      ({ anchor, related: leads }) =>
        leads.map((one) => `${anchor} ${'anchor' in one ? one.anchor : one.href}`),
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
