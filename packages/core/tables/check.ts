import { isElement, walk, type Element } from '../markup/index.ts';
import type { Problem } from '../problems/index.ts';
import { gridOf } from './grid.ts';

/**
 * Whether the cells of all tables of a text have a place.
 * @returns problems `table.*`, each at its cell
 */
export function checkTables(root: Element): Problem[] {
  const problems: Problem[] = [];
  walk(root, (table, path) => {
    if (table.name !== 'table') return undefined;
    table.children.forEach((group, index) => {
      if (!isElement(group) || group.name !== 'tgroup') return;
      for (const found of gridOf(group, table).problems)
        problems.push({
          ...found,
          where: { ...found.where, path: [...path, index, ...(found.where.path ?? [])] },
        });
    });
    return undefined;
  });
  return problems;
}
