/**
 * Characters that no key has.
 * In: what a person calls one, or types; out: the characters with their names and categories, best
 * first.
 */
import { specialCharacters, type SpecialCharacter } from './table.ts';

export { specialCharacters, type SpecialCharacter } from './table.ts';

/**
 * Those whose name or category has all words, or that are the character or its code (`U+2014`,
 * `2014`); recent ones come first.
 */
export function findCharacters(query: string, recent: readonly string[] = []): SpecialCharacter[] {
  const words = query
    .trim()
    .toLowerCase()
    .split(/\s+/u)
    .filter((word) => word !== '');
  const code = /^(?:u\+)?([0-9a-f]{4,5})$/u.exec(words[0] ?? '')?.[1];
  const matches = ({ character, name, category }: SpecialCharacter): boolean =>
    character === query.trim() ||
    (code !== undefined && character.codePointAt(0) === Number.parseInt(code, 16)) ||
    words.every((word) => name.includes(word) || category.toLowerCase().includes(word));
  const rank = ({ character, name }: SpecialCharacter): number => {
    const at = recent.indexOf(character);
    return at !== -1
      ? at - recent.length
      : name === words.join(' ')
        ? 0
        : name.startsWith(words.join(' '))
          ? 1
          : 2;
  };
  return specialCharacters.filter(matches).sort((a, b) => rank(a) - rank(b));
}
