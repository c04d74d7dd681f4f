import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { topicKinds } from '../grammar/index.ts';
import { wordsOf } from '../language/index.ts';
import { readXml, writeXml } from '../markup/index.ts';
import { applyFixes } from '../rules/index.ts';
import { anyElement } from '../testing/index.ts';
import {
  checkReferences,
  countWords,
  derive,
  elementById,
  linkTargets,
  linksOf,
  readItem,
  readableText,
  readReference,
  rewriteReferences,
  shortDescriptionOf,
  textLibrary,
  titleOf,
  writeReference,
  replaceUses,
  usesIn,
} from './index.ts';

const root = (xml: string) => readXml(xml).document!.root;

describe('references that lead nowhere', () => {
  it('are named, and give way to their words', () => {
    const tree = root(
      '<topic id="a"><title>A</title><body><p>See <xref href="topic:gone">the tide</xref>, ' +
        '<xref href="topic:a/no"/> and <term href="x.dita">neap</term>.</p>' +
        '<image href="asset:gone"/></body></topic>',
    );
    const problems = checkReferences(tree, 'a', () => false);
    expect(problems.map(({ code, fix }) => [code, fix?.edit.kind])).toEqual([
      ['reference.missing', 'unwrap'],
      ['reference.missing-part', 'remove'],
      ['reference.unknown', 'attribute'],
      ['reference.missing', undefined],
    ]);
    expect(writeXml(applyFixes(tree, problems).root)).toContain(
      '<p>See the tide,  and <term>neap</term>.</p>',
    );
  });
});

describe('references', () => {
  it.each([
    ['topic:fit/step-1', { kind: 'item', id: 'fit', element: 'step-1' }],
    ['map:manual', { kind: 'item', id: 'manual' }],
    ['asset:cabinet', { kind: 'asset', id: 'cabinet' }],
    ['#here', { kind: 'item', id: 'self', element: 'here' }],
    ['#own/here', { kind: 'item', id: 'self', element: 'own/here' }],
    ['#./here', { kind: 'item', id: 'self', element: 'here' }],
    ['https://example.org/', { kind: 'external', href: 'https://example.org/' }],
    ['mailto:a@example.org', { kind: 'external', href: 'mailto:a@example.org' }],
    ['../other.dita', { kind: 'unknown', href: '../other.dita' }],
    ['javascript:alert(1)', { kind: 'unknown', href: 'javascript:alert(1)' }],
    ['data:text/html,x', { kind: 'unknown', href: 'data:text/html,x' }],
  ])('%s is read', (href, reference) => {
    expect(readReference(href, 'self')).toEqual(reference);
  });
  it('are written as they were', () => {
    for (const href of [
      'topic:fit/step-1',
      'topic:fit',
      'asset:cabinet',
      'https://example.org/',
      '../other.dita',
    ])
      expect(writeReference(readReference(href, 'self'))).toBe(href);
    expect(writeReference({ kind: 'item', id: 'm' }, 'map')).toBe('map:m');
  });
  it('are found with their places, and changed without touching the rest', () => {
    const tree = root(
      '<topic id="a"><title>A</title><body><p conref="topic:b/x"/><p><xref href="topic:c"/>' +
        '</p><p>plain</p></body></topic>',
    );
    expect(
      linksOf(tree, 'a').map(({ path, attribute, target }) => [
        path.join('.'),
        attribute,
        target.kind === 'item' ? target.id : '',
      ]),
    ).toEqual([
      ['1.0', 'conref', 'b'],
      ['1.1.0', 'href', 'c'],
    ]);
    const changed = rewriteReferences(tree, (value) => value.replace('topic:c', 'topic:d'));
    expect(writeXml(changed)).toContain('href="topic:d"');
    expect(changed.children[0]).toBe(tree.children[0]);
    expect(rewriteReferences(tree, (value) => value)).toBe(tree);
  });
});

describe('what a text uses', () => {
  it('is told by manner, part and key, and nothing of itself', () => {
    const map = root(
      '<map id="m"><keydef keys="product model" href="topic:k"/>' +
        '<topicref href="topic:a" keyref="x"><topicref href="topic:a"/></topicref>' +
        '<mapref href="map:n"/><mapref href="map:o" scope="peer"/></map>',
    );
    expect(
      usesIn(map, 'm').map(({ manner, target, count }) => `${manner} ${target} ${count}`),
    ).toEqual([
      'placed k 1',
      'defined product 1',
      'defined model 1',
      'placed a 2',
      'key x 1',
      'placed n 1',
      'linked o 1',
    ]);
    const topic = root(
      '<concept id="a"><title>A</title><conbody><p conref="topic:l/x" conrefend="topic:l/y"/>' +
        '<p conkeyref="k/p"/><xref href="#a/p"/></conbody></concept>',
    );
    expect(
      usesIn(topic, 'a').map(({ manner, target, part }) => `${manner} ${target} ${part}`),
    ).toEqual(['borrowed l x', 'borrowed l y', 'key k ']);
  });
  it('is replaced with its parts where the other has them, and keeps what is not concerned', () => {
    const topic = root(
      '<concept id="a"><title>A</title><conbody><p conref="topic:b/x"/>' +
        '<xref href="topic:b/y"/><image href="asset:b"/><p>c</p></conbody></concept>',
    );
    const replaced = replaceUses(topic, 'a', {
      from: 'b',
      to: 'c',
      hasPart: (part) => part === 'x',
    });
    expect(
      usesIn(replaced, 'a').map(({ manner, target, part }) => `${manner} ${target} ${part}`),
    ).toEqual(['borrowed c x', 'linked c ', 'shown c ']);
    expect(replaceUses(topic, 'a', { from: 'none', to: 'c', hasPart: () => true })).toBe(topic);
  });
});

describe('what is derived from a text', () => {
  it('is title, short description, words, targets and problems', () => {
    const tree = root(
      '<concept id="a" product="q" outputclass="x"><title>The <b>well</b></title><abstract>' +
        '<shortdesc>In short.</shortdesc>More.</abstract><conbody><p>One' +
        '<draft-comment>secret</draft-comment> two.</p><p>Three<indexterm>hidden</indexterm>' +
        '</p><image href="asset:i"/><xref href="topic:b"/><xref href="topic:b/x"/>' +
        '<xref href="#a/y"/></conbody></concept>',
    );
    expect(derive(tree, 'a')).toMatchObject({
      type: 'concept',
      title: 'The well',
      shortDescription: 'In short.',
      conditions: { product: 'q' },
      uses: [
        { manner: 'shown', target: 'i', part: '', count: 1 },
        { manner: 'linked', target: 'b', part: '', count: 1 },
        { manner: 'linked', target: 'b', part: 'x', count: 1 },
      ],
      wordCount: 8,
      problems: { error: 3 },
    });
    expect(derive(tree, 'a').text).toBe('The well In short. More. One two. Three');
  });
  it('counts words part by part as it does in the whole', () => {
    const topic = fc.constantFrom(...topicKinds).chain((kind) => anyElement(kind));
    fc.assert(
      fc.property(topic, (tree) => {
        expect(countWords(tree)).toBe(wordsOf(readableText(tree)).length);
      }),
    );
  });
  it('knows the titles of glossary entries, books and bare maps', () => {
    expect(
      titleOf(
        root(
          '<glossentry id="g"><glossterm>datum</glossterm><glossdef>A height.</glossdef>' +
            '</glossentry>',
        ),
      ),
    ).toBe('datum');
    expect(
      shortDescriptionOf(
        root(
          '<glossentry id="g"><glossterm>datum</glossterm><glossdef>A height.</glossdef>' +
            '</glossentry>',
        ),
      ),
    ).toBe('A height.');
    expect(
      titleOf(
        root(
          '<bookmap id="b"><booktitle><booklibrary>L</booklibrary>' +
            '<mainbooktitle>Main</mainbooktitle></booktitle></bookmap>',
        ),
      ),
    ).toBe('Main');
    expect(titleOf(root('<map id="m" title="Old style"/>'))).toBe('Old style');
  });
});

describe('a library in memory', () => {
  it('reads a text once, and again when it changes', () => {
    const library = textLibrary([
      { id: 'a', kind: 'topic', text: '<topic id="a"><title>A</title></topic>' },
    ]);
    const first = library.item('a');
    expect(library.item('a')).toBe(first);
    library.set({ id: 'a', kind: 'topic', text: '<topic id="a"><title>A</title></topic>' });
    expect(library.item('a')).toBe(first);
    library.set({ id: 'a', kind: 'topic', text: '<topic id="a"><title>B</title></topic>' });
    expect(titleOf(library.item('a')!.root!)).toBe('B');
    expect(library.item('none')).toBeUndefined();
  });
  it('keeps an item that cannot be read, with the reason', () => {
    expect(readItem('x', 'topic', '<topic')).toMatchObject({
      id: 'x',
      problems: [{ code: 'xml.not-well-formed', where: { item: 'x' } }],
    });
  });
  it('finds elements by id, the first of several', () => {
    const tree = root('<a id="r"><b id="x">1</b><b id="x">2</b></a>');
    expect(elementById(tree, 'x')?.path).toEqual([0]);
    expect(elementById(tree, undefined)?.element).toBe(tree);
    expect(elementById(tree, 'y')).toBeUndefined();
  });
  it('finds elements in the topic that is named, nested ones apart', () => {
    const tree = root(
      '<topic id="r"><title>R</title><body><p id="x">1</p></body><topic id="n"><title>N</title>' +
        '<body><p id="x">2</p><p id="y">3</p></body></topic></topic>',
    );
    const pathOf = (named: string) => elementById(tree, named)?.path;
    expect(['x', 'r/x', 'n/x', 'n', 'y'].map(pathOf)).toEqual([
      [1, 0],
      [1, 0],
      [2, 1, 0],
      [2],
      [2, 1, 1],
    ]);
    expect(linkTargets(tree).map(({ id, title }) => [id, title])).toEqual([
      ['x', '1'],
      ['n', 'N'],
      ['n/x', '2'],
      ['n/y', '3'],
    ]);
    expect(pathOf('r/y')).toBeUndefined();
    // A topic that is not there says nothing of where its element is.
    expect(pathOf('else/y')).toEqual([2, 1, 1]);
  });
});
