import { describe, expect, it } from 'vitest';
import { noteKinds } from '../styles/index.ts';
import { wordsFor } from './index.ts';

describe('words of the product', () => {
  it.each(['en', 'de', 'ja', 'ar', 'he'])(
    '%s: are complete, with a place for each number and a name for each type of note',
    (locale) => {
      const words = wordsFor(locale);
      const { notes, ...others } = words;
      expect(Object.keys(others).sort()).toEqual(
        Object.keys({ ...wordsFor('en'), notes: undefined })
          .filter((key) => key !== 'notes')
          .sort(),
      );
      for (const [key, said] of Object.entries(others)) expect(said, key).toMatch(/\S/u);
      for (const key of ['onPage', 'page', 'found', 'clearHits'] as const)
        expect(words[key].split('{n}'), key).toHaveLength(2);
      for (const kind of noteKinds) expect(notes[kind], kind).toMatch(/\S/u);
    },
  );
  it('are those of the language, whatever the region; English where it is not known', () => {
    expect([wordsFor('de-AT').figure, wordsFor('ja-JP').figure, wordsFor('fi').figure]).toEqual([
      'Abbildung',
      '図',
      'Figure',
    ]);
  });
});
