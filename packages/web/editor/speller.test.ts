import { describe, expect, it } from 'vitest';
import { createSpeller } from './speller.ts';

const dictionary = (...words: string[]) => ({
  aff: 'SET UTF-8\nTRY esianrtolcdugmphbyfvkwz\n',
  dic: `${words.length}\n${words.join('\n')}\n`,
});
const speller = createSpeller();
speller.open([dictionary('color', 'gauge', 'water'), dictionary('colour', 'gauge', 'water')]);

describe('a speller', () => {
  it('knows the words of the first dictionary without opening the next one', () => {
    expect(speller.check(['gauge', 'Water', 'color'])).toEqual([]);
    expect(speller.opened()).toBe(1);
  });
  it('takes words of the team for right before any other dictionary is asked', () => {
    speller.allow(['stillpipe']);
    expect(speller.check(['stillpipe', 'Stillpipe'])).toEqual([]);
    expect(speller.opened()).toBe(1);
  });
  it('asks every dictionary before it calls a word wrong', () => {
    expect(speller.check(['colour', 'guage'])).toEqual(['guage']);
    expect(speller.opened()).toBe(2);
  });
  it('suggests from all of them, and the words of the team', () => {
    expect(speller.suggest('colur')).toEqual(['color', 'colour']);
    expect(speller.suggest('stilpipe')).toEqual(['stillpipe']);
  });
  it('takes words of the team for right in dictionaries that are opened later', () => {
    const later = createSpeller();
    later.allow(['stillpipe']);
    later.open([dictionary('water'), dictionary('gauge')]);
    expect(later.check(['gauge', 'stillpipe', 'watre'])).toEqual(['watre']);
    expect(later.suggest('stilpipe')).toEqual(['stillpipe']);
  });
  it('without a dictionary takes every word for unknown', () => {
    expect(createSpeller().check(['water'])).toEqual(['water']);
  });
});
