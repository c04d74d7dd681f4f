import { describe, expect, it } from 'vitest';
import type { Facet } from '../facets/index.ts';
import { findAll, lineOf } from '../markup/index.ts';
import { composeTexts, concept, mapText } from '../testing/library.ts';
import { type ResolvedElement } from './index.ts';

const facets: Facet[] = [
  {
    name: 'product',
    label: 'Model',
    values: [
      { name: 'd', label: 'D' },
      { name: 'q', label: 'Q' },
    ],
  },
];
const map = mapText(
  '<topicref href="topic:a"/><topicref href="topic:push" processing-role="resource-only"/>',
);
const pushing = (attributes: string): string =>
  concept('push', `<p conaction="pushreplace" conref="topic:a/x" ${attributes}>New</p>`);

describe('content pushed for some readers', () => {
  it('replaces the passage for them alone, where readers choose', () => {
    const { places } = composeTexts(
      [map, concept('a', '<p id="x">Old</p>'), pushing('product="d"')],
      { facets, open: ['product'] },
    );
    const paragraphs = findAll(places[0]!.content!, ({ name }) => name === 'p');
    expect(paragraphs.map((one) => [lineOf(one), (one as ResolvedElement).when])).toEqual([
      ['New', [{ any: { product: ['d'] } }]],
      ['Old', [{ none: [{ product: ['d'] }] }]],
    ]);
  });
  it('replaces the passage for all readers, where it has no condition', () => {
    const { places } = composeTexts([map, concept('a', '<p id="x">Old</p>'), pushing('')], {
      facets,
      open: ['product'],
    });
    expect(lineOf(places[0]!.content!)).toContain('New');
    expect(lineOf(places[0]!.content!)).not.toContain('Old');
  });
});
