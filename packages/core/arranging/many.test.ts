import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normalise, validate } from '../grammar/index.ts';
import { nodeAt, readXml, type Element } from '../markup/index.ts';
import type { Path } from '../problems/index.ts';
import {
  branchLenses,
  changeEach,
  changeEntry,
  compareMaps,
  cutOut,
  entryTitle,
  flattenMap,
  inclusionOf,
  isOnePage,
  isWithoutHeading,
  indent,
  mapElement,
  moveDown,
  moveMany,
  moveUp,
  outdent,
  outermost,
  peerScope,
  relationsOf,
  removeMany,
  rolesAt,
  standsOnPageAbove,
  withBranchLenses,
  withEntryTitle,
  withHeading,
  withInclusion,
  withOnePage,
  withPeerScope,
  withRelations,
} from './index.ts';

const tree = (text: string): Element => normalise(readXml(text).document!.root);
const map = tree(
  '<map id="m"><title>M</title><topicref href="topic:a"><topicref href="topic:a1"/>' +
    '<topicref href="topic:a2"/></topicref><topicref href="topic:b"/><topicref href="topic:c"/>' +
    '<topicref href="topic:d"/></map>',
);
const shape = (root: Element): string =>
  flattenMap(root)
    .map(({ depth, href }) => `${'-'.repeat(depth)}${href.slice(6)}`)
    .join(' ');
const entry = (root: Element, path: Path): Element => nodeAt(root, path) as Element;

describe('a map of another publication', () => {
  it('is not taken in, has a name for its keys, and can be taken in again', () => {
    const maps = tree('<map id="m"><title>M</title><mapref href="map:h" format="ditamap"/></map>');
    const peer = changeEntry(maps, [1], (at) => withPeerScope(at, ' book  two '))!.root;
    expect(entry(peer, [1]).attributes).toEqual({
      href: 'map:h',
      format: 'ditamap',
      scope: 'peer',
      'processing-role': 'resource-only',
      keyscope: 'book two',
    });
    expect([peerScope(entry(maps, [1])), peerScope(entry(peer, [1]))]).toEqual([
      undefined,
      'book two',
    ]);
    expect(changeEntry(peer, [1], (at) => withPeerScope(at, undefined))!.root).toEqual(maps);
  });
});

describe('one page', () => {
  it('is said at the entry that holds, and what it holds can go without its heading', () => {
    const one = changeEntry(map, [1], (at) => withOnePage(at, true))!.root;
    expect([
      isOnePage(entry(one, [1])),
      standsOnPageAbove(one, [1]),
      standsOnPageAbove(one, [1, 0]),
      standsOnPageAbove(one, [2]),
    ]).toEqual([true, false, true, false]);
    const goesOn = changeEntry(one, [1, 0], (at) => withHeading(at, false))!.root;
    expect(isWithoutHeading(entry(goesOn, [1, 0]))).toBe(true);
    expect(validate(goesOn)).toEqual([]);
    expect(
      changeEntry(changeEntry(goesOn, [1, 0], (at) => withHeading(at, true))!.root, [1], (at) =>
        withOnePage(at, false),
      )!.root,
    ).toEqual(map);
  });
  it('leaves alone what else is said there', () => {
    const other = changeEntry(map, [1], (at) => ({
      ...at,
      attributes: { ...at.attributes, chunk: 'by-topic', outputclass: 'wide' },
    }))!.root;
    expect(withHeading(withOnePage(entry(other, [1]), true), false).attributes).toMatchObject({
      chunk: 'by-topic to-content',
      outputclass: 'wide without-heading',
    });
  });
});

describe('several entries at once', () => {
  it('move in their order, wherever they stood; what one of them holds goes along', () => {
    expect(shape(moveMany(map, [[3], [1, 1]], [], 1)!.root)).toBe('a2 c a -a1 b d');
    expect(moveMany(map, [[3], [1, 1]], [], 1)!.paths).toEqual([[1], [2]]);
    expect(shape(moveMany(map, [[1], [1, 0]], [4], 0)!.root)).toBe('b c d -a --a1 --a2');
    expect(moveMany(map, [[1], [2]], [1], 0)).toBeUndefined();
  });
  it('go up, down, in and out together, or not at all', () => {
    expect(shape(changeEach(map, [[3], [4]], moveUp)!.root)).toBe('a -a1 -a2 c d b');
    expect(shape(changeEach(map, [[1], [2]], moveDown, true)!.root)).toBe('c a -a1 -a2 b d');
    const inside = changeEach(map, [[2], [3]], indent)!;
    expect(shape(inside.root)).toBe('a -a1 -a2 -b -c d');
    expect(inside.paths).toEqual([
      [1, 2],
      [1, 3],
    ]);
    expect(shape(changeEach(inside.root, inside.paths, outdent, true)!.root)).toBe(shape(map));
    expect(changeEach(map, [[1], [3]], moveUp)).toBeUndefined();
  });
  it('are taken out together', () => {
    expect(shape(removeMany(map, [[1, 0], [3]])!.root)).toBe('a -a2 b d');
  });
  it('keep every entry and stay as valid, however they are moved', () => {
    const paths = flattenMap(map).map(({ path }) => path);
    fc.assert(
      fc.property(
        fc.subarray(paths, { minLength: 1 }),
        fc.constantFrom<Path>([], ...paths),
        fc.nat(5),
        (from, parent, index) => {
          const moved = moveMany(
            map,
            from,
            parent,
            Math.min(index + (parent.length === 0 ? 1 : 0), entry(map, parent).children.length),
          );
          fc.pre(moved !== undefined);
          expect(
            flattenMap(moved.root)
              .map(({ href }) => href)
              .sort(),
          ).toEqual(
            flattenMap(map)
              .map(({ href }) => href)
              .sort(),
          );
          expect(validate(moved.root)).toEqual([]);
          expect(moved.paths.map((path) => entry(moved.root, path).attributes['href'])).toEqual(
            outermost(from).map((path) => entry(map, path).attributes['href']),
          );
        },
      ),
    );
  });
});

describe('one entry', () => {
  it('is in print, site, contents and links, or only in some of them', () => {
    const plain = entry(map, [2]);
    expect(inclusionOf(plain)).toEqual({ print: true, site: true, contents: true, links: true });
    const some = withInclusion(plain, { print: true, site: false, contents: false, links: false });
    expect(some.attributes).toEqual({
      href: 'topic:b',
      deliveryTarget: 'print',
      toc: 'no',
      linking: 'none',
    });
    expect(inclusionOf(some)).toEqual({ print: true, site: false, contents: false, links: false });
    expect(withInclusion(some, { print: true, site: true, contents: true, links: true })).toEqual(
      plain,
    );
  });
  it('has a title of its own, with variables, or that of its topic', () => {
    const titled = withEntryTitle(entry(map, [2]), [
      'Short ',
      { name: 'ph', attributes: { keyref: 'k' }, children: [] },
    ]);
    expect(entryTitle(titled)).toEqual([
      'Short ',
      { name: 'ph', attributes: { keyref: 'k' }, children: [] },
    ]);
    expect(entryTitle(tree('<topicref navtitle="Old"/>'))).toEqual(['Old']);
    expect(withEntryTitle(titled, [])).toEqual(entry(map, [2]));
    expect(validate(changeEntry(map, [2], () => titled)!.root)).toEqual([]);
  });
  it('is what the place allows', () => {
    const book = tree(
      '<bookmap id="b"><title>B</title><chapter href="topic:a"/><appendix href="topic:x"/>' +
        '</bookmap>',
    );
    expect(rolesAt(book, [2]).map(({ name }) => name)).toEqual(
      expect.arrayContaining(['chapter', 'appendix']),
    );
    expect(rolesAt(book, [1]).map(({ name }) => name)).not.toContain('topicref');
    expect(rolesAt(map, [2]).map(({ name }) => name)).not.toContain('chapter');
  });
  it('is seen through lenses of its own, each of which makes a branch', () => {
    const parted = withBranchLenses(withEntryTitle(entry(map, [1]), ['T']), ['mains', 'solar']);
    expect(branchLenses(parted)).toEqual(['mains', 'solar']);
    expect(validate(changeEntry(map, [1], () => parted)!.root)).toEqual([]);
    expect(withBranchLenses(parted, [])).toEqual(withEntryTitle(entry(map, [1]), ['T']));
  });
  it('becomes a map of its own, which is taken in at its place', () => {
    const { root, branch } = cutOut(map, [1], 'part', 'A part')!;
    expect(root.children[1]).toMatchObject({ name: 'mapref', attributes: { href: 'map:part' } });
    expect([branch.attributes['id'], shape(branch)]).toEqual(['part', 'a -a1 -a2']);
    expect([
      ...validate(root),
      ...validate(branch),
      ...validate(mapElement('n', 'N', ['topic:a', 'map:m'])),
    ]).toEqual([]);
  });
});

describe('relationship tables', () => {
  const grid = {
    title: 'See also',
    columns: ['Tasks', 'Facts'],
    rows: [
      [['topic:a', 'topic:b'], ['topic:c']],
      [['topic:d'], []],
    ],
  };
  it('are read and written as a grid; entries that stay keep what is said of them', () => {
    const made = withRelations(map, 0, grid);
    expect(relationsOf(made)).toEqual([grid]);
    expect(validate(made)).toEqual([]);
    const varied = tree(
      '<map id="m"><title>M</title><reltable><relrow><relcell>' +
        '<topicref href="topic:a" linking="sourceonly"/></relcell><relcell/></relrow>' +
        '</reltable></map>',
    );
    const [known] = relationsOf(varied);
    const more = withRelations(varied, 0, { ...known!, rows: [[['topic:a'], ['topic:b']]] });
    expect(relationsOf(more)[0]!.rows).toEqual([[['topic:a'], ['topic:b']]]);
    expect(JSON.stringify(more)).toContain('sourceonly');
    expect(relationsOf(withRelations(made, 0, { ...grid, rows: [] }))).toEqual([]);
  });
});

describe('two maps', () => {
  it('are held against each other entry by entry', () => {
    const other = tree(
      '<map id="n"><title>N</title><topicref href="topic:a">' +
        '<topicref href="topic:a2" product="q"/></topicref><topicref href="topic:d"/>' +
        '<topicref href="topic:b"/><topicref href="topic:e"/></map>',
    );
    expect(
      compareMaps(map, other).map(
        ({ one, other: against, how }) => `${(one ?? against)!.href.slice(6)} ${how}`,
      ),
    ).toEqual([
      'a same',
      'a1 only-one',
      'a2 changed',
      'b moved',
      'c only-one',
      'd same',
      'b moved',
      'e only-other',
    ]);
    expect(new Set(compareMaps(map, map).map(({ how }) => how))).toEqual(new Set(['same']));
  });
});
