/**
 * What every check in the system reports, and nothing else.
 * In: nothing; out: the `Problem` type and small helpers to make, order and count problems.
 * One panel, one log and one report show them.
 */
export * from './problem.ts';
export {
  blockingOf,
  kindLabel,
  kindOf,
  problemKey,
  problemKinds,
  usualStops,
  type ProblemKind,
} from './kinds.ts';
