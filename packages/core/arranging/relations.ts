import {
  childElements,
  childNamed,
  element,
  isElement,
  lineOf,
  type Element,
} from '../markup/index.ts';

/**
 * A relationship table as a grid. Each topic links to those in the other cells of its row (DITA
 * 1.3, 2.2.3.2).
 */
export interface RelationGrid {
  readonly title: string;
  readonly columns: readonly string[];
  /** For each row and column the references of what stands there. */
  readonly rows: readonly (readonly (readonly string[])[])[];
}

const named = (parent: Element, name: string): Element[] =>
  childElements(parent).filter((child) => child.name === name);
const titleOf = (holder: Element): string => {
  const title = childNamed(holder, 'title');
  return title ? lineOf(title) : '';
};

/** The relationship tables of a map, in its order. */
export function relationsOf(map: Element): RelationGrid[] {
  return named(map, 'reltable').map((table) => {
    const heads = named(table, 'relheader').flatMap((head) => named(head, 'relcolspec'));
    const cells = named(table, 'relrow').map((row) =>
      named(row, 'relcell').map((cell) =>
        childElements(cell).flatMap(({ attributes }) => attributes['href'] ?? []),
      ),
    );
    const width = Math.max(heads.length, ...cells.map((row) => row.length), 2);
    const filled = <Value>(values: readonly Value[], empty: Value): Value[] =>
      Array.from({ length: width }, (_, at) => values[at] ?? empty);
    return {
      title: titleOf(table),
      columns: filled(heads.map(titleOf), ''),
      rows: cells.map((row) => filled(row, [])),
    };
  });
}

const titled = (name: string, title: string, children: readonly Element[] = []): Element =>
  element(name, {}, [...(title === '' ? [] : [element('title', {}, [title])]), ...children]);
const entryOf = (href: string): Element =>
  element('topicref', { href, ...(href.startsWith('map:') ? { format: 'ditamap' } : {}) });

/**
 * The map with its relationship table `index` made to say this; a new one where there is none, and
 * none where it has no rows any more. References that stay keep what is said of them.
 */
export function withRelations(map: Element, index: number, grid: RelationGrid): Element {
  const tables = named(map, 'reltable');
  const before = tables[index];
  const known = new Map(
    (before ? named(before, 'relrow') : []).map((row, at) => [
      at,
      named(row, 'relcell').map(childElements),
    ]),
  );
  const keep = (row: number, column: number, href: string): Element =>
    known.get(row)?.[column]?.find(({ attributes }) => attributes['href'] === href) ??
    entryOf(href);
  const head = grid.columns.some((title) => title !== '')
    ? [
        element(
          'relheader',
          {},
          grid.columns.map((title) => titled('relcolspec', title)),
        ),
      ]
    : [];
  const rows = grid.rows.map((row, at) =>
    element(
      'relrow',
      {},
      row.map((hrefs, column) =>
        element(
          'relcell',
          {},
          hrefs.map((href) => keep(at, column, href)),
        ),
      ),
    ),
  );
  const made =
    rows.length === 0
      ? []
      : [
          {
            ...titled('reltable', grid.title, [...head, ...rows]),
            attributes: before?.attributes ?? {},
          },
        ];
  if (before)
    return {
      ...map,
      children: map.children.flatMap((child) => (child === before ? made : [child])),
    };
  const last = map.children.findLastIndex((child) => isElement(child));
  return { ...map, children: map.children.toSpliced(last + 1, 0, ...made) };
}
