import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compose } from '../compose/index.ts';
import { normalise, topicTemplate, validate, writeCanonical } from '../grammar/index.ts';
import { element, lineage, nodeAt, readXml, replaceAt, type Element } from '../markup/index.ts';
import { anyElement } from '../testing/arbitrary.ts';
import { concept, libraryOf, mapText } from '../testing/library.ts';
import {
  borrowing,
  freeId,
  conrefsIn,
  idsOf,
  movePassages,
  localCopy,
  passagesOf,
  readableText,
  withIds,
  withoutBody,
} from './index.ts';

const read = (text: string): Element => normalise(readXml(text).document!.root);
const errors = (root: Element): number =>
  validate(root).filter(({ severity }) => severity === 'error').length;
/** What a reader gets of topic `t`, with what it borrows from `l`. */
function published(topic: Element, lender: Element): { text: string; problems: string[] } {
  const texts = [
    mapText('<topicref href="topic:t"/>'),
    writeCanonical({ ...topic, attributes: { ...topic.attributes, id: 't' } }),
    writeCanonical({ ...lender, attributes: { ...lender.attributes, id: 'l' } }),
  ];
  const { places, problems } = compose({ library: libraryOf(texts), map: 'm' });
  return {
    text: places.map(({ content }) => (content ? readableText(content) : '')).join('\n'),
    problems: problems.filter(({ code }) => /^(borrow|link)\./u.test(code)).map(({ code }) => code),
  };
}

describe('what can be borrowed', () => {
  it('is every block of the body outside other passages, in order and at its depth', () => {
    const root = read(
      concept(
        'a',
        '<p>P</p><section><title>T</title><ul><li><p>I</p></li></ul></section>' +
          '<note conref="topic:l/n"/><table><tgroup cols="1"><tbody><row><entry>E</entry></row>' +
          '</tbody></tgroup></table>',
      ),
    );
    expect(
      passagesOf(root).map(({ element: { name }, depth, words }) => `${depth} ${name} ${words}`),
    ).toEqual(['0 p P', '0 section T I', '1 ul I', '2 li I', '3 p I', '0 table E']);
  });
  it('gets an id made of its words; what has one keeps it', () => {
    const root = read(
      concept(
        'a',
        '<p id="keep">x</p><p>Mind the gap now, all</p><p>Mind the gap now, one</p>' +
          '<codeblock>42</codeblock>',
      ),
    );
    const paths = passagesOf(root).map(({ path }) => path);
    expect(withIds(root, paths).ids).toEqual([
      'keep',
      'mind-the-gap-now',
      'mind-the-gap-now-2',
      'codeblock-42',
    ]);
    expect(borrowing('a', ['x', 'y'])).toEqual({ conref: 'topic:a/x', conrefend: 'topic:a/y' });
  });
  it('says where what it borrows itself has its home', () => {
    expect(
      conrefsIn(read('<section><p conref="topic:b/x"/><p conref="#own"/></section>'), 'a'),
    ).toEqual([
      { id: 'b', element: 'x' },
      { id: 'a', element: 'own' },
    ]);
  });
});

describe('lending', () => {
  it('goes to the last place that may hold it, in as few holders as are needed', () => {
    const task = read(
      '<task id="l"><title>L</title><taskbody><steps><step><cmd>one</cmd></step></steps>' +
        '<result><p>done</p></result></taskbody></task>',
    );
    const lent = movePassages(task, [read('<step><cmd>two</cmd></step>')], ['steps'], 't')!;
    expect(writeCanonical(lent.root).replace(/\s*\n\s*/gu, '')).toContain(
      '<step id="two"><cmd>two</cmd></step></steps><result>',
    );
    expect(
      movePassages(read(concept('l', '')), [read('<step><cmd>two</cmd></step>')], ['steps'], 't'),
    ).toBeUndefined();
    const fresh = movePassages(
      read(concept('l', '')),
      [read('<li>x</li>')],
      ['section', 'ul'],
      't',
    )!;
    expect(writeCanonical(fresh.root).replace(/\s*\n\s*/gu, '')).toContain(
      '<conbody><ul><li id="x">x</li></ul></conbody>',
    );
  });

  it('leaves what the reader gets the same, and is undone by a local copy', () => {
    const kinds = fc.constantFrom('concept', 'task', 'reference', 'troubleshooting');
    fc.assert(
      fc.property(kinds, fc.gen(), fc.nat(1000), (kind, gen, pick) => {
        const topic = normalise(gen(anyElement, kind, 4));
        const passages = passagesOf(topic);
        const passage = passages[pick % Math.max(1, passages.length)];
        const id = passage?.element.attributes['id'];
        fc.pre(passage !== undefined);
        fc.pre(id === undefined || [...idsOf(topic)].length === new Set(idsOf(topic).keys()).size);
        const ancestors = lineage(topic, passage.path)
          .slice(2, -1)
          .map(({ name }) => name);
        const empty = topicTemplate(kind, 'l', 'L');
        const lender = withoutBody(empty);
        const lent = movePassages(lender, [passage.element], ancestors, 't');
        fc.pre(lent !== undefined);
        const borrower = element(passage.element.name, {
          ...(id === undefined ? {} : { id }),
          ...borrowing('l', lent.ids),
        });
        const shared = replaceAt(topic, passage.path, [borrower]);
        const before = published(topic, lender);
        expect(published(shared, lent.root)).toEqual(before);
        const copy = localCopy(borrower.attributes, lent.root, 'l', new Set());
        expect(published(replaceAt(shared, passage.path, copy!), lender)).toEqual(before);
      }),
      { numRuns: 150 },
    );
  });

  it('never makes a lender invalid, and keeps ids apart', () => {
    fc.assert(
      fc.property(fc.gen(), fc.gen(), fc.nat(1000), (lending, asking, pick) => {
        const lender = normalise(lending(anyElement, 'concept', 4));
        const topic = normalise(asking(anyElement, 'concept', 4));
        const passages = passagesOf(topic);
        const passage = passages[pick % Math.max(1, passages.length)];
        fc.pre(passage !== undefined);
        const ancestors = lineage(topic, passage.path)
          .slice(2, -1)
          .map(({ name }) => name);
        const lent = movePassages(lender, [passage.element], ancestors, 't');
        fc.pre(lent !== undefined);
        expect(errors(lent.root)).toBeLessThanOrEqual(errors(lender) + errors(passage.element));
        expect(readableText(idsOf(lent.root).get(lent.ids[0]!)!.element)).toBe(
          readableText(passage.element),
        );
      }),
      { numRuns: 100 },
    );
  });
});

it('copies a whole run with its references kept, and no id twice', () => {
  const lender = read(
    concept('l', '<p id="a" product="d">A <xref href="#b"/></p><p id="b">B</p><p>C</p>'),
  );
  const copy = localCopy(
    { id: 'own', conref: 'topic:l/a', conrefend: 'topic:l/b', audience: 'installer' },
    lender,
    'l',
    new Set(['b']),
  )!;
  expect(copy.map((one) => writeCanonical(one).trim())).toEqual([
    '<p id="own" audience="installer" product="d">A <xref href="topic:l/b"/></p>',
    '<p>B</p>',
  ]);
  expect(localCopy({ conref: 'topic:l/none' }, lender, 'l', new Set())).toBeUndefined();
  expect(nodeAt(lender, [1, 0])).toBeDefined();
  expect(freeId('42', new Set(), 'p')).toBe('p-42');
});
