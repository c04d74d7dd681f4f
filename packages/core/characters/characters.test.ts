import { describe, expect, it } from 'vitest';
import { findCharacters, specialCharacters } from './index.ts';

describe('special characters', () => {
  it('stand in the table once each, one character long, with a name', () => {
    expect(new Set(specialCharacters.map(({ character }) => character)).size).toBe(
      specialCharacters.length,
    );
    for (const { character, name } of specialCharacters) {
      expect(Array.from(character)).toHaveLength(1);
      expect(name).toMatch(/^[a-z0-9 -]{3,}$/u);
    }
  });
  it.each([
    ['em dash', '—'],
    ['degree', '°'],
    ['u+2060', '\u2060'],
    ['greek omega small', 'ω'],
    ['≥', '≥'],
    ['arrows right', '→'],
  ])('“%s” finds %s first', (query, character) =>
    expect(findCharacters(query)[0]!.character).toBe(character),
  );
  it('has those that were used last at the top', () => {
    expect(
      findCharacters('', ['°', '→'])
        .slice(0, 2)
        .map(({ character }) => character),
    ).toEqual(['°', '→']);
    expect(findCharacters('no such thing')).toEqual([]);
  });
});
