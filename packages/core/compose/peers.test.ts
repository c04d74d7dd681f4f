import { expect, it } from 'vitest';
import { composeTexts, concept, mapText } from '../testing/library.ts';
import { allPlaces, type Publication, type ResolvedLink } from './index.ts';

/**
 * Links to another publication (DITA 1.3, 2.4.4.8 “Cross-deliverable addressing and linking”, from
 * memory): a map with `scope="peer"` is not taken in; its keys are reached through its key scope.
 */
const handbook = `<bookmap id="handbook">
  <booktitle><mainbooktitle>Handbook</mainbooktitle></booktitle>
  <bookmeta><bookid><booknumber>BWI 7</booknumber></bookid></bookmeta>
  <chapter href="topic:alarms"/><chapter href="topic:care" keys="upkeep">
    <topicref href="topic:wash" props="product(tern-d)"/></chapter></bookmap>`;
const peer =
  '<mapref href="map:handbook" format="ditamap" scope="peer" keyscope="book" ' +
  'processing-role="resource-only"/>';
const others = [
  handbook,
  concept('alarms'),
  concept('care', '<p id="brush">Brush</p>', 'Care'),
  concept('wash'),
];
const linkIn = (publication: Publication): ResolvedLink | undefined =>
  Object.values(publication.links)[0];
const composed = (link: string, map = peer, options = {}): Publication =>
  composeTexts(
    [mapText(`<topicref href="topic:a"/>${map}`), concept('a', `<p>${link}</p>`), ...others],
    options,
  );
const toCare = {
  kind: 'peer',
  text: 'Care',
  number: '2',
  publication: 'Handbook',
  bookNumber: 'BWI 7',
};

it('lead to the target by title and number, by key or directly, and take nothing in', () => {
  for (const link of ['<xref keyref="book.upkeep"/>', '<xref href="topic:care"/>']) {
    const publication = composed(link);
    expect(publication.problems, link).toEqual([]);
    expect(linkIn(publication), link).toEqual(toCare);
    expect(allPlaces(publication.places).map(({ anchor }) => anchor)).toEqual(['a']);
  }
  expect(linkIn(composed('<xref keyref="book.upkeep/brush"/>'))).toMatchObject({
    kind: 'peer',
    publication: 'Handbook',
  });
  expect(linkIn(composed('<xref href="topic:care/brush"/>'))).toMatchObject({
    kind: 'peer',
    publication: 'Handbook',
  });
});

it('lead there only when the topic is not here', () => {
  const here = composed('<xref href="topic:care"/>', `<topicref href="topic:care"/>${peer}`);
  expect(linkIn(here)).toMatchObject({ kind: 'target', anchor: 'care' });
});

it('take the address under which that is published', () => {
  const peerEditions = (map: string) => [
    { address: (_: Publication, anchor: string) => `../${map}/${anchor}.html` },
  ];
  expect(linkIn(composed('<xref href="topic:care"/>', peer, { peerEditions }))).toEqual({
    ...toCare,
    href: '../handbook/care.html',
  });
});

it('lead to the first of its editions that has what they name', () => {
  const lens = {
    name: 'Q',
    rules: [{ facet: 'product', value: 'tern-d', action: 'drop' as const }],
  };
  const peerEditions = () => [{ lens, address: () => 'q' }, { address: () => 'all' }];
  expect(linkIn(composed('<xref href="topic:care"/>', peer, { peerEditions }))).toMatchObject({
    href: 'q',
  });
  expect(linkIn(composed('<xref href="topic:wash"/>', peer, { peerEditions }))).toMatchObject({
    text: 'wash',
    href: 'all',
  });
});

it('lead to what that edition gives in its own output', () => {
  const forPrint = handbook.replace(
    'href="topic:alarms"',
    'href="topic:alarms" deliveryTarget="print"',
  );
  const link = (output: string): Publication =>
    composeTexts(
      [
        mapText(`<topicref href="topic:a"/>${peer}`),
        concept('a', '<p><xref href="topic:alarms"/></p>'),
        forPrint,
        concept('alarms'),
        concept('care'),
        concept('wash'),
      ],
      {
        deliveryTargets: ['site'],
        peerEditions: () => [{ deliveryTargets: [output] }],
      },
    );
  expect(linkIn(link('print'))).toMatchObject({ kind: 'peer', text: 'alarms' });
  expect(link('site').problems.map(({ code }) => code)).toEqual(['link.outside-publication']);
});

it('are a problem where that publication lacks what they name', () => {
  const withoutWash = {
    peerEditions: () => [
      {
        lens: {
          name: 'Q',
          rules: [{ facet: 'product', value: 'tern-d', action: 'drop' as const }],
        },
      },
    ],
  };
  const codes = (publication: Publication) =>
    publication.problems.map(({ code, where }) => `${code} ${where.item}`);
  expect(codes(composed('<xref keyref="book.nothing"/>'))).toEqual(['link.outside-peer a']);
  expect(codes(composed('<xref href="topic:wash"/>'))).toEqual([]);
  expect(codes(composed('<xref href="topic:wash"/>', peer, withoutWash))).toEqual([
    'link.outside-publication a',
  ]);
  expect(codes(composed('<xref keyref="tome.upkeep"/>'))).toEqual(['key.undefined a']);
  expect(codes(composed('<xref href="topic:care/none"/>'))).toEqual(['link.outside-publication a']);
  expect(codes(composed('', '<mapref href="map:none" scope="peer" keyscope="x"/>'))).toEqual([
    'map.missing-map m',
  ]);
});

it('may lead both ways, and to a map that takes this one in', () => {
  const back = handbook.replace(
    '</bookmap>',
    '<mapref href="map:m" format="ditamap" scope="peer" keyscope="m"/></bookmap>',
  );
  const both = composeTexts([
    mapText(`<topicref href="topic:a"/>${peer}`),
    concept('a', '<p><xref href="topic:care"/></p>'),
    back,
    concept('alarms', '<p><xref href="topic:a"/></p>'),
    concept('care', '', 'Care'),
    concept('wash'),
  ]);
  expect(both.problems).toEqual([]);
  expect(linkIn(both)).toEqual(toCare);
  const itself = composeTexts([
    mapText(
      '<topicref href="topic:a"/>' +
        '<mapref href="map:m" format="ditamap" scope="peer" keyscope="me"/>',
    ),
    concept('a', '<p><xref href="topic:b"/></p>'),
    concept('b'),
  ]);
  expect(itself.problems.map(({ code }) => code)).toEqual(['link.outside-publication']);
});
