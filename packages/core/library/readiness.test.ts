import { describe, expect, it } from 'vitest';
import { readXml } from '../markup/index.ts';
import { kindOf } from '../problems/index.ts';
import { composeTexts } from '../testing/index.ts';
import { checkReadiness, type ReadyFact } from './index.ts';

describe('facts with which topics go out', () => {
  const state = { name: 'state', label: 'State', ready: ['approved', 'final'] };
  const said = (value: string): string => `<concept id="c"><title>Tide staff</title><prolog><metadata><othermeta name="state" content="${value}"/></metadata></prolog><conbody/></concept>`;
  it('are asked of the topic: it has one of the values, or is said not to', () => {
    const messages = (xml: string, ...facts: ReadyFact[]): string[] => checkReadiness(readXml(xml).document!.root, facts).map(({ code, message }) => `${code}: ${message}`);
    expect(messages(said('final'), state)).toEqual([]);
    expect(messages(said('draft'), state)).toEqual(['fact.not-ready: “Tide staff” has “draft” for its State: it goes out with “approved” or “final”.']);
    expect(messages('<concept id="c"><title>Tide staff</title></concept>', state)).toEqual(['fact.not-ready: “Tide staff” does not say its State: it goes out with “approved” or “final”.']);
    expect(messages(said('draft'), { ...state, ready: [] })).toEqual([]);
  });
  it('are told once of every topic of a publication, wherever it stands', () => {
    const texts = [
      '<map id="m"><title>M</title><topicref href="topic:c"><topicref href="topic:d"/></topicref><topicref href="topic:c"/></map>',
      said('draft'),
      said('approved').replace('id="c"', 'id="d"'),
    ];
    const { problems, places } = composeTexts(texts, { ready: [state] });
    expect(problems.map(({ code, where }) => [code, where.item])).toEqual([['fact.not-ready', 'c']]);
    expect(places).toHaveLength(2);
    expect(kindOf(problems[0]!)).toBe('unready');
  });
});
