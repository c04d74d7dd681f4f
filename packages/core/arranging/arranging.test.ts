import { describe, expect, it } from 'vitest';
import { normalise, validate } from '../grammar/index.ts';
import { readXml } from '../markup/index.ts';
import {
  droppedEntries,
  flattenMap,
  indent,
  insertEntry,
  move,
  moveDown,
  moveUp,
  outdent,
  removeEntry,
  toggleEntryValue,
} from './index.ts';

const map = normalise(
  readXml(
    '<bookmap id="b"><booktitle><mainbooktitle>B</mainbooktitle></booktitle>' +
      '<chapter href="topic:a"><topicref href="topic:a1"/><topicref href="topic:a2"/></chapter>' +
      '<chapter href="topic:c"/><appendix href="topic:x"/></bookmap>',
  ).document!.root,
);
const shape = (root: typeof map): string[] =>
  flattenMap(root).map(
    ({ depth, element, href }) => `${'  '.repeat(depth)}${element.name} ${href}`,
  );

describe('arranging a map', () => {
  it('lists the entries in reading order', () => {
    expect(shape(map)).toEqual([
      'chapter topic:a',
      '  topicref topic:a1',
      '  topicref topic:a2',
      'chapter topic:c',
      'appendix topic:x',
    ]);
  });
  it('moves up and down among siblings, and stops at the ends', () => {
    expect(shape(moveDown(map, [1])!.root).slice(0, 2)).toEqual([
      'chapter topic:c',
      'chapter topic:a',
    ]);
    expect(moveUp(map, [2])).toMatchObject({ path: [1] });
    expect(moveUp(map, [1, 0])).toBeUndefined();
    expect(moveDown(map, [3])).toBeUndefined();
  });
  it('turns a chapter into a topic reference when it goes in, and back', () => {
    const inside = indent(map, [2])!;
    expect(shape(inside.root)).toEqual([
      'chapter topic:a',
      '  topicref topic:a1',
      '  topicref topic:a2',
      '  topicref topic:c',
      'appendix topic:x',
    ]);
    const back = outdent(inside.root, inside.path)!;
    expect(shape(back.root)).toEqual(shape(map));
    expect(back.path).toEqual([2]);
  });
  it('refuses what would not be valid', () => {
    expect(moveUp(map, [3])).toBeUndefined();
    expect(outdent(map, [1])).toBeUndefined();
    expect(move(map, [1], [1, 0], 0)).toBeUndefined();
  });
  it('moves across branches', () => {
    const { root, path } = move(map, [1, 0], [2], 0)!;
    expect(shape(root)).toEqual([
      'chapter topic:a',
      '  topicref topic:a2',
      'chapter topic:c',
      '  topicref topic:a1',
      'appendix topic:x',
    ]);
    expect(path).toEqual([2, 0]);
  });
  it('takes out and puts in', () => {
    expect(shape(removeEntry(map, [1])!.root)).toEqual(['chapter topic:c', 'appendix topic:x']);
    expect(shape(insertEntry(map, [1, 1], 'topic:n')!.root)[3]).toBe('  topicref topic:n');
    const atEnd = insertEntry(
      normalise(readXml('<map id="m"><title>M</title></map>').document!.root),
      undefined,
      'topic:n',
    )!;
    expect(shape(atEnd.root)).toEqual(['topicref topic:n']);
    expect(validate(atEnd.root)).toEqual([]);
  });
});

describe('entries for some readers only', () => {
  const only = toggleEntryValue(map, [1], 'product', 'q')!.root;
  it('carry facet values, which the same act takes away', () => {
    expect(flattenMap(only)[0]?.element.attributes).toMatchObject({
      href: 'topic:a',
      product: 'q',
    });
    expect(toggleEntryValue(only, [1], 'product', 'q')!.root).toEqual(map);
    expect(toggleEntryValue(map, [0], 'product', 'q')).toBeUndefined();
  });
  it('are dropped with all that they hold', () => {
    expect(
      droppedEntries(flattenMap(only), ({ attributes }) => attributes['product'] === 'q'),
    ).toEqual([true, true, true, false, false]);
  });
});
