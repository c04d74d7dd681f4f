import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normalise, topicTemplate, validate, writeCanonical } from '../grammar/index.ts';
import { childNamed, readXml, writeXml } from '../markup/index.ts';
import {
  plainShortDescription,
  readTopicFacts,
  withShortDescription,
  writeFacts,
  type TopicFacts,
} from './index.ts';

const root = (prolog: string) =>
  normalise(
    readXml(`<concept id="c"><title>T</title><shortdesc>S</shortdesc>${prolog}<conbody/></concept>`)
      .document!.root,
  );
const word = fc
  .stringMatching(/^[a-zäß ]{1,12}$/u)
  .map((text) => text.trim().replace(/\s+/gu, ' '))
  .filter((text) => text !== '');
const date = fc.constantFrom('2026-11-01', '2026-11-23');
const words = fc.uniqueArray(word, { maxLength: 3 });
const facts: fc.Arbitrary<TopicFacts> = fc.record({
  authors: words,
  audience: words,
  keywords: words,
  indexEntries: fc.uniqueArray(
    fc.array(word, { minLength: 1, maxLength: 3 }).map((parts) => parts.join(' › ')),
    { maxLength: 3 },
  ),
  created: fc.oneof(date, fc.constant('')),
  revised: fc.uniqueArray(date, { maxLength: 2 }),
  contextIds: words,
  own: fc.uniqueArray(fc.record({ name: word, content: word }), {
    maxLength: 2,
    selector: ({ name }) => name,
  }),
});

describe('facts about a topic', () => {
  it('come back as they were written, and leave the topic valid', () => {
    fc.assert(
      fc.property(facts, facts, (first, second) => {
        const once = writeFacts(root(''), first);
        expect(readTopicFacts(once)).toEqual(first);
        const twice = writeFacts(once, second);
        expect(readTopicFacts(twice)).toEqual(second);
        expect(validate(twice).filter(({ severity }) => severity === 'error')).toEqual([]);
        expect(writeFacts(twice, second)).toEqual(twice);
      }),
    );
  });

  it('keep everything that the form does not show, in the order of the standard', () => {
    const before = root(
      '<prolog><author href="https://tern.example/">Ada <b>Lind</b></author><copyright>' +
        '<copyryear year="2026"/><copyrholder>Brinewell</copyrholder></copyright><metadata>' +
        '<audience type="installer" job="mounting"/><category>mounting</category><keywords>' +
        '<indexterm start="r">tide<index-see>water</index-see></indexterm></keywords><prodinfo>' +
        '<prodname>Tern Q</prodname></prodinfo></metadata><data name="x" value="y"/></prolog>',
    );
    const same = writeFacts(before, readTopicFacts(before));
    expect(same).toEqual(before);
    const after = writeFacts(before, {
      ...readTopicFacts(before),
      created: '2026-11-23',
      contextIds: ['clock-page'],
      keywords: ['quay'],
    });
    expect(validate(after)).toEqual(validate(before));
    const text = writeCanonical(after);
    for (const kept of [
      'Ada <b>Lind</b>',
      '<copyrholder>Brinewell',
      'job="mounting"',
      '<category>mounting',
      '<prodname>Tern Q',
      '<indexterm start="r">tide<index-see>water',
      '<data name="x"',
    ])
      expect(text).toContain(kept);
    expect(text.indexOf('<critdates>')).toBeLessThan(text.indexOf('<metadata>'));
  });

  it('need no prolog while there is nothing to say', () => {
    const empty = topicTemplate('task', 't', 'T');
    expect(writeFacts(empty, readTopicFacts(empty))).toBe(empty);
    const filled = writeFacts(empty, { ...readTopicFacts(empty), keywords: ['quay'] });
    expect(
      validate(filled)
        .filter(({ code }) => code !== 'grammar.guidance')
        .filter(({ severity }) => severity === 'error'),
    ).toEqual(validate(empty).filter(({ severity }) => severity === 'error'));
    expect(childNamed(writeFacts(filled, readTopicFacts(empty)), 'prolog')).toBeUndefined();
  });
});

describe('the short description', () => {
  const root = (xml: string) => readXml(xml).document!.root;
  it('is put behind the title, said anew with what it carries, and taken away', () => {
    const bare = root('<concept id="a"><title>A</title><conbody/></concept>');
    const said = withShortDescription(bare, 'In short.');
    expect(writeXml(said).trim()).toBe(
      '<concept id="a"><title>A</title><shortdesc>In short.</shortdesc><conbody/></concept>',
    );
    expect(plainShortDescription(said)).toBe('In short.');
    expect(withShortDescription(said, '')).toEqual(bare);
    expect(
      writeXml(
        withShortDescription(
          root('<concept id="a"><title>A</title><shortdesc id="s">x</shortdesc></concept>'),
          'y',
        ),
      ),
    ).toContain('<shortdesc id="s">y</shortdesc>');
  });
  it('that holds more than words is left to the page', () => {
    expect(
      plainShortDescription(
        root('<concept id="a"><title>A</title><shortdesc>a <b>b</b></shortdesc></concept>'),
      ),
    ).toBeUndefined();
    expect(
      plainShortDescription(
        root(
          '<concept id="a"><title>A</title><abstract><shortdesc>a</shortdesc></abstract></concept>',
        ),
      ),
    ).toBeUndefined();
  });
});
