import fc from 'fast-check';
import { expect, it } from 'vitest';
import { writeCanonical } from '../grammar/index.ts';
import { nodeAt, findAll, lineOf, readXml, type Element } from '../markup/index.ts';
import { composeTexts, concept } from '../testing/library.ts';
import { allPlaces, type Publication } from '../compose/index.ts';
import {
  effectiveDefinition,
  definitionsIn,
  holdsEverywhere,
  isVariableSet,
  keyNamesIn,
  markupOf,
  markupNodes,
  readableText,
  renameKey,
  withDefinition,
  withEverywhere,
  withoutDefinition,
  type KeyDefinition,
} from './index.ts';

const tree = (text: string): Element => readXml(text).document!.root;
const word = (key: string, text: string, more: Partial<KeyDefinition> = {}): KeyDefinition => ({
  key,
  text: [text],
  choices: [],
  conditions: {},
  ...more,
});
const keysOf = (map: Element): string[] =>
  definitionsIn(map).map(
    ({ definition: { key, text } }) =>
      `${key}=` +
      (text ?? [])
        .map((node) => (typeof node === 'string' ? node : lineOf(node as Element)))
        .join(''),
  );

it('are read from keywords, link texts and short titles, with their choices', () => {
  const map = tree(
    '<map><keydef keys="a b" product="tern-q" xml:lang="de"><topicmeta><keywords>' +
      '<keyword>one</keyword><keyword>two</keyword></keywords></topicmeta></keydef>' +
      '<topicref keys="t" href="topic:x" navtitle="short"/>' +
      '<keydef keys="l" href="https://example.org/"><topicmeta><linktext>the <b>site</b>' +
      '</linktext></topicmeta></keydef></map>',
  );
  expect(definitionsIn(map).map(({ definition }) => definition)).toMatchObject([
    {
      key: 'a',
      text: ['one'],
      choices: ['two'],
      conditions: { product: 'tern-q' },
      locale: 'de',
    },
    { key: 'b', text: ['one'] },
    { key: 't', href: 'topic:x', text: ['short'] },
    { key: 'l', href: 'https://example.org/', text: ['the ', { name: 'b' }] },
  ]);
});

it('are written so that they are read again, the particular ones first', () => {
  const definitions = [
    word('volt', '230 V', { choices: ['110 V', '12 V'] }),
    word('volt', '12 V', { conditions: { platform: 'solar' } }),
    word('maker', 'Brinewell'),
    { ...word('site', 'page'), href: 'https://example.org/' },
    word('both', 'short', { linkText: ['long'] }),
    word('unit', 'm', { text: ['m', { name: 'sup', attributes: {}, children: ['2'] }] }),
  ];
  const map = definitions.reduce(
    (made, definition) => withDefinition(made, definition),
    tree('<map><title>M</title></map>'),
  );
  expect(keysOf(map)).toEqual([
    'volt=12 V',
    'volt=230 V',
    'maker=Brinewell',
    'site=page',
    'both=short',
    'unit=m2',
  ]);
  const again = definitionsIn(tree(writeCanonical(map))).map(({ definition }) => definition);
  for (const definition of definitions)
    expect(again).toContainEqual(expect.objectContaining(definition));
  const [first] = definitionsIn(map);
  expect(
    keysOf(
      withDefinition(map, word('volt', '24 V', { conditions: { platform: 'solar' } }), first!.path),
    ),
  ).toEqual(['volt=24 V', 'volt=230 V', 'maker=Brinewell', 'site=page', 'both=short', 'unit=m2']);
  expect(keysOf(withoutDefinition(map, first!.path))).toHaveLength(5);
  expect(nodeAt(map, first!.path)).toMatchObject({ name: 'keydef' });
});

it('are those that the lens keeps first, never in another language', () => {
  const facets = [
    {
      name: 'platform',
      label: 'Power',
      values: ['mains', 'solar'].map((name) => ({ name, label: name })),
    },
  ];
  const solar = word('volt', '12 V', { conditions: { platform: 'solar' } });
  const mains = word('volt', '230 V~', { conditions: { platform: 'mains' } });
  const base = word('volt', '230 V');
  const german = word('volt', '230 Volt', { locale: 'de' });
  const lens = {
    name: 's',
    rules: [{ facet: 'platform', value: 'mains', action: 'drop' as const }],
  };
  expect([
    effectiveDefinition([solar, base], 'en', undefined, facets),
    effectiveDefinition([base, solar], 'en', lens, facets),
    effectiveDefinition([mains, base], 'en', lens, facets),
    effectiveDefinition([mains], 'en', lens, facets),
  ]).toEqual([solar, base, base, mains]);
  expect([
    effectiveDefinition([german, base], 'de', undefined, facets),
    effectiveDefinition([german], 'en', undefined, facets),
  ]).toEqual([german, undefined]);
});

it.each(['', 'plain', '<b>m</b><sup>2</sup> &lt;of a &amp; b&gt;', '<ph keyref="x"/>'])(
  'travel as a piece of XML: %s',
  (markup) => {
    expect(markupOf(markupNodes(markup)!)).toBe(markup);
  },
);

it.each(['<b>', '</linktext><x/>', '&unknown;'])('that is no such piece is refused: %s', (markup) =>
  expect(markupNodes(markup)).toBeUndefined(),
);

it('hold in one map or in every map', () => {
  const set = tree('<map><title>V</title><keydef keys="a"/></map>');
  const everywhere = withEverywhere(set, true);
  expect([
    holdsEverywhere(set),
    holdsEverywhere(everywhere),
    isVariableSet(set),
    isVariableSet(everywhere),
  ]).toEqual([false, true, true, true]);
  expect(withEverywhere(everywhere, false)).toEqual(set);
  expect(isVariableSet(tree('<map><keydef keys="a"/><topicref href="topic:x"/></map>'))).toBe(
    false,
  );
});

it('get another name everywhere, and what is published stays the same to the letter', () => {
  const anyName = fc.constantFrom('k', 'kk', 'a.k', 's');
  const use = (name: string): string => `<ph keyref="${name}"/>`;
  const key = fc
    .tuple(anyName, fc.constantFrom('', ' product="d"'), anyName)
    .map(
      ([name, varied, inner]) =>
        `<keydef keys="${name} other"${varied}><topicmeta><linktext>${name} ` +
        `${use(inner)}</linktext></topicmeta></keydef>`,
    );
  fc.assert(
    fc.property(
      fc.array(key, { maxLength: 5 }),
      fc.array(key, { maxLength: 3 }),
      fc.array(fc.oneof(anyName, fc.constant('s.k')), { minLength: 1, maxLength: 5 }),
      (outer, inner, uses) => {
        const texts = [
          '<map id="m">' +
            `<title>${use('k')}</title>${outer.join('')}<topicgroup keyscope="s">` +
            `${inner.join('')}<topicref href="topic:x" keys="t"/>` +
            '</topicgroup></map>',
          concept('x', `<p id="p">${uses.map(use).join()}</p><p conkeyref="t/p"/>`),
        ];
        const yields = (publication: Publication): string =>
          JSON.stringify([
            publication.facts.title,
            allPlaces(publication.places).map(({ content }) => readableText(content!)),
            publication.problems.map(({ code }) => code),
          ]);
        const all = texts.map((text) => keyNamesIn(tree(text)));
        const names = {
          scopes: new Set(all.flatMap(({ scopes }) => scopes)),
          keys: new Set(all.flatMap(({ keys }) => keys)),
        };
        const renamed = texts.map((text) =>
          writeCanonical(renameKey(tree(text), 'k', 'renamed', names)),
        );
        const shown = (published: string): string => published.replaceAll(/\brenamed\b/gu, 'k');
        expect(shown(yields(composeTexts(renamed)))).toBe(yields(composeTexts(texts)));
        expect(
          findAll(tree(renamed[0]!), ({ attributes }) => attributes['keyref'] === 'k'),
        ).toEqual([]);
      },
    ),
  );
});
