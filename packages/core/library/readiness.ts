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
  const own = ownFacts(root);
  return facts.flatMap(({ name, label, ready }) => {
    const value = own[name];
    if (ready.length === 0 || (value !== undefined && ready.includes(value))) return [];
    const wanted = ready.map((one) => `“${one}”`).join(' or ');
    return [
      problem('warning', 'fact.not-ready', `“${titleOf(root)}” ${value === undefined ? `does not say its ${label}` : `has “${value}” for its ${label}`}: it goes out with ${wanted}.`, { path: [] }),
    ];
  });
}
