import { RE2JS } from 're2js';
import { isA, isInline, labelOf, placeFor } from '../grammar/index.ts';
import { wordsOf } from '../language/index.ts';
import { childElements, findAll, isElement, lineOf, type Element } from '../markup/index.ts';
import {
  bySeverity,
  problem,
  withFix,
  type Fix,
  type Path,
  type Problem,
} from '../problems/index.ts';
import { countedWords, ruleSentence, type HouseRule } from './house-rule.ts';
import { wordingIn } from './wording.ts';

/** An element where the walk stands. What several rules ask of it is worked out once. */
interface Visited {
  readonly found: Element;
  readonly path: Path;
  /** The elements around it, from the root inward. */
  readonly inside: readonly Element[];
  /** Whether wordings are looked for in its text. */
  readonly isProse: boolean;
  /** Its text in one line. */
  readonly line: () => string;
  /** Its own pieces of text, without what is in other elements, each with its letters folded. */
  readonly pieces: () => readonly { readonly text: string; readonly folded: string }[];
}
type Check = (visited: Visited) => { message: string; fix?: Fix } | undefined;

/** Text that is not prose: wordings are not looked for in it. */
const notProse = new Set([
  'codeblock',
  'codeph',
  'pre',
  'screen',
  'msgblock',
  'prolog',
  'data',
  'foreign',
  'indexterm',
  'draft-comment',
  'userinput',
  'systemoutput',
  'filepath',
]);

/**
 * The most problems that are listed of one text. More are of no use, and a text in which every
 * element breaks every rule would have millions.
 */
export const mostHouseProblems = 1000;

/**
 * Checks a tree against the team's own rules.
 * @returns problems `house.ID` in the order of the text, each with the path of its element, and a
 * fix where the rule can have one; a rule that cannot be understood finds nothing. Where there are
 * more than `mostHouseProblems`, the last one is `house-rules.more`.
 */
export function checkHouseRules(root: Element, rules: readonly HouseRule[]): Problem[] {
  if (rules.length === 0) return [];
  const checks = rules.map((rule) => ({ rule, check: checkOf(rule) }));
  const problems: Problem[] = [];
  const inside: Element[] = [];
  const visit = (found: Element, path: Path, isAroundProse: boolean): void => {
    if (problems.length > mostHouseProblems) return;
    const isProse = isAroundProse && !notProse.has(found.name);
    const visited = visitedAt(found, path, inside, isProse);
    for (const { rule, check } of checks) {
      const told = check(visited);
      if (!told) continue;
      const message = rule.reason === '' ? told.message : `${told.message} ${rule.reason}`;
      const where = { path: [...path] };
      problems.push(withFix(problem(rule.severity, `house.${rule.id}`, message, where), told.fix));
      if (problems.length > mostHouseProblems) return;
    }
    inside.push(found);
    found.children.forEach((child, index) => {
      if (isElement(child)) visit(child, [...path, index], isProse);
    });
    inside.pop();
  };
  visit(root, [], true);
  if (problems.length <= mostHouseProblems) return problems;
  // A problem that is not listed may have the highest severity of all rules.
  const [{ severity }] = bySeverity(rules) as [HouseRule];
  const most = mostHouseProblems.toLocaleString('en');
  const rest = problem(
    severity,
    'house-rules.more',
    `This text breaks house rules in more than ${most} places. The first ${most} are listed.`,
    { path: [] },
  );
  return [...problems.slice(0, mostHouseProblems), rest];
}

function visitedAt(
  found: Element,
  path: Path,
  inside: readonly Element[],
  isProse: boolean,
): Visited {
  let line: string | undefined;
  let pieces: ReturnType<Visited['pieces']> | undefined;
  return {
    found,
    path,
    inside,
    isProse,
    line: () => (line ??= lineOf(found)),
    pieces: () =>
      (pieces ??= found.children.flatMap((child) =>
        typeof child === 'string' ? [{ text: child, folded: folded(child) }] : [],
      )),
  };
}

/**
 * Letters that expressions with the flags `iu` take for the same are the same (ECMA-262,
 * 22.2.2.7.3).
 */
const folded = (text: string): string =>
  text.toLowerCase().replace(/[ſς]/gu, (letter) => (letter === 'ſ' ? 's' : 'σ'));

function checkOf(rule: HouseRule): Check {
  const sentence = ruleSentence(rule);
  switch (rule.kind) {
    case 'forbid':
      return ({ found, path, inside }) =>
        isA(found.name, rule.element) &&
        (rule.within === '' || inside.some(({ name }) => isA(name, rule.within)))
          ? { message: sentence, ...fixOfForbidden(found, path) }
          : undefined;
    case 'require':
      return ({ found, path }) => {
        if (
          !isA(found.name, rule.element) ||
          findAll(found, (one) => one !== found && isA(one.name, rule.part)).length > 0
        )
          return undefined;
        const index = placeFor(found, rule.part);
        const fix: Fix | undefined =
          index === undefined
            ? undefined
            : {
                label: `Add “${labelOf(rule.part)}”`,
                edit: { kind: 'insert', path, element: found.name, index, name: rule.part },
              };
        return { message: sentence, ...(fix ? { fix } : {}) };
      };
    case 'limit':
      return ({ found, line }) => {
        if (!isA(found.name, rule.element)) return undefined;
        const count =
          rule.part === countedWords
            ? wordsOf(line()).length
            : childElements(found).filter(({ name }) => isA(name, rule.part)).length;
        return count > rule.most ? { message: `${sentence} Here are ${count}.` } : undefined;
      };
    case 'pattern': {
      const pattern = patternFrom(rule.pattern);
      return ({ found, line }) =>
        pattern && isA(found.name, rule.element) && line() !== '' && !pattern.matcher(line()).find()
          ? { message: `${sentence} Here it is “${line().slice(0, 60)}”.` }
          : undefined;
    }
    case 'phrase': {
      const wording = wordingIn(rule.phrase);
      // Most texts have not even its first word, which is seen far sooner than the whole.
      const first = folded(rule.phrase.trim().split(/\s+/u)[0] ?? '');
      return ({ found, path, isProse, pieces }) => {
        const isSaid =
          isProse &&
          pieces().some(
            (piece) => piece.folded.includes(first) && piece.text.search(wording) !== -1,
          );
        if (!isSaid) return undefined;
        return {
          message: sentence,
          ...(rule.instead === ''
            ? {}
            : {
                fix: {
                  label: `Write “${rule.instead}”`,
                  edit: {
                    kind: 'words' as const,
                    path,
                    element: found.name,
                    from: rule.phrase,
                    to: rule.instead,
                  },
                },
              }),
        };
      };
    }
  }
}

/**
 * An empty element goes; a phrase leaves its words behind; what holds more is for people to decide.
 */
function fixOfForbidden(found: Element, path: Path): { fix?: Fix } {
  if (found.children.length === 0)
    return {
      fix: {
        label: `Remove the empty “${labelOf(found.name)}”`,
        edit: { kind: 'remove', path, element: found.name },
      },
    };
  return isInline(found.name)
    ? {
        fix: {
          label: `Keep the words without “${labelOf(found.name)}”`,
          edit: { kind: 'unwrap', path, element: found.name },
        },
      }
    : {};
}

/** The pattern; undefined when it is none. It is matched in linear time, whatever it says. */
export function patternFrom(source: string): RE2JS | undefined {
  try {
    return RE2JS.compile(source);
  } catch {
    return undefined;
  }
}
