import { describe, expect, it } from 'vitest';
import { normalise, writeCanonical } from '../grammar/index.ts';
import { readXml } from '../markup/index.ts';
import { readSource } from './index.ts';

const before = normalise(
  readXml('<concept id="c"><title>T</title><conbody/></concept>').document!.root,
);
const found = (text: string): string[] =>
  readSource(text, before, {}).problems.map(
    ({ code, where }) => `${where.line}:${where.column} ${code}`,
  );

describe('a topic as source', () => {
  it('comes back as it was written', () => {
    expect(writeCanonical(readSource(writeCanonical(before), before, {}).root!)).toBe(
      writeCanonical(before),
    );
    expect(found(writeCanonical(before))).toEqual([]);
  });
  it('says by line and column what is wrong', () => {
    expect(
      found(
        '<concept id="c">\n<title>T</title>\n<conbody>\n<image href="asset:x"/>\n' +
          '<section><section>x</section></section></conbody></concept>',
      ),
    ).toEqual(['5:19 grammar.not-allowed', '4:24 image.no-alternative']);
    expect(found('<concept id="c">\n<title>T</concept>')[0]).toMatch(
      /^2:\d+ xml\.not-well-formed$/u,
    );
    expect(readSource('<concept>', before, {}).root).toBeUndefined();
  });
  it('stays the topic that it is', () => {
    expect(found('<task id="c"><title>T</title></task>')).toEqual(['1:14 source.not-this-topic']);
    expect(found('<concept id="d"><title>T</title></concept>')).toEqual([
      '1:17 source.not-this-topic',
    ]);
  });
});
