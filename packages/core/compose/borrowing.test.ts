import { describe, expect, it } from 'vitest';
import type { Lens } from '../facets/index.ts';
import { findAll } from '../markup/index.ts';
import { bodyText, composeTexts, concept, mapText, problemCodes } from '../testing/library.ts';
import { type Publication } from './index.ts';

/** From memory of OASIS DITA 1.3, 2.4.5 “Content inclusion (conref)”. */
const lender = concept(
  'l',
  '<p id="one" audience="operator">First <b>bold</b></p><p id="two">Second</p>' +
    '<p id="three">Third</p><note id="n" type="danger">Note</note>',
);
const borrow = (body: string, more: readonly string[] = []): Publication =>
  composeTexts([mapText('<topicref href="topic:a"/>'), concept('a', body), lender, ...more]);

describe('borrowed passages', () => {
  it('show what is lent, with the borrower’s id and attributes before the lender’s', () => {
    const publication = borrow(
      '<note id="mine" conref="topic:l/n" type="tip"/><p conref="topic:l/one"/>',
    );
    const [note, paragraph] = findAll(
      publication.places[0]!.content!,
      ({ name }) => name === 'note' || name === 'p',
    );
    expect(note).toMatchObject({
      attributes: { id: 'mine', type: 'tip' },
      children: ['Note'],
      origin: { item: 'l', path: [1, 3] },
    });
    expect(paragraph?.attributes).toEqual({ audience: 'operator' });
    expect(publication.why.filter(({ kind }) => kind === 'borrowed')).toHaveLength(2);
  });
  it('may leave an attribute to the lender', () => {
    const publication = borrow('<note conref="topic:l/n" type="-dita-use-conref-target"/>');
    expect(
      findAll(publication.places[0]!.content!, ({ name }) => name === 'note')[0]?.attributes,
    ).toEqual({ type: 'danger' });
  });
  it('may be a run of siblings', () => {
    expect(bodyText(borrow('<p conref="topic:l/one" conrefend="topic:l/three"/>'), 'a')).toBe(
      'First boldSecondThird',
    );
  });
});

describe('borrowed passages', () => {
  it('go through several lenders, and are filtered like any other content', () => {
    const publication = composeTexts(
      [
        mapText('<topicref href="topic:a"/>'),
        concept('a', '<p conref="topic:b/x"/>'),
        concept('b', '<p id="x" conref="topic:l/one"/>'),
        lender,
      ],
      {
        lens: { name: 'i', rules: [{ facet: 'audience', value: 'operator', action: 'drop' }] },
      },
    );
    expect(bodyText(publication, 'a')).toBe('');
    expect(publication.why.some(({ kind }) => kind === 'dropped')).toBe(true);
  });
  it('says where nothing is left for the readers, and only there', () => {
    const drop: Lens = { name: 'q', rules: [{ facet: 'product', value: 'd', action: 'drop' }] };
    const empty = (body: string): string[] => {
      const { problems } = composeTexts(
        [mapText('<topicref href="topic:a"/>'), concept('a', body)],
        {
          lens: drop,
        },
      );
      return problems
        .filter(({ code }) => code === 'filter.empty')
        .map(({ message, where }) => `${message} ${where.path?.join('.')}`);
    };
    expect(empty('<p>x</p><ul><li product="d">a</li><li product="d">b</li></ul>')).toEqual([
      '“Bullet list” has nothing left for these readers. 1.1',
    ]);
    expect(empty('<p><ph product="d">a</ph></p>')).toEqual([
      '“Paragraph” has nothing left for these readers. 1.0',
    ]);
    expect(
      empty('<p product="d">x</p><p>y</p><ul><li product="d">a</li><li>b</li></ul><p/>'),
    ).toEqual([]);
  });
  it.each([
    ['<p conref="topic:none/x"/>', 'borrow.missing'],
    ['<p conref="topic:l/none"/>', 'borrow.missing'],
    ['<p id="me" conref="topic:a/me"/>', 'borrow.cycle'],
    ['<ul conref="topic:l/one"/>', 'borrow.mismatch'],
    ['<p conref="topic:c/x"/>', 'borrow.cycle'],
  ])('are refused where they cannot be: %s', (body, code) => {
    const publication = borrow(`${body}<p>stays</p>`, [
      concept('c', '<p id="x"><ph id="y" conref="topic:d/y"/></p>'),
      concept('d', '<p><ph id="y" conref="topic:c/y"/></p>'),
    ]);
    expect(problemCodes(publication)).toEqual([code]);
    expect(bodyText(publication, 'a')).toContain('stays');
  });
});
