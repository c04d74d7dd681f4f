import { childNamed, lineOf, type Element, type Node } from '@ukiyo/core/markup';
import { gridOf, type GridCell, type GridRow } from '@ukiyo/core/tables';
import type { PageContext } from './context.ts';
import { join, tag, type Html } from './html.ts';

/**
 * A table, or one of the groups that a table has.
 * @param titled its title, where this is the first group
 * @param content of a cell
 */
export function tableHtml(
  context: PageContext,
  element: Element,
  source: Element,
  titled: Html | undefined,
  isFirst: boolean,
  content: (nodes: readonly Node[]) => Html,
): Html {
  const { words, idOf, forWhom, marked } = context;
  const cell = (source: GridCell, row: Element, inHead: boolean): Html => {
    const name = source.heads || inHead ? 'th' : 'td';
    const align = source.align === 'right' || source.align === 'center' ? source.align : undefined;
    return tag(
      name,
      {
        id: idOf(source.element),
        colspan: source.columnSpan > 1 ? source.columnSpan : undefined,
        rowspan: source.rowSpan > 1 ? source.rowSpan : undefined,
        scope:
          name === 'td' ? undefined : inHead ? (source.columnSpan > 1 ? 'colgroup' : 'col') : 'row',
        class:
          [align, source.valign === 'middle' ? 'middle' : undefined, forWhom(source.element)]
            .filter(Boolean)
            .join(' ') || undefined,
      },
      marked(row, 'div', marked(source.element, 'div', content(source.element.children))),
    );
  };

  const grid = gridOf(source);
  const row = ({ element: source, cells }: GridRow, inHead: boolean): Html =>
    tag('tr', { class: forWhom(source) }, join(cells.map((one) => cell(one, source, inHead))));
  return tag(
    'section',
    // A wide table scrolls inside its frame; the keyboard must be able to reach that frame.
    {
      class: 'table',
      id: isFirst ? idOf(element) : undefined,
      tabindex: 0,
      'aria-label': titled === undefined ? words.table : lineOf(childNamed(element, 'title')!),
    },
    tag(
      'table',
      {},
      ...(titled === undefined ? [] : [tag('caption', {}, titled)]),
      ...(grid.head.length === 0
        ? []
        : [tag('thead', {}, join(grid.head.map((one) => row(one, true))))]),
      tag('tbody', {}, join(grid.body.map((one) => row(one, false)))),
    ),
  );
}
