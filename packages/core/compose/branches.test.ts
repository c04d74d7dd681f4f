import { expect, it } from 'vitest';
import type { Facet, Lens } from '../facets/index.ts';
import { concept, libraryOf, mapText } from '../testing/library.ts';
import { readableText } from '../library/index.ts';
import { allPlaces, compose, type Composition, type Publication } from './index.ts';

const facets: Facet[] = [
  {
    name: 'audience',
    label: 'Audience',
    values: [
      { name: 'operator', label: 'Operator' },
      { name: 'installer', label: 'Installer' },
    ],
  },
  {
    name: 'platform',
    label: 'Power',
    values: [
      { name: 'mains', label: 'Mains' },
      { name: 'solar', label: 'Solar', values: [{ name: 'solar-40', label: '40 W' }] },
    ],
  },
];
const only = (value: string, facet = 'platform'): Lens & { id: string } => ({
  id: value,
  name: value,
  rules: [
    { facet, action: 'drop' },
    { facet, value, action: 'keep' },
  ],
});
const composed = (texts: readonly string[], more: Partial<Composition> = {}): Publication =>
  compose({
    library: libraryOf(texts, [], [only('mains'), only('solar'), only('installer', 'audience')]),
    map: 'm',
    facets,
    ...more,
  });
const filter = (lens: string, meta = ''): string =>
  `<ditavalref href="lens:${lens}" format="ditaval">` +
  `${meta === '' ? '' : `<ditavalmeta>${meta}</ditavalmeta>`}</ditavalref>`;
const suffix = (text: string): string => `<dvrResourceSuffix>${text}</dvrResourceSuffix>`;
const shown = ({ places }: Publication): string[] =>
  allPlaces(places).map(
    ({ anchor, content }) => `${anchor}: ${content ? readableText(content) : ''}`,
  );
const a = concept(
  'a',
  '<p platform="mains">Plug it in.</p><p platform="solar">Face it south.</p>' +
    '<p audience="operator">Watch.</p>',
);
const b = concept('b', '<p><xref href="topic:a"/></p>');

/** From memory of OASIS DITA 1.3, 2.4.3.4 “Branch filtering” and its examples. */
it('are filtered by them, also by those around them', () => {
  const publication = composed([
    mapText(
      `<topicref href="topic:a">${filter('solar')}<topicref href="topic:b" platform="mains"/>` +
        '</topicref>',
    ),
    a,
    b,
  ]);
  expect(shown(publication)).toEqual(['a: a Face it south. Watch.']);
  const within = composed([
    mapText(
      `<topicref href="topic:b">${filter('installer')}<topicref href="topic:a">` +
        `${filter('solar')}</topicref>` +
        '</topicref>',
    ),
    a,
    b,
  ]);
  expect(shown(within)).toEqual(['b: b', 'a: a Face it south.']);
});

it('stand once for each filter, renamed as they say; links stay in the branch', () => {
  const branch =
    `<topicref href="topic:a">${filter('mains', suffix('-mains'))}` +
    `${filter('solar', suffix('-solar'))}<topicref href="topic:b"/>` +
    '</topicref>';
  const publication = composed([mapText(branch), a, b]);
  expect(shown(publication)).toEqual([
    'a-mains: a Plug it in. Watch.',
    'b-mains: b',
    'a-solar: a Face it south. Watch.',
    'b-solar: b',
  ]);
  expect(
    Object.values(publication.links).map((link) =>
      link.kind === 'target' ? link.anchor : link.kind,
    ),
  ).toEqual(['a-mains', 'a-solar']);
  expect(publication.problems).toEqual([]);
});

it('may nest: the outer name stands outside', () => {
  const prefix = (text: string): string => `<dvrResourcePrefix>${text}</dvrResourcePrefix>`;
  const publication = composed([
    mapText(
      `<topichead navtitle="H">${filter('installer', prefix('i-'))}` +
        `<topicref href="topic:a">${filter('solar', prefix('s-') + suffix('_1'))}</topicref>` +
        '</topichead>',
    ),
    a,
  ]);
  expect(shown(publication)).toEqual(['i-h: ', 'i-s-a_1: a Face it south.']);
});

it('may be whole maps, taken in or composed', () => {
  const taken = composed([
    mapText(`<mapref href="map:s" format="ditamap">${filter('mains')}</mapref>`),
    '<map id="s"><topicref href="topic:a"/></map>',
    a,
  ]);
  expect(shown(taken)).toEqual(['a: a Plug it in. Watch.']);
  expect(shown(composed([mapText(`${filter('solar')}<topicref href="topic:a"/>`), a]))).toEqual([
    'a: a Face it south. Watch.',
  ]);
});

it('keep their keys apart where their scopes are renamed, also where there was no scope', () => {
  const scopes = (name: string): string => `<dvrKeyscopePrefix>${name}</dvrKeyscopePrefix>`;
  const key =
    '<keydef keys="supply" platform="mains"><topicmeta><keywords><keyword>230 V</keyword>' +
    '</keywords></topicmeta></keydef><keydef keys="supply" platform="solar"><topicmeta>' +
    '<keywords><keyword>12 V</keyword></keywords></topicmeta></keydef>';
  const map = (scope: string): string =>
    mapText(
      `<topicref href="topic:c"${scope}>${filter('mains', scopes('m-'))}` +
        `${filter('solar', scopes('s-'))}${key}</topicref>` +
        '<topicref href="topic:d"/>',
    );
  const texts = [
    concept('c', '<p><ph keyref="supply"/></p>'),
    concept('d', '<p><ph keyref="m-.supply"/>, <ph keyref="s-.supply"/></p>'),
    concept('e', '<p><ph keyref="m-power.supply"/>, <ph keyref="s-power.supply"/></p>'),
  ];
  expect(shown(composed([map(''), ...texts]))).toEqual([
    'c: c 230 V',
    'c-2: c 12 V',
    'd: d 230 V, 12 V',
  ]);
  expect(
    shown(composed([map(' keyscope="power"').replace('topic:d', 'topic:e'), ...texts])).at(-1),
  ).toBe('e: e 230 V, 12 V');
});

it('cannot bring back what is dropped around them; a lens that is not there is said', () => {
  const dropping: Lens = {
    name: 'no mains',
    rules: [{ facet: 'platform', value: 'mains', action: 'drop' }],
  };
  expect(
    shown(
      composed([mapText(`<topicref href="topic:a">${filter('mains')}</topicref>`), a], {
        lens: dropping,
      }),
    ),
  ).toEqual(['a: a Watch.']);
  const missing = composed([mapText(`<topicref href="topic:a">${filter('gone')}</topicref>`), a]);
  expect(missing.problems).toMatchObject([
    { code: 'map.missing-lens', where: { item: 'm', path: [1, 0] } },
  ]);
  expect(shown(missing)).toEqual(['a: a Plug it in. Face it south. Watch.']);
});

it('are dropped as a filter where the lens drops the filter', () => {
  const map = mapText(
    '<topicref href="topic:a">' +
      '<ditavalref href="lens:solar" format="ditaval" audience="operator"/></topicref>',
  );
  expect(
    shown(
      composed([map, a], {
        lens: { name: 'x', rules: [{ facet: 'audience', value: 'operator', action: 'drop' }] },
      }),
    ),
  ).toEqual(['a: a Plug it in. Face it south.']);
});
