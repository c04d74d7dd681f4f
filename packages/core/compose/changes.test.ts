import fc from 'fast-check';
import { expect, it } from 'vitest';
import { findAll, lineOf } from '../markup/index.ts';
import { composeTexts, concept } from '../testing/library.ts';
import { allPlaces, withChangeBars, type Publication, type ResolvedElement } from './index.ts';

const map =
  '<map id="m"><title>M</title><topicref href="topic:a"/><topicref href="topic:b"/></map>';
const made = (a: string, b = '<p>b</p>', title = 'A'): Publication =>
  composeTexts([map, concept('a', a, title), concept('b', b)], {
    assets: ['i', 'j'].map((id) => ({ id, name: `${id}.svg`, mediaType: 'image/svg+xml' })),
  });
/** What has bars, as `topic element: words`. */
const barred = (publication: Publication): string[] =>
  allPlaces(publication.places).flatMap(({ content }) =>
    content
      ? findAll(content, (element) => (element as ResolvedElement).marked?.bar === true).map(
          (element) =>
            `${content.origin.item} ${element.name}: ` +
            element.children.filter((child) => typeof child === 'string').join(''),
        )
      : [],
  );
const bars = (before: Publication, now: Publication): string[] =>
  barred(withChangeBars(now, before));

it('stand beside the smallest blocks that are new or otherwise, and nowhere else', () => {
  const before = made('<p>one</p><p>two</p><ul><li>x</li><li>y</li></ul>');
  expect(
    bars(before, made('<p>one</p><p>two, changed</p><ul><li>x</li><li>y</li><li>z</li></ul>')),
  ).toEqual(['a p: two, changed', 'a li: z']);
  expect(
    bars(before, made('<p>one</p><p>between</p><p>two</p><ul><li>x</li><li>y</li></ul>')),
  ).toEqual(['a p: between']);
});

it('stand beside titles, cells and images', () => {
  const table = (cell: string): string =>
    '<section><title>s</title><table><tgroup cols="2"><tbody><row><entry>r</entry>' +
    `<entry>${cell}</entry></row></tbody></tgroup></table></section>`;
  expect(bars(made(table('1')), made(table('2'), undefined, 'A new name'))).toEqual([
    'a title: A new name',
    'a entry: 2',
  ]);
  const fig = (href: string): string =>
    `<fig><title>f</title><image href="${href}"><alt>x</alt></image></fig>`;
  expect(bars(made(fig('asset:i')), made(fig('asset:j')))).toHaveLength(1);
});

it('stand beside all of a topic that was not there', () => {
  const before = composeTexts([
    '<map id="m"><title>M</title><topicref href="topic:a"/></map>',
    concept('a', '<p>a</p>', 'A'),
  ]);
  expect(bars(before, made('<p>a</p>', '<p>first</p><p>second</p>'))).toEqual([
    'b title: b',
    'b p: first',
    'b p: second',
  ]);
});

it('do not stand where only ids changed, or where something is gone', () => {
  expect(
    bars(made('<p id="old">one</p><p>two</p>'), made('<p id="new">one</p><p>two</p>')),
  ).toEqual([]);
  expect(bars(made('<p>one</p><p>two</p>'), made('<p>two</p>'))).toEqual([]);
});

it('are a sign where content is gone, before what follows it or after the last', () => {
  const signs = (before: Publication, now: Publication): string[] =>
    allPlaces(withChangeBars(now, before).places).flatMap(({ content }) =>
      content
        ? findAll(content, (element) => (element as ResolvedElement).gone !== undefined).map(
            (element) => `${(element as ResolvedElement).gone} ${lineOf(element)}`,
          )
        : [],
    );
  expect(signs(made('<p>one</p><p>two</p><p>three</p>'), made('<p>one</p><p>three</p>'))).toEqual([
    'before three',
  ]);
  expect(signs(made('<p>one</p><p>two</p>'), made('<p>one</p>'))).toEqual(['after one']);
  expect(signs(made('<p>one</p><p>two</p>'), made('<p>one</p><p>other</p>'))).toEqual([]);
  const without = (map: string): Publication =>
    composeTexts([map, concept('a', '<p>a</p>', 'A'), concept('b', '<p>b</p>')]);
  const whole = made('<p>a</p>');
  expect(
    signs(whole, without('<map id="m"><title>M</title><topicref href="topic:b"/></map>')),
  ).toEqual(['before b']);
  expect(
    signs(whole, without('<map id="m"><title>M</title><topicref href="topic:a"/></map>')),
  ).toEqual(['after a']);
});

it('stand in the glossary too', () => {
  const words = (definition: string): Publication =>
    composeTexts([
      '<bookmap id="m"><booktitle><mainbooktitle>M</mainbooktitle></booktitle>' +
        '<chapter href="topic:a"/><backmatter><booklists><glossarylist/></booklists>' +
        '<topicgroup><glossref href="topic:g" keys="g" print="yes"/></topicgroup>' +
        '</backmatter></bookmap>',
      concept('a', '<p>a</p>'),
      `<glossentry id="g"><glossterm>rail</glossterm><glossdef>${definition}</glossdef>` +
        '</glossentry>',
    ]);
  const [entry] = withChangeBars(words('what one holds'), words('what one held')).glossary;
  expect(
    findAll(entry!.content, (element) => (element as ResolvedElement).marked?.bar === true).map(
      ({ name }) => name,
    ),
  ).toEqual(['glossdef']);
});

it('keep what a lens marks besides', () => {
  const publication = made('<p>one</p>');
  const [place] = publication.places;
  const looks = {
    ...publication,
    places: [
      { ...place!, content: { ...place!.content!, marked: { color: '#112233' } } },
      ...publication.places.slice(1),
    ],
  };
  expect(withChangeBars(looks, made('<p>two</p>')).places[0]!.content!.marked).toEqual({
    color: '#112233',
  });
});

it('count new paragraphs for any texts, and none in the same publication (property)', () => {
  const paragraphs = fc.array(fc.constantFrom('rail', 'ladder', 'line', 'tide', 'rope'), {
    minLength: 1,
    maxLength: 12,
  });
  fc.assert(
    fc.property(paragraphs, paragraphs, (one, other) => {
      const [before, now] = [one, other].map((words) =>
        made(words.map((word) => `<p>${word}</p>`).join('')),
      ) as [Publication, Publication];
      expect(bars(now, now)).toEqual([]);
      const found = bars(before, now).length;
      // What has no bar is a common subsequence of both: it cannot be longer than either.
      expect(other.length - found).toBeLessThanOrEqual(one.length);
      expect(other.filter((word) => !one.includes(word)).length).toBeLessThanOrEqual(found);
    }),
    { numRuns: 60 },
  );
});
