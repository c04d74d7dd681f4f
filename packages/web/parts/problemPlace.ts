import type { Problem } from '@ukiyo/core/problems';
import type { RouteLocationRaw } from 'vue-router';
import { useLibrary } from './library.ts';

/** The screen on which a problem can be mended, at its place. */
export function useProblemPlace() {
  const library = useLibrary();
  return ({ where: { item = '', path } }: Pick<Problem, 'where'>): RouteLocationRaw => ({
    name: library.find(item)?.kind === 'map' ? 'arrange' : 'write',
    params: { id: item },
    query: path ? { path: path.join('.') } : {},
  });
}
