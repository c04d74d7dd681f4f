import { literally } from '../language/index.ts';

/** A wording as whole words, whatever their capitals and the white space between. */
export function wordingIn(phrase: string): RegExp {
  const words = phrase.trim().split(/\s+/u).map(literally);
  return new RegExp(`(?<![\\p{L}\\p{N}])${words.join('\\s+')}(?![\\p{L}\\p{N}])`, 'giu');
}
