import { isElement, walk, type Element } from '../markup/index.ts';
import type { Problem } from '../problems/index.ts';
import { gridOf, mostColumns } from './grid.ts';

/**
 * Whether the cells of all tables of a text have a place.
 * @returns problems `table.*`, each at its cell
 */
export function checkTables(root: Element): Problem[] {
  const problems: Problem[] = [];
  walk(root, (table, path) => {
    if (table.name !== 'table') return undefined;
    table.children.forEach((group, index) => {
      if (!isElement(group) || group.name !== 'tgroup' || isSimple(group)) return;
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

const placing = ['colname', 'namest', 'nameend', 'spanname', 'morerows'];

/** Whether every cell has its place by its order alone, as in most tables: quicker than a grid. */
function isSimple({ attributes, children }: Element): boolean {
  const columns = Number(attributes['cols']);
  if (columns > mostColumns) return false;
  return children.every(
    (section) =>
      !isElement(section) ||
      (section.name !== 'thead' && section.name !== 'tbody') ||
      section.children.every((row) => !isElement(row) || hasSimpleCells(row, columns)),
  );
}

function hasSimpleCells({ children }: Element, columns: number): boolean {
  let count = 0;
  for (const cell of children) {
    if (!isElement(cell)) continue;
    count += 1;
    if (placing.some((name) => cell.attributes[name] !== undefined)) return false;
  }
  return count <= columns;
}
