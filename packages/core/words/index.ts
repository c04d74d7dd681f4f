/**
 * The fixed phrases that the product itself puts into publications, by language.
 * In: a locale; out: the words for it, English where the language is not known.
 */
import { ar } from './ar.ts';
import { de } from './de.ts';
import { en } from './en.ts';
import { he } from './he.ts';
import { ja } from './ja.ts';
import type { Words } from './words.ts';

export type { Words } from './words.ts';

const byLanguage: Readonly<Record<string, Words>> = { en, de, ja, ar, he };

export function wordsFor(locale: string): Words {
  return byLanguage[new Intl.Locale(locale).language] ?? en;
}
