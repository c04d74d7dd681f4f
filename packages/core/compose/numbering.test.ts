import { describe, expect, it } from 'vitest';
import { usualNumbering, type Numbering } from '../styles/index.ts';
import { composeTexts, concept } from '../testing/library.ts';
import { allPlaces } from './index.ts';

const fig = (id: string): string => `<fig id="${id}"><title>${id}</title><p>x</p></fig>`;
const book = [
  '<bookmap id="m"><booktitle><mainbooktitle>M</mainbooktitle></booktitle><part href="topic:p"><chapter href="topic:a"><topicref href="topic:a1"><topicref href="topic:a2"/></topicref></chapter></part><part href="topic:q"><chapter href="topic:b"/></part><appendix href="topic:x"/></bookmap>',
  concept('p', '<p>p</p>'),
  concept('q', '<p>q</p>'),
  concept('a', fig('f1')),
  concept('a1', fig('f2')),
  concept('a2', '<p>x</p>'),
  concept('b', `${fig('f3')}<p><xref href="topic:a/f1"/></p>`),
  concept('x', fig('f4')),
];
function numbers(change: Partial<Numbering>): { places: string[]; figures: string[]; link: string | undefined } {
  const publication = composeTexts(book, { numbering: { ...usualNumbering, ...change } });
  const [link] = Object.values(publication.links);
  return { places: allPlaces(publication.places).map(({ number }) => number ?? ''), figures: publication.figures.map(({ number }) => number), link: link?.kind === 'target' ? link.text : undefined };
}

describe('numbering', () => {
  it('is usual where nothing else is said', () => {
    expect(numbers({})).toEqual({ places: ['I', '1', '1.1', '1.1.1', 'II', '2', 'A'], figures: ['1-1', '1-2', '2-1', 'A-1'], link: 'Figure 1-1' });
  });
  it('has the forms, signs and depth that are asked for, in links too', () => {
    const made = numbers({ parts: 'A', chapters: 'i', sections: 'a', appendices: '01', depth: 2, sign: '-', captionForm: 'A', captionSign: '.' });
    expect(made).toEqual({ places: ['A', 'i', 'i-a', '', 'B', 'ii', '01'], figures: ['i.A', 'i.B', 'ii.A', '01.A'], link: 'Figure i.A' });
  });
  it('begins again in each part, or goes on throughout the book', () => {
    expect(numbers({ chaptersByPart: true }).places).toEqual(['I', '1', '1.1', '1.1.1', 'II', '1', 'A']);
    expect(numbers({ captions: 'throughout' }).figures).toEqual(['1', '2', '3', '4']);
  });
  it('can be left away: links then name titles', () => {
    expect(numbers({ chapters: 'none', captionForm: 'none' })).toEqual({ places: ['I', '', '', '', 'II', '', 'A'], figures: ['', '', '', ''], link: 'f1' });
    expect(numbers({ depth: 0 }).places).toEqual(['I', '', '', '', 'II', '', 'A']);
  });
});
