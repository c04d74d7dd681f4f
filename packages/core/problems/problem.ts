export type Severity = 'error' | 'warning' | 'info';

/** Child indexes from the root element of an item down to the node concerned; `[]` is the root. */
export type Path = readonly number[];

/** Where a problem lies: an item of the library, a path in its element tree, a line of its text. */
export interface ProblemPlace {
  readonly item?: string;
  readonly path?: Path;
  readonly attribute?: string;
  /** 1-based, in the text as it was read. */
  readonly line?: number;
  /** 1-based. */
  readonly column?: number;
}

/**
 * A small change of an element tree that puts a problem right. Each names the element that it
 * expects at its path: where another stands there by now, nothing is changed.
 */
export type TreeEdit = { readonly path: Path; readonly element: string } &
  /** The attribute goes. */
  (
    | { readonly kind: 'attribute'; readonly name: string }
    | { readonly kind: 'remove' }
    /** The element goes, its content stays. */
    | { readonly kind: 'unwrap' }
    /** A new, empty element becomes child `index`. */
    | { readonly kind: 'insert'; readonly index: number; readonly name: string }
    /** Words directly in the element give way to others; the case of a first letter is kept. */
    | { readonly kind: 'words'; readonly from: string; readonly to: string }
    /** A facet value gives way to another one, or goes. */
    | {
        readonly kind: 'value';
        readonly facet: string;
        readonly from: string;
        readonly to?: string;
      }
  );

/** What a person can have done about a problem with one click. */
export interface Fix {
  /** What happens, as an order: “Remove the attribute”. */
  readonly label: string;
  readonly edit: TreeEdit;
}

export interface Problem {
  /** Stable and dotted, such as `grammar.not-allowed`; groups and counts go by it. */
  readonly code: string;
  readonly severity: Severity;
  /** One plain sentence that names the thing and what is wrong with it. */
  readonly message: string;
  readonly where: ProblemPlace;
  readonly fix?: Fix;
}

export function problem(
  severity: Severity,
  code: string,
  message: string,
  where: ProblemPlace = {},
): Problem {
  return { code, severity, message, where };
}

/** The problem with what would mend it, where that is known. */
export const withFix = (found: Problem, fix: Fix | undefined): Problem =>
  fix ? { ...found, fix } : found;

const rank: Record<Severity, number> = { error: 0, warning: 1, info: 2 };

/** Errors first, then warnings; the order of finding is kept within each. */
export function bySeverity<Graded extends { readonly severity: Severity }>(
  graded: readonly Graded[],
): Graded[] {
  return graded.toSorted((a, b) => rank[a.severity] - rank[b.severity]);
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
