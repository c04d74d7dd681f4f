import { EditorState } from 'prosemirror-state';
import { describe, expect, it } from 'vitest';
import { normalise, writeCanonical } from '../grammar/index.ts';
import { readXml } from '../markup/index.ts';
import {
  findMatches,
  fromEditor,
  searchedLines,
  patternOf,
  placesOf,
  replaceFound,
  toEditor,
  type Query,
} from './index.ts';

const state = (body: string) =>
  EditorState.create({
    doc: toEditor(
      normalise(
        readXml(`<concept id="c"><title>Tide</title><conbody>${body}</conbody></concept>`).document!
          .root,
      ),
    ),
  });
const query = (text: string, more: Partial<Query> = {}): Query => ({
  text,
  matchCase: false,
  wholeWord: false,
  isPattern: false,
  within: '',
  ...more,
});
function look(
  body: string,
  wanted: Query,
  replacement = '',
): { count: number; texts: string[]; after: string } {
  const before = state(body);
  const lines = searchedLines(before.doc, wanted.within);
  const pattern = patternOf(wanted);
  if ('refusal' in pattern) throw new Error(pattern.refusal);
  const places = placesOf(
    lines,
    findMatches(
      lines.map(({ text }) => text),
      pattern,
      replacement,
      wanted.isPattern,
    ),
  );
  const { doc } = before.apply(replaceFound(before, places));
  doc.check();
  return {
    count: places.length,
    texts: places.map(({ from, to }) => before.doc.textBetween(from, to)),
    after: writeCanonical(fromEditor(doc)).replace(/\n\s*/gu, ''),
  };
}

describe('find and replace', () => {
  it('finds words with a hyphen as they are', () =>
    expect(look('<p>An e-mail, no email.</p>', query('e-mail'))).toMatchObject({ count: 1 }));
  it('finds words across named ones, in any case, and replaces them all', () => {
    const { count, after } = look(
      '<p>The tide, the <b>Ti</b>de and <i>the tide</i>.</p>',
      query('tide'),
      'water',
    );
    expect(count).toBe(4);
    expect(after).toContain('<title>water</title>');
    expect(after).toContain('<p>The water, the <b>water</b> and <i>the water</i>.</p>');
  });
  it('minds case, whole words, signs of patterns and kinds of elements when asked', () => {
    expect(look('<p>tide Tide tidal</p>', query('tide', { matchCase: true })).count).toBe(1);
    expect(look('<p>tide tidetable ätide</p>', query('tide', { wholeWord: true })).texts).toEqual([
      'Tide',
      'tide',
    ]);
    expect(look('<p>a.b axb</p>', query('a.b')).count).toBe(1);
    expect(look('<p>tide</p><note>tide</note>', query('tide', { within: 'note' })).count).toBe(1);
    expect(
      look('<ul><li>tide<p>tide</p></li></ul><p>tide</p>', query('tide', { within: 'li' })).count,
    ).toBe(2);
  });
  it('puts groups of a pattern where they are named', () => {
    expect(
      look('<p>12 mm and 7 mm</p>', query('(\\d+) mm', { isPattern: true }), '$1 millimetres [$&]')
        .after,
    ).toContain('<p>12 millimetres [12 mm] and 7 millimetres [7 mm]</p>');
  });
  it('never joins what stands on two sides of a footnote, a link without words or a line', () => {
    const { count, after } = look(
      '<p>ti<fn>x</fn>de ti<xref href="topic:a"/>de</p><p>ti</p><p>de</p>',
      query('tide'),
      'water',
    );
    expect(count).toBe(1);
    expect(after).toContain('ti<fn>x</fn>de');
  });
  it('refuses what is no pattern', () =>
    expect(patternOf(query('(', { isPattern: true }))).toHaveProperty('refusal'));
});
