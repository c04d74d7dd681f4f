import { describe, expect, it } from 'vitest';
import { readXml } from '../markup/index.ts';
import { kindOf } from '../problems/index.ts';
import { composeTexts } from '../testing/index.ts';
import { checkLanguage, checkReadiness, type ReadyFact } from './index.ts';

describe('facts with which topics go out', () => {
  const state = { name: 'state', label: 'State', ready: ['approved', 'final'] };
  const said = (value: string): string =>
    '<concept id="c"><title>Tide staff</title><prolog><metadata>' +
    `<othermeta name="state" content="${value}"/></metadata></prolog><conbody/></concept>`;
  it('are asked of the topic: it has one of the values, or is said not to', () => {
    const messages = (xml: string, ...facts: ReadyFact[]): string[] =>
      checkReadiness(readXml(xml).document!.root, facts).map(
        ({ code, message }) => `${code}: ${message}`,
      );
    expect(messages(said('final'), state)).toEqual([]);
    expect(messages(said('draft'), state)).toEqual([
      'fact.not-ready: “Tide staff” has “draft” for its State: it goes out with “approved” ' +
        'or “final”.',
    ]);
    expect(messages('<concept id="c"><title>Tide staff</title></concept>', state)).toEqual([
      'fact.not-ready: “Tide staff” does not say its State: it goes out with “approved” or ' +
        '“final”.',
    ]);
    expect(messages(said('draft'), { ...state, ready: [] })).toEqual([]);
  });
  it('are told once of every topic of a publication, wherever it stands', () => {
    const texts = [
      '<map id="m"><title>M</title><topicref href="topic:c"><topicref href="topic:d"/>' +
        '</topicref><topicref href="topic:c"/></map>',
      said('draft'),
      said('approved').replace('id="c"', 'id="d"'),
    ];
    const { problems, places } = composeTexts(texts, { ready: [state] });
    expect(problems.map(({ code, where }) => [code, where.item])).toEqual([
      ['fact.not-ready', 'c'],
    ]);
    expect(places).toHaveLength(2);
    expect(kindOf(problems[0]!)).toBe('unready');
  });
});

describe('the language of what goes out', () => {
  const inLanguage = (tag: string): string =>
    `<concept id="c" xml:lang="${tag}"><title>Tide staff</title><conbody/></concept>`;
  it('is that of the publication, whatever country or script is meant, or it is said', () => {
    const messages = (tag: string, locale: string): string[] =>
      checkLanguage(readXml(inLanguage(tag)).document!.root, locale).map(({ message }) => message);
    expect(messages('en-GB', 'de')).toEqual(['“Tide staff” is written in English, not in German.']);
    for (const [tag, locale] of [
      ['en-GB', 'en'],
      ['de', 'de-AT'],
      ['zh-Hant', 'zh'],
    ] as const)
      expect(messages(tag, locale)).toEqual([]);
    // A tag that says no language is no reason to say anything.
    for (const tag of ['', 'x-harbour', '--', '&lt;b&gt;', 'i-klingon', 'qqqqqqqqqq'])
      expect(messages(tag, 'de')).toEqual([]);
    // A topic that says none is in that of the project, where that is known.
    const silent = readXml('<concept id="c"><title>T</title></concept>').document!.root;
    expect(checkLanguage(silent, 'de')).toEqual([]);
    expect(checkLanguage(silent, 'de', 'en').map(({ message }) => message)).toEqual([
      '“T” is written in English, not in German.',
    ]);
    expect(checkLanguage(silent, 'en', 'en')).toEqual([]);
  });
  it('is asked of every topic of a publication, as a kind of its own', () => {
    const { problems } = composeTexts(
      ['<map id="m"><title>M</title><topicref href="topic:c"/></map>', inLanguage('en')],
      { locale: 'ja' },
    );
    expect(problems.map((found) => [kindOf(found), found.message, found.where.item])).toEqual([
      ['untranslated', '“Tide staff” is written in English, not in Japanese.', 'c'],
    ]);
  });
});
