import { describe, expect, it } from 'vitest';
import { compose } from '../compose/index.ts';
import { normalise, validate } from '../grammar/index.ts';
import { textLibrary } from '../library/index.ts';
import { readXml, writeXml, type Element } from '../markup/index.ts';
import { concept } from '../testing/library.ts';
import {
  asBook,
  bookLists,
  hasMatter,
  listPlace,
  mapFact,
  mapFacts,
  withList,
  withMapFact,
  withMatter,
} from './index.ts';

const tree = (text: string): Element => normalise(readXml(text).document!.root);
const plain = tree(
  '<map id="m" title="x"><title>Yard <ph keyref="product"/></title><topicmeta><shortdesc>For ' +
    'the yard.</shortdesc><author>Ada Lind</author></topicmeta>' +
    '<mapref href="map:v" processing-role="resource-only"/><topicref href="topic:a">' +
    '<topicref href="topic:b"/></topicref><topichead><topicmeta><navtitle>Care</navtitle>' +
    '</topicmeta><topicref href="topic:c"/></topichead><mapref href="map:d"/><keydef keys="k"/>' +
    '<reltable><relrow><relcell/></relrow></reltable></map>',
);
const facts = (map: Element): Record<string, string> =>
  Object.fromEntries(mapFacts.map(({ name }) => [name, mapFact(map, name)]));

describe('a map becomes a book', () => {
  const book = asBook(plain)!;
  it('adds chapters, a title, facts and contents, is valid, and keeps the topics', () => {
    expect(validate(book)).toEqual([]);
    expect(book.children.map((child) => (child as Element).name)).toEqual([
      'booktitle',
      'bookmeta',
      'frontmatter',
      'chapter',
      'chapter',
      'chapter',
      'topicgroup',
      'keydef',
      'reltable',
    ]);
    const texts = [
      ...['a', 'b', 'c', 'e'].map((id) => ({ id, kind: 'topic' as const, text: concept(id) })),
      {
        id: 'v',
        kind: 'map' as const,
        text:
          '<map id="v"><title>V</title><keydef keys="product"><topicmeta>' +
          '<linktext>Tern</linktext></topicmeta></keydef></map>',
      },
      {
        id: 'd',
        kind: 'map' as const,
        text: '<map id="d"><title>D</title><topicref href="topic:e"/></map>',
      },
    ];
    const publish = (map: Element) =>
      compose({
        library: textLibrary([...texts, { id: 'm', kind: 'map', text: writeXml(map) }], []),
        map: 'm',
      });
    const [before, after] = [publish(plain), publish(book)];
    expect(after.problems).toEqual([]);
    expect(after.facts.title).toBe('Yard Tern');
    expect(after.places.map(({ role, label }) => `${role} ${label}`)).toEqual([
      'toc Contents',
      ...before.places.map(({ label }) => `chapter ${label}`),
    ]);
  });
  it('with lists in front or at the back, in their order', () => {
    const full = bookLists.reduce(
      (one, { name }) => withList(one, name, name === 'toc' ? 'front' : 'back'),
      book,
    );
    expect(validate(full)).toEqual([]);
    expect(bookLists.map(({ name }) => listPlace(full, name))).toEqual([
      'front',
      'back',
      'back',
      'back',
      'back',
    ]);
    expect(writeXml(withList(withList(book, 'indexlist', 'back'), 'figurelist', 'back'))).toMatch(
      /<backmatter><booklists><figurelist\/><indexlist\/><\/booklists><\/backmatter>/u,
    );
    expect(bookLists.reduce((one, { name }) => withList(one, name, undefined), full)).toEqual(
      withList(book, 'toc', undefined),
    );
    expect(listPlace(withList(full, 'indexlist', 'front'), 'indexlist')).toBe('front');
  });
  it('with a place for topics before and behind the chapters', () => {
    expect(hasMatter(book, 'back')).toBe(false);
    const both = withMatter(book, 'back');
    expect([hasMatter(both, 'back'), validate(both).length]).toEqual([true, 0]);
  });
});

describe('what is said of a map', () => {
  it('is read and said anew, one fact at a time; the rest stays', () => {
    for (const start of [plain, asBook(plain)!]) {
      const known = mapFacts.filter(({ isOfBooks }) => !isOfBooks || start.name === 'bookmap');
      const said = known.reduce(
        (map, { name }) =>
          withMapFact(
            map,
            name,
            name === 'years'
              ? '2030, 2031'
              : name === 'authors'
                ? 'Ada Lind, Teo Marsh'
                : `The ${name}`,
          ),
        start,
      );
      expect(validate(said), start.name).toEqual([]);
      expect(known.map(({ name }) => mapFact(said, name))).toEqual(
        known.map(({ name }) =>
          name === 'years'
            ? '2030, 2031'
            : name === 'authors'
              ? 'Ada Lind, Teo Marsh'
              : `The ${name}`,
        ),
      );
      const again = known.reduce(
        (map, { name }) => withMapFact(map, name, facts(start)[name]!),
        said,
      );
      expect(facts(again)).toEqual(facts(start));
    }
  });
  it('keeps variables by their keys, and takes in those that are typed', () => {
    const book = tree(
      '<bookmap id="b"><booktitle><mainbooktitle>B</mainbooktitle><booktitlealt>For the ' +
        '<ph keyref="product" product="tern-q"/>.</booktitlealt></booktitle></bookmap>',
    );
    expect(mapFact(book, 'subtitle')).toBe('For the %%product.');
    const said = withMapFact(book, 'subtitle', 'Of %%maker.name: the %%product.');
    expect(writeXml(said)).toContain(
      '<booktitlealt>Of <ph keyref="maker.name"/>: the ' +
        '<ph keyref="product" product="tern-q"/>.</booktitlealt>',
    );
    expect([validate(said), mapFact(said, 'subtitle')]).toEqual([
      [],
      'Of %%maker.name: the %%product.',
    ]);
    const rights = withMapFact(withMapFact(book, 'years', '2031'), 'holder', 'Brinewell');
    for (const { name } of mapFacts.filter(
      (fact) => fact.name !== 'authors' && fact.name !== 'years',
    ))
      expect(validate(withMapFact(rights, name, '%%maker')), name).toEqual([]);
  });
  it('leaves no empty element behind', () => {
    const book = asBook(plain)!;
    const numbered = withMapFact(withMapFact(book, 'number', 'BM-1'), 'holder', 'Brinewell');
    expect(writeXml(withMapFact(withMapFact(numbered, 'number', ''), 'holder', ' '))).toBe(
      writeXml(book),
    );
  });
});
