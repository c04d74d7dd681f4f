import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { Facet, Lens } from '../facets/index.ts';
import { alternateOf, baseOf, readableText, readItem } from '../library/index.ts';
import { writeCanonical } from '../grammar/index.ts';
import { composeTexts, concept, libraryOf, mapText } from '../testing/library.ts';
import { allPlaces, compose, ComposeMemory, type Publication } from './index.ts';
import { choosing } from './alternates.ts';

const facets: Facet[] = [
  {
    name: 'country',
    label: 'Country',
    values: ['nordlund', 'velmark', 'kisara'].map((name) => ({ name, label: name })),
  },
  {
    name: 'platform',
    label: 'Power',
    values: [
      { name: 'mains', label: 'Mains' },
      {
        name: 'solar',
        label: 'Solar',
        values: ['solar-40', 'solar-90'].map((name) => ({ name, label: name })),
      },
    ],
  },
];
const inCountry = (facet: string) => `props="country(${facet})"`;
const lens = (...values: [string, string][]): Lens => ({
  name: values.map(([, value]) => value).join(),
  rules: values.flatMap(([facet, value]) => [
    { facet, action: 'drop' as const },
    { facet, value, action: 'keep' as const },
  ]),
});
const alternate = (id: string, attributes: string, body: string, base = 'a'): string =>
  `<concept id="${id}" ${attributes}><title>${id}</title><prolog>` +
  `<data name="alternate-of" href="topic:${base}"/></prolog><conbody>${body}</conbody>` +
  '</concept>';
const texts = [
  mapText('<topicref href="topic:a"/><topicref href="topic:b"/>'),
  concept('a', '<p id="p">Call 100.</p><p id="only">Base only.</p>'),
  alternate('a-v', inCountry('velmark'), '<p id="p">Call 222.</p>'),
  alternate('a-vs', `${inCountry('velmark')} platform="solar"`, '<p id="p">Call 223.</p>'),
  alternate('a-40', `platform="solar-40"`, '<p id="p">Call 440.</p>'),
  concept('b', '<p conref="topic:a/p"/><p conref="topic:a/only"/><p><xref href="topic:a"/></p>'),
];
const shown = ({ places }: Publication): string[] =>
  allPlaces(places).map(({ anchor, content }) => `${anchor}: ${readableText(content!)}`);

it('replace their base for all its readers, at its place and under its name', () => {
  const publication = composeTexts(texts, { facets, lens: lens(['country', 'velmark']) });
  expect(shown(publication)).toEqual(['a: a-v Call 222.', 'b: b Call 222. Base only.']);
  expect(publication.places[0]!.content!.origin.item).toBe('a-v');
  expect(Object.values(publication.links)).toEqual([{ kind: 'target', anchor: 'a', text: 'a-v' }]);
  expect(publication.why.find(({ kind }) => kind === 'alternate')).toMatchObject({
    origin: { item: 'm' },
    detail: 'a-v stands in for a',
  });
});

it.each([
  [undefined, 'a'],
  [lens(['country', 'nordlund']), 'a'],
  [lens(['country', 'velmark'], ['platform', 'mains']), 'a-v'],
  [lens(['country', 'velmark'], ['platform', 'solar']), 'a-vs'],
  [lens(['platform', 'solar-40']), 'a-40'],
  [lens(['platform', 'solar']), 'a'],
  // What is for all of solar is dropped by a lens that keeps no more of it than 40 W; the other
  // two are equally close.
  [lens(['country', 'velmark'], ['platform', 'solar-40']), 'a-40'],
])('the closest wins: %o gives %s', (through, id) => {
  expect(
    composeTexts(texts, { facets, ...(through ? { lens: through } : {}) }).places[0]!.content!
      .origin.item,
  ).toBe(id);
});

it('work for images too, and links to an alternate lead to where its base stands', () => {
  const image = { mediaType: 'image/svg+xml', name: 'x.svg' };
  const publication = composeTexts(
    [
      mapText('<topicref href="topic:a"/><topicref href="topic:c"/>'),
      texts[1]!,
      texts[2]!,
      concept(
        'c',
        '<image href="asset:plug"><alt>Plug</alt></image><p><xref href="topic:a-v"/></p>',
      ),
    ],
    {
      facets,
      lens: lens(['country', 'velmark']),
      assets: [
        { ...image, id: 'plug' },
        {
          ...image,
          id: 'plug-v',
          alternateOf: 'plug',
          conditions: { props: 'country(velmark)' },
        },
      ],
    },
  );
  expect(publication.assets).toEqual(['plug-v']);
  expect(Object.values(publication.links)).toMatchObject([{ anchor: 'a' }]);
  expect(publication.problems).toEqual([]);
});

it('take the first by id where several suit, with a problem; none is used twice removed', () => {
  const tied = composeTexts(
    [
      ...texts.slice(0, 3),
      alternate('a-w', inCountry('velmark'), ''),
      alternate('a-x', inCountry('velmark'), '', 'a-v'),
      texts.at(-1)!,
    ],
    {
      facets,
      lens: lens(['country', 'velmark']),
    },
  );
  expect(tied.places[0]!.content!.origin.item).toBe('a-v');
  expect(new Set(tied.problems.map(({ code, where }) => `${code} ${where.item}`))).toEqual(
    new Set(['alternate.tie a-w', 'alternate.nested a-x']),
  );
});

it('of a facet that the team has no more suit nobody as a whole', () => {
  expect(
    composeTexts(texts, { facets: [], lens: { name: 'x', rules: [] } }).places[0]!.content!.origin
      .item,
  ).toBe('a');
});

it('are made as copies that know what they stand in for, and stay so in the text', () => {
  const base = readItem('a', 'topic', texts[1]!).root!;
  const made = alternateOf(base, {
    base: 'a',
    id: 'a-k',
    conditions: { props: 'country(kisara)' },
  });
  const read = readItem('a-k', 'topic', writeCanonical(made)).root!;
  expect([baseOf(read, 'a-k'), read.attributes, readableText(read)]).toEqual([
    'a',
    { id: 'a-k', props: 'country(kisara)' },
    readableText(base),
  ]);
  expect(baseOf(base, 'a')).toBeUndefined();
});

it('are chosen the same for the same readers, and only where all of them get it', () => {
  const value = (facet: number) =>
    fc.subarray([
      ...facets[facet]!.values.map(({ name }) => name),
      ...(facet === 1 ? ['solar-40', 'solar-90'] : []),
    ]);
  const conditions = fc.record({
    props: value(0).map((names) => (names.length > 0 ? `country(${names.join(' ')})` : '')),
    platform: value(1).map((names) => names.join(' ')),
  });
  const rules = fc.array(
    fc.record({
      facet: fc.constant('country'),
      value: fc.constantFrom('nordlund', 'velmark', 'kisara'),
      action: fc.constantFrom('keep' as const, 'drop' as const),
    }),
    {
      maxLength: 4,
    },
  );
  fc.assert(
    fc.property(fc.array(conditions, { maxLength: 6 }), rules, (all, kept) => {
      const alternates = new Map([
        ['a', all.map((one, at) => ({ id: `x${at}`, conditions: one }))],
      ]);
      const library = {
        alternates,
        commonSets: [],
        pushing: [],
        item: () => undefined,
        asset: () => undefined,
        lens: () => undefined,
      };
      const through = { name: 'x', rules: kept };
      const { id, alternate: chosen } = choosing(library, through, facets)('a');
      expect(choosing(library, { name: 'y', rules: [...kept] }, facets)('a').id).toBe(id);
      expect(chosen?.id ?? 'a').toBe(id);
      const open = ['nordlund', 'velmark', 'kisara'].filter(
        (name) => kept.find((rule) => rule.value === name)?.action !== 'drop',
      );
      const named = /country\(([^)]*)\)/u.exec(chosen?.conditions['props'] ?? '')?.[1]?.split(' ');
      if (named) expect(open.every((name) => named.includes(name))).toBe(true);
    }),
  );
});

it('a topic that borrows is prepared anew when another alternate comes', () => {
  const memory = new ComposeMemory();
  const library = libraryOf(texts.toSpliced(2, 1));
  const input = { library, map: 'm', facets, lens: lens(['country', 'velmark']) };
  expect(shown(compose(input, memory))[1]).toBe('b: b Call 100. Base only.');
  library.set({ id: 'a-v', kind: 'topic', text: texts[2]! });
  expect(shown(compose(input, memory))[1]).toBe('b: b Call 222. Base only.');
});
