import { describe, expect, it } from 'vitest';
import type { Lens } from '../facets/index.ts';

import { bodyText, composeTexts, concept, mapText, problemCodes } from '../testing/library.ts';
import { allPlaces, type Publication } from './index.ts';

const outline = ({ places }: Publication): string[] =>
  allPlaces(places).map((place) => `${place.number ?? '-'} ${place.label}`);

/** From memory of OASIS DITA 1.3, 2.4.4 “Indirect key-based addressing”. */
const use = concept('a', '<p><ph keyref="k"/></p>');
const key = (text: string, more = ''): string =>
  `<keydef keys="k"${more}><topicmeta><keywords><keyword>${text}</keyword></keywords>` +
  '</topicmeta></keydef>';

describe('keys', () => {
  it('the first definition in the map holds, also before one in a sub-map', () => {
    const publication = composeTexts([
      mapText(`${key('outer')}<mapref href="map:s" format="ditamap"/><topicref href="topic:a"/>`),
      `<map id="s">${key('inner')}</map>`,
      use,
    ]);
    expect(bodyText(publication, 'a')).toBe('outer');
  });
  it('a definition that the lens drops does not count', () => {
    const publication = composeTexts(
      [
        mapText(
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
    const scoped = mapText(
      `<topicgroup keyscope="s">${key('inside')}<topicref href="topic:a"/></topicgroup>` +
        '<topicref href="topic:b"/>',
    );
    const publication = composeTexts([scoped, use, concept('b', '<p><ph keyref="s.k"/></p>')]);
    expect(bodyText(publication, 'a')).toBe('inside');
    expect(bodyText(publication, 'b')).toBe('inside');
    const outer = composeTexts([
      mapText(
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
      mapText(`<mapref href="map:s" format="ditamap"/>${key('outer')}<topicref href="topic:a"/>`),
      `<map id="s"><mapref href="map:t" format="ditamap"/>${key('inner')}</map>`,
      `<map id="t">${key('innermost')}</map>`,
      use,
    ]);
    expect(bodyText(publication, 'a')).toBe('outer');
    const nested = composeTexts([
      mapText('<mapref href="map:s" format="ditamap"/><topicref href="topic:a"/>'),
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
    expect(bodyText(composeTexts([mapText('<topicref href="topic:a"/>'), set, both]), 'a')).toBe(
      'common also',
    );
    const publication = composeTexts([
      mapText('<topicref href="topic:a"/><mapref href="map:t" format="ditamap"/>'),
      `<map id="t">${key('own')}</map>`,
      set,
      both,
    ]);
    expect(bodyText(publication, 'a')).toBe('own also');
    expect(problemCodes(publication)).toEqual([]);
  });
  it('are defined by the first that the lens keeps, in the language; duplicates are reported', () => {
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
    const map = mapText(
      `${key('tief', ' product="tern-d" xml:lang="de"')}${key('quay', ' product="tern-q"')}` +
        `${key('deep', ' product="tern-d"')}${key('base')}<topicref href="topic:a"/>`,
    );
    expect(bodyText(composeTexts([map, use], { facets, lens }), 'a')).toBe('deep');
    expect(bodyText(composeTexts([map, use], { facets }), 'a')).toBe('quay');
    expect(bodyText(composeTexts([map, use], { facets, lens, locale: 'de-AT' }), 'a')).toBe('tief');
    const twice = composeTexts([
      mapText(`${key('one')}${key('two')}<topicref href="topic:a"/>`),
      use,
    ]);
    expect([bodyText(twice, 'a'), problemCodes(twice)]).toEqual(['one', ['key.twice']]);
  });
});

describe('keys', () => {
  it('take what they do not say from another key, for each reader', () => {
    const facets = [
      {
        name: 'product',
        label: 'Model',
        values: ['tern-q', 'tern-d'].map((name) => ({ name, label: name })),
      },
    ];
    const map = mapText(
      `<keydef keys="k" keyref="q" product="tern-q"/>${key('else')}` +
        `${key('quay').replace('"k"', '"q"')}<topicref href="topic:a"/>`,
    );
    const lens: Lens = {
      name: 'd',
      rules: [{ facet: 'product', value: 'tern-q', action: 'drop' }],
    };
    const said = (more: Parameters<typeof composeTexts>[1]): string =>
      bodyText(composeTexts([map, use], { facets, ...more }), 'a');
    expect([said({}), said({ lens }), said({ open: ['product'] })]).toEqual([
      'quay',
      'else',
      'quayelse',
    ]);
  });
  it('a map that is only a resource gives its keys, and stands nowhere', () => {
    const publication = composeTexts([
      mapText(
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
      mapText(
        `${scope('')}${scope(key('second'))}${scope(key('third'))}<topicref href="topic:b"/>`,
      ),
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
    expect(composeTexts([mapText('<topicref href="topic:a"/>'), use]).problems[0]).toMatchObject({
      code: 'key.undefined',
      where: { item: 'a', path: [1, 0, 0] },
    });
    const cyclic = mapText(
      '<keydef keys="k"><topicmeta><linktext>x <ph keyref="k"/></linktext></topicmeta>' +
        '</keydef><topicref href="topic:a"/>',
    );
    expect(problemCodes(composeTexts([cyclic, use]))).toEqual(['key.cycle']);
  });
});
