import type { Problem } from '@ukiyo/core/problems';
import type { RouteLocationRaw } from 'vue-router';
import { useItems } from './items.ts';

/** The screen on which a problem can be fixed, at its place. */
export function useProblemPlace() {
  const items = useItems();
  return ({ where: { item = '', path } }: Pick<Problem, 'where'>): RouteLocationRaw => ({
    name: items.find(item)?.kind === 'map' ? 'arrange' : 'write',
    params: { id: item },
    query: path ? { path: path.join('.') } : {},
  });
}
