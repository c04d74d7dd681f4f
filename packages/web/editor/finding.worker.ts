import { findMatches } from '@ukiyo/core/editing';
import { expose } from 'comlink';

const finder = {
  /** Answers as soon as the worker has loaded. */
  begin: (): void => undefined,
  find: findMatches,
};
export type Finder = typeof finder;
expose(finder);
