import { describe, expect, it } from 'vitest';
import type { Lens } from '../facets/index.ts';
import { readXml, type Element } from '../markup/index.ts';
import { concept, libraryOf, mapText } from '../testing/library.ts';
import { usualNumbering } from '../styles/index.ts';
import { composeContext, type ComposeContext } from './context.ts';
import { expandMap } from './expand/map.ts';
import { linkPlaces } from './link.ts';
import { ComposeMemory } from './memory.ts';
import { numberPlaces, type NumberedMap } from './number.ts';
import { placeTopics, type PlacedMap } from './place.ts';
import { allPlaces } from './publication.ts';
import { gatherPushes } from './pushing.ts';
import { resolveMap, type ResolvedMap, type ResolvedNode } from './resolve/map.ts';
import type { ResolvedTopic } from './resolve/resolved.ts';

const lens: Lens = { name: 'q', rules: [{ facet: 'product', value: 'd', action: 'drop' }] };

interface Passes {
  readonly context: ComposeContext;
  readonly resolved: ResolvedMap;
  readonly placed: PlacedMap;
  readonly numbered: NumberedMap;
}
function passes(inner: string, ...topics: readonly string[]): Passes {
  const library = libraryOf([mapText(inner), ...topics]);
  const context = composeContext({ library, map: 'm', lens }, new ComposeMemory());
  const expanded = expandMap(library.item('m')!, context);
  const resolved = resolveMap(expanded, gatherPushes(expanded, context), context);
  const placed = placeTopics(resolved, context);
  return { context, resolved, placed, numbered: numberPlaces(placed, usualNumbering) };
}
const shape = (nodes: readonly ResolvedNode[]): unknown[] =>
  nodes.map(({ anchor, children }) => (children.length === 0 ? anchor : [anchor, shape(children)]));

describe('resolving a map', () => {
  it('puts what stands under a dropped or missing topic in its place', () => {
    const { resolved } = passes(
      '<topicref href="topic:a"><topicref href="topic:gone"><topicref href="topic:b"/></topicref>' +
        '<topicref href="topic:d"><topicref href="topic:c"/></topicref></topicref>',
      concept('a'),
      concept('b'),
      concept('c'),
      '<concept id="d" product="d"><title>D</title></concept>',
    );
    expect(shape(resolved.nodes)).toEqual([['a', ['b', 'c']]]);
    expect(resolved.problems.map(({ code }) => code)).toEqual(['topic.missing']);
    expect(resolved.why.map(({ kind }) => kind)).toEqual(['dropped', 'dropped']);
  });
  it('names a topic that stands twice once more', () => {
    const { resolved } = passes(
      '<topicref href="topic:a"/><topicref href="topic:a"/><topichead navtitle="A"/>',
      concept('a'),
    );
    expect(shape(resolved.nodes)).toEqual(['a', 'a-2', 'a-3']);
  });
});

const nested =
  '<concept id="a"><title>A</title><concept id="in"><title>Inner</title></concept></concept>';

describe('placing topics', () => {
  it('has those nested in a topic before those below it in the map', () => {
    const { placed } = passes(
      '<topicref href="topic:a"><topicref href="topic:b"/></topicref>',
      nested,
      concept('b'),
    );
    expect(allPlaces(placed.places).map(({ anchor, level }) => [anchor, level])).toEqual([
      ['a', 1],
      ['a--in', 2],
      ['b', 2],
    ]);
    expect(placed.places.every(({ number }) => number === undefined)).toBe(true);
  });
  it('lets a context-help id open what it was first found at', () => {
    const entry = (id: string): string =>
      `<topicref href="topic:${id}"><topicmeta><resourceid appid="KEY"/></topicmeta></topicref>`;
    const { placed } = passes(entry('a') + entry('b'), concept('a'), concept('b'));
    expect(placed.places.map(({ contextIds }) => contextIds)).toEqual([['KEY'], []]);
    expect(placed.problems.map(({ message }) => message)).toEqual([
      'The context-help id “KEY” opens “a” already. It does not open “b”.',
    ]);
  });
});

describe('numbering places', () => {
  it('counts nested topics and those of the map as one list', () => {
    const { numbered } = passes(
      '<topicref href="topic:a"><topicref href="topic:b"/><topicref href="topic:c"/></topicref>',
      nested,
      concept('b', '<fig id="f"><title>F</title></fig>'),
      concept('c'),
    );
    expect(allPlaces(numbered.places).map(({ anchor, number }) => [anchor, number])).toEqual([
      ['a', '1'],
      ['a--in', '1.1'],
      ['b', '1.2'],
      ['c', '1.3'],
    ]);
    expect(numbered.figures).toEqual([{ anchor: 'b--f', number: '1-1', title: ['F'] }]);
    expect(numbered.targets['b--f']).toMatchObject({ place: 'b', kind: 'figure', title: 'F' });
  });
});

describe('linking places', () => {
  it('asks for other publications only when a link is not found in this one', () => {
    const { context, numbered } = passes(
      '<topicref href="topic:a"/><topicref href="topic:b"/>',
      concept('a', '<p><xref href="topic:b"/></p>'),
      concept('b'),
    );
    let asked = 0;
    const peers = (): [] => {
      asked += 1;
      return [];
    };
    const { library, locale } = context;
    const linked = linkPlaces(numbered, { library, locale, relations: [], peers });
    expect(Object.values(linked.links)).toEqual([{ kind: 'target', anchor: 'b', text: 'b' }]);
    expect(asked).toBe(0);
  });
});

describe('the memory of composing', () => {
  const root: Element = readXml('<concept id="a"/>').document!.root;
  const topic = (): ResolvedTopic => ({}) as ResolvedTopic;
  it('forgets what was used least recently, and what is not as it would be now', () => {
    const memory = new ComposeMemory();
    let made = 0;
    const ask = (key: string, isCurrent = true): void =>
      void memory.topic(
        root,
        key,
        () => isCurrent,
        () => {
          made += 1;
          return topic();
        },
      );
    for (let index = 0; index < 64; index += 1) ask(`${index}`);
    ask('0');
    expect(made).toBe(64);
    ask('one more');
    ask('0');
    expect(made).toBe(65);
    ask('1');
    expect(made).toBe(66);
    ask('1', false);
    expect(made).toBe(67);
  });
  it('has one name for the same settings', () => {
    const memory = new ComposeMemory();
    expect(memory.settingsName('a')).toBe(memory.settingsName('a'));
    expect(memory.settingsName('b')).not.toBe(memory.settingsName('a'));
  });
});
