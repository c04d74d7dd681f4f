import { findAll } from '@ukiyo/core/editing';
import { expose } from 'comlink';

const finder = {
  /** Answers when there is somebody to answer. */
  begin: (): void => undefined,
  find: findAll,
};
export type Finder = typeof finder;
expose(finder);
