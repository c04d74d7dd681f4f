import type { Attributes } from '@ukiyo/core/markup';
import { directionOf } from './text.ts';

/** The language of a part, and the direction in which it is written. */
export interface PartLanguage {
  readonly lang: string;
  readonly dir: 'ltr' | 'rtl';
}

const directions: Readonly<Record<string, PartLanguage['dir']>> = {
  ltr: 'ltr',
  lro: 'ltr',
  rtl: 'rtl',
  rlo: 'rtl',
};

/**
 * The language that an element says it has (DITA 1.3, 3.10.5, `xml:lang` and `dir`), where it is
 * another than that around it.
 * @param locale around it
 * @returns undefined for most
 */
export function partLanguageOf(attributes: Attributes, locale: string): PartLanguage | undefined {
  const { 'xml:lang': written, dir: direction } = attributes;
  if (written === undefined && direction === undefined) return undefined;
  const lang = written !== undefined && isTag(written) ? written : locale;
  const dir = directions[direction ?? ''] ?? directionOf(lang);
  return lang === locale && dir === directionOf(locale) ? undefined : { lang, dir };
}

/** Whether it is a language tag (BCP 47, as far as its form goes). */
const isTag = (tag: string): boolean => /^[A-Za-z]{2,8}(-[A-Za-z\d]{1,8})*$/u.test(tag);
