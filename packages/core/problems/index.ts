/**
 * What every check in the system reports, and nothing else.
 * In: nothing; out: the `Problem` type and small helpers to make, order and count problems.
 * One panel, one log and one report show them.
 */
export type Severity = 'error' | 'warning' | 'info';

/** Child indexes from the root element of an item down to the node concerned; `[]` is the root. */
export type Path = readonly number[];

/** Where a problem lies: an item of the library, a path in its element tree, a line of its text. */
export interface Place {
  readonly item?: string;
  readonly path?: Path;
  readonly attribute?: string;
  /** 1-based, in the text as it was read. */
  readonly line?: number;
  /** 1-based. */
  readonly column?: number;
}

export interface Problem {
  /** Stable and dotted, such as `grammar.not-allowed`; groups and counts go by it. */
  readonly code: string;
  readonly severity: Severity;
  /** One plain sentence that names the thing and what is wrong with it. */
  readonly message: string;
  readonly where: Place;
}

export function problem(severity: Severity, code: string, message: string, where: Place = {}): Problem {
  return { code, severity, message, where };
}

const rank: Record<Severity, number> = { error: 0, warning: 1, info: 2 };

/** Errors first, then warnings; the order of finding is kept within each. */
export function bySeverity(problems: readonly Problem[]): Problem[] {
  return problems.toSorted((a, b) => rank[a.severity] - rank[b.severity]);
}

export type ProblemCounts = Record<Severity, number>;

export function countProblems(problems: readonly Problem[]): ProblemCounts {
  const counts: ProblemCounts = { error: 0, warning: 0, info: 0 };
  for (const { severity } of problems) counts[severity] += 1;
  return counts;
}

/** The same problem at another item: used when a check of one tree knows only paths. */
export function atItem(item: string, problems: readonly Problem[]): Problem[] {
  return problems.map((found) => ({ ...found, where: { ...found.where, item } }));
}
