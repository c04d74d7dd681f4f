import { lineOf, type Element } from '@ukiyo/core/markup';
import type { BlockOf, TableCell, TableGrid, TableRow } from '../blocks/index.ts';
import { tag, type Html } from '../html/index.ts';
import { classOf, type Rendering } from './context.ts';

/** A table, with a `table` for each of its grids. @param caption above the first */
export const tableHtml = (
  rendering: Rendering,
  { element, caption, grids }: BlockOf<'table'>,
  captioned: Html | undefined,
): Html =>
  grids.map((grid, index) =>
    tag(
      'section',
      // A wide table scrolls inside its frame; the keyboard must be able to reach that frame.
      {
        class: 'table',
        id: index === 0 ? rendering.idOf(element) : undefined,
        tabindex: 0,
        'aria-label': index === 0 && caption ? lineOf(caption.title) : rendering.words.table,
      },
      gridHtml(rendering, grid, index === 0 ? captioned : undefined),
    ),
  );

function gridHtml(rendering: Rendering, { head, body }: TableGrid, caption?: Html): Html {
  const rows = (part: readonly TableRow[], inHead: boolean): Html =>
    part.map(({ element, cells }) =>
      tag(
        'tr',
        { class: rendering.forWhom(element) },
        cells.map((cell) => cellHtml(rendering, cell, { row: element, inHead })),
      ),
    );
  return tag(
    'table',
    {},
    caption === undefined ? [] : tag('caption', {}, caption),
    head.length === 0 ? [] : tag('thead', {}, rows(head, true)),
    tag('tbody', {}, rows(body, false)),
  );
}

function cellHtml(
  { idOf, forWhom, marked, tight }: Rendering,
  { element, align, valign, heads, columnSpan, rowSpan, blocks }: TableCell,
  { row, inHead }: { readonly row: Element; readonly inHead: boolean },
): Html {
  const scope = inHead ? (columnSpan > 1 ? 'colgroup' : 'col') : heads ? 'row' : undefined;
  return tag(
    scope === undefined ? 'td' : 'th',
    {
      id: idOf(element),
      colspan: columnSpan > 1 ? columnSpan : undefined,
      rowspan: rowSpan > 1 ? rowSpan : undefined,
      scope,
      class: classOf(
        align === 'right' || align === 'center' ? align : undefined,
        valign === 'middle' ? 'middle' : undefined,
        forWhom(element),
      ),
    },
    marked(row, 'div', marked(element, 'div', tight(blocks))),
  );
}
