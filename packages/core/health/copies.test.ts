import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normalise } from '../grammar/index.ts';
import { readXml, type Element } from '../markup/index.ts';
import { concept } from '../testing/library.ts';
import { CopyIndex, type CopyGroup } from './index.ts';

const read = (id: string, body: string): Element =>
  normalise(readXml(concept(id, body)).document!.root);
const named = (groups: readonly CopyGroup[]): string[] =>
  groups.map(
    ({ name, copies, saves, same }) =>
      `${name} ${copies.map(({ item, path }) => `${item}/${path.join('.')}`).join(' ')} ` +
      `${saves}${same ? ' same' : ''}`,
  );
const sentence =
  'Rinse the sensor head with fresh water and dry it with a soft cloth before you close the ' +
  'cabinet again for the winter months';

/** Words of one topic alone: its copies are then blocks, not topics. */
const own = (id: string): string =>
  `<p>${Array.from({ length: 40 }, (_, at) => `${id}${at}`).join(' ')}</p>`;

describe('copies', () => {
  it('are grouped by likeness, largest saving first, without telling their parts again', () => {
    const index = new CopyIndex();
    index.set('a', read('a', `<p>${sentence}</p>${own('a')}`));
    index.set('b', read('b', `<p>${sentence.replace('months', 'season')}</p>${own('b')}`));
    index.set('c', read('c', `<note><p>Mind this. ${sentence}</p></note>${own('c')}`));
    index.set('d', read('d', `<note><p>Mind this. ${sentence}</p></note>${own('d')}<p>Short.</p>`));
    expect(named(index.groups())).toEqual([
      'p a/1.0 b/1.0 c/1.0.0 d/1.0.0 75',
      'note c/1.0 d/1.0 26 same',
    ]);
    for (const id of ['a', 'b']) index.remove(id);
    expect(named(index.groups())).toEqual(['note c/1.0 d/1.0 26 same']);
    const whole = new CopyIndex();
    for (const id of ['x', 'y']) whole.set(id, read(id, `<p>${sentence}</p>${own('z')}`));
    expect(named(whole.groups())).toEqual(['concept x/ y/ 64 same']);
  });
  it('come and go with their topics', () => {
    const index = new CopyIndex();
    index.set('a', read('a', `<p>${sentence}</p>${own('a')}`));
    index.set('b', read('b', `<p>${sentence}</p>${own('b')}`));
    index.set('c', read('c', `<p>${sentence.replace('months', 'season')}</p>${own('c')}`));
    const ps = (): string[] =>
      index
        .groups()
        .filter(({ name }) => name === 'p')
        .map(({ copies }) => copies.map(({ item }) => item).join(''));
    expect(ps()).toEqual(['abc']);
    // The first of those that say the same goes: the other stands for the text.
    index.remove('a');
    expect(ps()).toEqual(['bc']);
    index.set(
      'b',
      read('b', '<p>Now it says something else entirely, about moorings and the swivel below</p>'),
    );
    expect(ps()).toEqual([]);
    index.set('a', read('a', `<p>${sentence}</p>${own('a')}`));
    expect(ps()).toEqual(['ac']);
  });
});

/** Runs of three words, compared as sets of strings: the definition itself. */
const runs = (text: string): Set<string> => {
  const words = text.toLowerCase().split(/\s+/u);
  return new Set(words.slice(2).map((_word, at) => words.slice(at, at + 3).join(' ')));
};
const alike = (a: Set<string>, b: Set<string>): number => {
  const shared = [...a].filter((run) => b.has(run)).length;
  return shared / (a.size + b.size - shared);
};
const vocabulary = (
  'tide gauge quay bracket sensor well mast antenna cabinet logger reading datum staff cable ' +
  'gland earth battery panel charger radio slot harbour office alarm limit'
).split(' ');
const text = fc.array(fc.constantFrom(...vocabulary), { minLength: 12, maxLength: 60 });
/** A text and others that come from it by changing a few words. */
const family = fc
  .tuple(
    text,
    fc.array(fc.array(fc.tuple(fc.nat(), fc.constantFrom(...vocabulary)), { maxLength: 3 }), {
      minLength: 1,
      maxLength: 4,
    }),
  )
  .map(([words, changes]) => [
    words.join(' '),
    ...changes.map((edits) =>
      edits
        .reduce((changed, [at, word]) => changed.with(at % changed.length, word), words)
        .join(' '),
    ),
  ]);

it('misses no generated family above the likeness and joins none below, in any order', () => {
  fc.assert(
    fc.property(fc.array(family, { minLength: 1, maxLength: 6 }), (families) => {
      const texts = families.flat();
      const index = new CopyIndex();
      const late = Math.floor(texts.length / 2);
      const set = (at: number): void =>
        index.set(`t${at}`, read(`t${at}`, `<p>${texts[at]!}</p>${own(`own${at}x`)}`));
      for (let at = 0; at < late; at += 1) set(at);
      index.groups();
      for (let at = late; at < texts.length; at += 1) set(at);
      const groupOf = new Map<string, CopyGroup>();
      for (const group of index.groups().filter(({ name }) => name === 'p'))
        for (const { item } of group.copies) groupOf.set(item, group);
      const sets = texts.map(runs);
      const reach = new Map<number, number>();
      const rootOf = (at: number): number =>
        reach.get(at) === undefined ? at : rootOf(reach.get(at)!);
      sets.forEach((a, at) =>
        sets.forEach((b, by) => {
          if (by > at && alike(a, b) >= 0.8 && rootOf(at) !== rootOf(by))
            reach.set(rootOf(by), rootOf(at));
        }),
      );
      texts.forEach((_one, at) =>
        texts.forEach((_other, by) => {
          if (by <= at) return;
          const together =
            groupOf.get(`t${at}`) !== undefined && groupOf.get(`t${at}`) === groupOf.get(`t${by}`);
          expect(together, `${texts[at]!}\n${texts[by]!}`).toBe(rootOf(at) === rootOf(by));
        }),
      );
    }),
    { numRuns: 200 },
  );
});
