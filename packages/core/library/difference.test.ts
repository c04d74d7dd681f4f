import fc from 'fast-check';
import { expect, it } from 'vitest';
import { normalise } from '../grammar/index.ts';
import { readXml, type Element } from '../markup/index.ts';
import { anyElement } from '../testing/arbitrary.ts';
import { concept } from '../testing/library.ts';
import { differingBlocks } from './index.ts';

const tree = (text: string): Element => readXml(text).document!.root;

it('tells changed blocks with what they replaced, and those added and removed', () => {
  const before = tree(
    concept(
      'a',
      '<p>One.</p><p>Two.</p><ul><li>three</li><li>four</li></ul><note conref="topic:s/n"/>',
    ),
  );
  const after = tree(
    concept('b', '<p>One.</p><p>Second.</p><ul><li>three</li><li>four</li><li>five</li></ul>', 'a'),
  );
  expect(differingBlocks(before, after)).toEqual([
    { label: 'Paragraph', before: 'Two.', after: 'Second.' },
    { label: 'Item', before: 'topic:s/n', after: 'five' },
  ]);
});

it('a text differs from itself in nothing, and from another the same way from both sides', () => {
  fc.assert(
    fc.property(fc.gen(), (gen) => {
      const [one, other] = ['concept', 'concept'].map((kind) =>
        normalise(gen(anyElement, kind, 3)),
      );
      expect(differingBlocks(one!, one!)).toEqual([]);
      const there = differingBlocks(one!, other!)
        .flatMap(({ before, after }) => [before, after])
        .filter((words) => words !== '')
        .sort();
      expect(
        differingBlocks(other!, one!)
          .flatMap(({ before, after }) => [before, after])
          .filter((words) => words !== '')
          .sort(),
      ).toHaveLength(there.length);
    }),
    { numRuns: 40 },
  );
});
