import { expect, it } from 'vitest';
import type { Facet, Lens } from '../facets/index.ts';
import { concept, libraryOf, mapText } from '../testing/library.ts';
import { appearances, compose, explainElement } from './index.ts';

const facets: Facet[] = [
  {
    name: 'product',
    label: 'Model',
    values: [
      { name: 'q', label: 'Q' },
      { name: 'd', label: 'D' },
    ],
  },
];
const lens: Lens = { name: 'q', rules: [{ facet: 'product', value: 'd', action: 'drop' }] };
const library = libraryOf([
  mapText(
    '<keydef keys="k"><topicmeta><linktext>said</linktext></topicmeta></keydef>' +
      '<topicref href="topic:a"/><topicref href="topic:b" product="d"/>' +
      '<topicref href="topic:e"/>',
  ),
  concept(
    'a',
    '<p id="p">One <ph keyref="k"/></p><section product="d"><title>D</title><p>Two</p>' +
      '</section><p conref="topic:l/x"/><p conref="topic:l/z"/>',
  ),
  concept('b', '<p>Three</p>'),
  concept('c', '<p>Four</p>'),
  concept('e', '<p>Base</p>'),
  '<concept id="e-d" product="d"><title>E</title><prolog>' +
    '<data name="alternate-of" href="topic:e"/></prolog></concept>',
  '<concept id="e-q" product="q"><title>E</title><prolog>' +
    '<data name="alternate-of" href="topic:e"/></prolog><conbody><p>Other</p></conbody>' +
    '</concept>',
  concept('l', '<p id="x">Lent</p><p>Not lent</p><p id="z" product="d">Lent to D</p>'),
]);
const publication = compose({ library, map: 'm', facets, lens });
const found = appearances(publication, { library, map: 'm', lens, facets });

it.each([
  ['a', [1, 0], { how: 'shown', detail: '', places: ['1 a'] }],
  ['a', [1, 0, 1], { how: 'shown', detail: 'what the variable k says', places: ['1 a'] }],
  ['a', [1, 1, 1], { how: 'dropped', detail: 'Section: product is d', places: [] }],
  ['a', [1, 2], { how: 'shown', detail: 'borrowed from topic:l/x', places: ['1 a'] }],
  [
    'a',
    [1, 3],
    { how: 'dropped', detail: 'borrowed from topic:l/z; Paragraph: product is d', places: [] },
  ],
  ['l', [1, 0], { how: 'shown', detail: '', places: ['1 a (borrowed)'] }],
  [
    'l',
    [1, 1],
    { how: 'absent', detail: 'the topic is there, this part of it is not', places: [] },
  ],
  [
    'b',
    [1, 0],
    { how: 'absent', detail: 'an entry of the map: Model is D, which “q” drops', places: [] },
  ],
  ['c', [], { how: 'absent', detail: 'the topic is not in its map', places: [] }],
  ['e-q', [2, 0], { how: 'shown', detail: '', places: ['2 E'] }],
  ['e-d', [], { how: 'absent', detail: 'it stands in for e, for other readers', places: [] }],
  ['e', [1, 0], { how: 'absent', detail: 'e-q stands in for this topic', places: [] }],
])('it is told of any element why it is there or not: %s %j', (item, path, standing) => {
  expect(explainElement(publication, { item, path }, found, library)).toEqual(standing);
});
