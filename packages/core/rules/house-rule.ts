import { isA, labelOf } from '../grammar/index.ts';
import type { Severity } from '../problems/index.ts';

interface Common {
  /** Stable; the code of its problems is `house.` and this. */
  readonly id: string;
  readonly severity: Severity;
  /** Why the team wants it so; shown beside the problem. */
  readonly reason: string;
}

/**
 * One of the team's own constraints on top of the content model. Elements are names of the grammar
 * and mean their specialisations too.
 */
export type HouseRule = Common &
  (
    | {
        readonly kind: 'forbid';
        readonly element: string;
        /** Anywhere inside this one; `''` is everywhere. */ readonly within: string;
      }
    | {
        readonly kind: 'require';
        readonly element: string;
        /** What it must have inside, at any depth. */ readonly part: string;
      }
    | {
        readonly kind: 'limit';
        readonly element: string;
        /** What is counted, of the children alone; `words` counts words. */ readonly part: string;
        readonly most: number;
      }
    | {
        readonly kind: 'pattern';
        readonly element: string;
        /** A regular expression that the text must match, in RE2 syntax, which cannot run on. */
        readonly pattern: string;
      }
    | {
        readonly kind: 'phrase';
        readonly phrase: string;
        /** What to write instead; `''` leaves it to the writer. */ readonly instead: string;
      }
  );

/** What `limit` counts instead of an element. */
export const countedWords = 'words';

const named = (element: string): string => `“${labelOf(element)}”`;

/** The rule as one plain sentence: what a person reads in the list of rules and in a problem. */
export function ruleSentence(rule: HouseRule): string {
  switch (rule.kind) {
    case 'forbid':
      return rule.within === ''
        ? `No ${named(rule.element)}.`
        : `No ${named(rule.element)} in ${named(rule.within)}.`;
    case 'require':
      return `${named(rule.element)} needs ${named(rule.part)}.`;
    case 'limit':
      return (
        `${named(rule.element)} has at most ${rule.most} ` +
        `${rule.part === countedWords ? 'words' : `of ${named(rule.part)}`}.`
      );
    case 'pattern':
      return `The text of ${named(rule.element)} matches ${rule.pattern}.`;
    case 'phrase':
      return rule.instead === ''
        ? `Do not write “${rule.phrase}”.`
        : `Write “${rule.instead}”, not “${rule.phrase}”.`;
  }
}

/**
 * Whether the rules let a new element stand in a place.
 * @param inside the elements around the place, from the topic inward
 * @param siblings the elements beside which it would stand
 */
export function permits(
  rules: readonly HouseRule[],
  element: string,
  inside: readonly string[],
  siblings: readonly string[],
): boolean {
  const parent = inside.at(-1) ?? '';
  return rules.every((rule) => {
    if (rule.kind === 'forbid')
      return (
        !isA(element, rule.element) ||
        (rule.within !== '' && !inside.some((name) => isA(name, rule.within)))
      );
    if (rule.kind === 'limit')
      return (
        !isA(element, rule.part) ||
        !isA(parent, rule.element) ||
        siblings.filter((name) => isA(name, rule.part)).length < rule.most
      );
    return true;
  });
}
