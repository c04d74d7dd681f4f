import { readFileSync } from 'node:fs';
import { allPlaces, checkEveryReader, type Publication } from '@ukiyo/core/compose';
import { CopyIndex } from '@ukiyo/core/health';
import type { HouseRule } from '@ukiyo/core/rules';
import { describe, expect, it } from 'vitest';
import { composeDemo, demo, demoLibrary } from './testing/demo.ts';

interface DemoEdition {
  readonly name: string;
  readonly output: string;
  readonly map: string;
  readonly lens: string;
  readonly variables: Record<string, string>;
}
const read = (file: string): unknown =>
  JSON.parse(readFileSync(new URL(`../../demo/${file}`, import.meta.url), 'utf8'));
const editions = (JSON.parse(demo.publishing) as { editions: DemoEdition[] }).editions;
const { rules } = read('agreements.json') as { rules: HouseRule[] };
const composed = (name: string, more: Parameters<typeof composeDemo>[3] = {}): Publication => {
  const { map, lens, variables } = editions.find((edition) => edition.name === name)!;
  return composeDemo(
    map.replace('.ditamap', ''),
    lens.replace(/^lenses\/|\.ditaval$/gu, ''),
    variables,
    more,
  );
};
const titles = (publication: Publication): string[] =>
  allPlaces(publication.places).map(({ label }) => label);

describe('the publications of the demo', () => {
  it.each(
    editions
      .filter(({ name, output }) => !name.includes('Handbook') && output !== 'bundle')
      .map(({ name }) => name),
  )('%s is whole', (name) => {
    expect(composed(name).problems).toEqual([]);
  });
  it('come from one library, and each has what is for its readers alone', () => {
    const [quay, deep, handbook, station] = [
      'Tern Q Installation Manual',
      'Tern D Installation Manual',
      'Tern Operator’s Handbook',
      'Tern Station Interface',
    ].map((name) => titles(composed(name)));
    expect(quay).toContain('Hang the stilling well');
    expect(deep).not.toContain('Hang the stilling well');
    expect(deep).toContain('Aim the acoustic head');
    expect(quay).not.toContain('Aim the acoustic head');
    for (const shared of ['Replace the battery', 'Alarm codes', 'surge'])
      for (const one of [quay, deep, handbook]) expect(one).toContain(shared);
    expect(handbook).not.toContain('Connect the earth');
    expect(station).toContain('List readings');
  });
  it('lead from the handbook into the manual where the handbook stops', () => {
    const links = Object.values(composed('Tern Operator’s Handbook').links).filter(
      ({ kind }) => kind === 'peer',
    );
    expect(links).toContainEqual({
      kind: 'peer',
      text: 'Connect the sensor',
      number: '5.4',
      publication: 'Tern Installation Manual',
      bookNumber: 'BM-1042',
    });
  });
});

describe('what is wrong in the demo on purpose', () => {
  it('reports a broken link, an empty attribute, a list in a cell, no short description', () => {
    const { problems } = composed('Tern Operator’s Handbook', { rules });
    expect(problems.map(({ code, where }) => `${code} ${where.item ?? ''}`).sort()).toEqual([
      'grammar.empty-attribute parts-you-see',
      'house.no-lists-in-cells share-with-pilots',
      'house.references-say-what-for words-for-the-radio',
      'link.unknown-target share-with-pilots',
    ]);
  });
  it('is found among copies: one paragraph that should have been borrowed', () => {
    const index = new CopyIndex();
    for (const { id, kind } of demo.items)
      if (kind === 'topic') index.set(id, demoLibrary.item(id)!.root!);
    const near = index
      .groups()
      .filter(({ copies }) => copies.some(({ item }) => item === 'tide-at-a-glance'));
    expect(index.groups()).toHaveLength(1);
    expect(near.map(({ copies }) => copies.map(({ item }) => item).sort())).toEqual([
      ['how-the-station-measures', 'tide-at-a-glance'],
    ]);
  });
  it('finds the row of the alarm codes that is empty for solar stations', () => {
    const found = checkEveryReader({ library: demoLibrary, map: 'handbook', facets: demo.facets });
    expect(
      found.filter(({ where }) => where.item === 'alarm-codes').map(({ message }) => message),
    ).toEqual([expect.stringMatching(/lacks a cell.*Solar/u)]);
  });
});
