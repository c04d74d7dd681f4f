import type { Element } from '../markup/index.ts';
import { problem, type Problem } from '../problems/index.ts';
import { titleOf } from './derive.ts';
import { ownFacts } from './topic-facts.ts';

/** A fact that says whether a topic may go out. */
export interface ReadyFact {
  readonly name: string;
  readonly label: string;
  /** With one of these values it may; with any or none, where there are none. */
  readonly ready: readonly string[];
}

/** @returns problems `fact.not-ready`, one for each fact with which a topic may not go out */
export function checkReadiness(root: Element, facts: readonly ReadyFact[]): Problem[] {
  // Reading what a topic says of itself takes time in a manual of thousands.
  if (facts.every(({ ready }) => ready.length === 0)) return [];
  const own = ownFacts(root);
  return facts.flatMap(({ name, label, ready }) => {
    const value = own[name];
    if (ready.length === 0 || (value !== undefined && ready.includes(value))) return [];
    const said =
      value === undefined ? `does not say its ${label}` : `has “${value}” for its ${label}`;
    const wanted = ready.map((one) => `“${one}”`).join(' or ');
    return [
      problem(
        'warning',
        'fact.not-ready',
        `“${titleOf(root)}” ${said}: it goes out with ${wanted}.`,
        { path: [] },
      ),
    ];
  });
}

/**
 * The language of a tag of BCP 47, without what else it says; undefined where it says none that has
 * a name.
 */
const languageOf = (tag: string | undefined): string | undefined =>
  /^[a-z]{2,3}(?=-|$)/iu.exec(tag ?? '')?.[0].toLowerCase();
const names = new Intl.DisplayNames('en', { type: 'language' });

/**
 * @param source the language of topics that do not say theirs
 * @returns a problem `locale.untranslated` where a topic is written in another language
 */
export function checkLanguage(root: Element, locale: string, source?: string): Problem[] {
  const own = languageOf(root.attributes['xml:lang'] ?? source);
  const wanted = languageOf(locale);
  if (own === undefined || wanted === undefined || own === wanted) return [];
  return [
    problem(
      'warning',
      'locale.untranslated',
      `“${titleOf(root)}” is written in ${names.of(own)}, not in ${names.of(wanted)}.`,
      { path: [] },
    ),
  ];
}
