import type { Element } from '../markup/index.ts';
import { problem, type Problem } from '../problems/index.ts';
import { linksOf } from './derive.ts';
import { elementOf } from './ids.ts';

/**
 * References of one text that lead nowhere.
 * @param self the id of the text, for references within it
 * @param has whether the library has an item or a file of that id
 * @returns problems `reference.missing`, `reference.missing-part` and `reference.unknown`
 */
export function checkReferences(root: Element, self: string, has: (id: string) => boolean): Problem[] {
  return linksOf(root, self).flatMap(({ path, attribute, target }) => {
    const where = { path, attribute };
    if (target.kind === 'unknown') return [problem('error', 'reference.unknown', `“${target.href}” is no place in the library and no address of the web.`, where)];
    if (target.kind === 'external') return [];
    if (target.kind === 'item' && target.id === self)
      return elementOf(root, target.element) ? [] : [problem('error', 'reference.missing-part', `There is no part “${target.element ?? ''}” in this topic.`, where)];
    return has(target.id) ? [] : [problem('error', 'reference.missing', `“${target.id}” is not in the library.`, where)];
  });
}
