import { describe, expect, it } from 'vitest';
import { normalise } from '../grammar/index.ts';
import { childNamed, element, isElement, readXml, textOf, type Element } from '../markup/index.ts';
import { composeTexts, concept, mapText } from '../testing/index.ts';
import { conrefSourceOf, readPassage } from './index.ts';

const read = (text: string): Element => normalise(readXml(text).document!.root);

const others = [
  concept(
    'l',
    '<p id="one">First <b>bold</b></p><p id="two">Second</p><note id="n" type="danger">Note</note>' +
      '<p id="deep">Before <ph conref="topic:l/word"/></p><p><ph id="word">a word</ph></p>',
  ),
  concept('b', '<p id="x" conref="topic:l/one"/>'),
  concept('c', '<p id="x"><ph id="y" conref="topic:d/y"/>x</p>'),
  concept('d', '<p><ph id="y" conref="topic:c/y"/></p>'),
];
const library = new Map(others.map((text) => [/id="([^"]+)"/u.exec(text)![1]!, read(text)]));

/** What the page of topic `a` shows for the one element in its body. */
async function shown(element: string): Promise<string | { code: string }> {
  const topic = read(concept('a', element));
  const borrower = childNamed(topic, 'conbody')!.children.find(isElement)!;
  const found = await readPassage(
    {
      element: borrower,
      attributes: borrower.attributes,
      place: { item: 'a', path: [1, 0], borrowing: [] },
    },
    {
      read: async (id) => (id === 'a' ? topic : library.get(id)),
      targetOf: (key) => (key === 'lender' ? 'topic:l' : undefined),
    },
  );
  return 'code' in found ? { code: found.code } : found.map(textOf).join('');
}

/** What a build shows for it. */
function built(element: string): string | { code: string } {
  const map = mapText('<keydef keys="lender" href="topic:l"/><topicref href="topic:a"/>');
  const { places, problems } = composeTexts([map, concept('a', element), ...others]);
  const body = childNamed(places[0]!.content!, 'conbody');
  const [problem] = problems;
  return body && textOf(body) !== '' ? textOf(body) : { code: problem?.code ?? '' };
}

describe('a borrowed passage on the page', () => {
  it.each([
    '<p conref="topic:l/one"/>',
    '<p conkeyref="lender/one"/>',
    '<p conref="topic:l/one" conrefend="topic:l/two"/>',
    '<p conref="topic:b/x"/>',
    '<p conref="topic:l/deep"/>',
    '<p conref="topic:c/x"/>',
    '<p conref="topic:none/x"/>',
    '<p conref="topic:l/none"/>',
    '<p conkeyref="nobody/one"/>',
    '<p id="me" conref="topic:a/me"/>',
    '<ul conref="topic:l/one"><li/></ul>',
    '<note conref="topic:l/n"/>',
  ])('is what a build shows, or refused as there: %s', async (element) => {
    expect(await shown(element)).toEqual(built(element));
  });
});

it('is not shown if it borrows too much, each level doubling the one below', async () => {
  const doubling = Array.from({ length: 30 }, (_, level) => {
    const below = `<ph conref="topic:t${level + 1}/x"/>`;
    const text = concept(`t${level}`, `<p><ph id="x">${below}${below}</ph></p>`);
    return [`t${level}`, read(text)] as const;
  });
  const texts = new Map([...doubling, ['t30', read(concept('t30', '<p><ph id="x">x</ph></p>'))]]);
  const borrower = element('ph', { conref: 'topic:t0/x' });
  const found = await readPassage(
    {
      element: borrower,
      attributes: borrower.attributes,
      place: { item: 'a', path: [1, 0], borrowing: [] },
    },
    { read: async (id) => texts.get(id), targetOf: () => undefined },
  );
  expect(found).toMatchObject({ code: 'borrow.large' });
});

it('keeps a key that leads nowhere, and takes the element from what a key leads to', () => {
  const targetOf = (key: string): string | undefined => (key === 'k' ? 'topic:t/part' : undefined);
  expect(
    [
      { conref: 'topic:l/one' },
      { conkeyref: 'k/one' },
      { conkeyref: 'k' },
      { conkeyref: 'gone/one' },
      {},
    ].map((attributes) => conrefSourceOf(attributes, targetOf)),
  ).toEqual(['topic:l/one', 'topic:t/one', 'topic:t/part', 'gone/one', undefined]);
});
