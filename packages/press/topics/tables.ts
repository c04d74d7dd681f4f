import type { ResolvedElement } from '@ukiyo/core/compose';
import { lineOf, type Element } from '@ukiyo/core/markup';
import { framedEdges, sideOf } from '../blocks/index.ts';
import type { BlockOf, TableCell, TableGrid, TableRow } from '../blocks/index.ts';
import { tag, type Html } from '../html/index.ts';
import { millimetres } from '../shared/index.ts';
import { classOf, ownOf, type Rendering } from './context.ts';

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
      gridHtml(rendering, { grid, element }, index === 0 ? captioned : undefined),
    ),
  );

function gridHtml(
  rendering: Rendering,
  { grid, element: table }: { readonly grid: TableGrid; readonly element: Element },
  caption?: Html,
): Html {
  const { columns, head, body } = grid;
  const anchors = anchorsById([...head, ...body]);
  const rows = (part: readonly TableRow[], inHead: boolean): Html =>
    part.map((row) =>
      tag(
        'tr',
        rowAttributes(rendering, row.element),
        withGaps(row, (cell) => cellHtml(rendering, cell, { row: row.element, inHead, anchors })),
      ),
    );
  return tag(
    'table',
    { class: frameClass(table.attributes['frame']) },
    caption === undefined ? [] : tag('caption', {}, caption),
    columnsHtml(columns),
    head.length === 0 ? [] : tag('thead', {}, rows(head, true)),
    tag('tbody', {}, rows(body, false)),
  );
}

function rowAttributes({ forWhom, locale }: Rendering, row: Element) {
  const { classes, others } = ownOf(row.attributes, locale);
  return { class: classOf(...classes, forWhom(row)), ...others };
}

/** The cells of a row, with an empty one in each column that no cell covers. */
function withGaps({ cells, gaps }: TableRow, make: (cell: TableCell) => Html): Html {
  const shown: { readonly column: number; readonly made: Html }[] = [
    ...cells.map((cell) => ({ column: cell.column, made: make(cell) })),
    ...gaps.map((column) => ({ column, made: tag('td', {}) })),
  ];
  return gaps.length === 0
    ? shown.map(({ made }) => made)
    : shown.sort((a, b) => a.column - b.column).map(({ made }) => made);
}

function frameClass(frame: string | undefined): string | undefined {
  const edges = framedEdges(frame);
  return (
    edges &&
    classOf(
      'framed',
      edges.top ? 'frame-top' : undefined,
      edges.bottom ? 'frame-bottom' : undefined,
      edges.sides ? 'frame-sides' : undefined,
    )
  );
}

/** Columns as wide as they are written: shares of the whole where all are shares, else lengths. */
function columnsHtml(columns: TableGrid['columns']): Html {
  if (columns.every(({ width }) => width === undefined)) return [];
  const shares = columns.map(({ width }) => {
    const share = /^(\d*(?:\.\d+)?)\*/u.exec(width ?? '')?.[1];
    return share === undefined ? undefined : Number(share || 1);
  });
  const total = shares.reduce<number>((sum, share) => sum + (share ?? 0), 0);
  const widths = columns.map(({ width }, at) => {
    const share = shares[at];
    if (share !== undefined && shares.every((one) => one !== undefined))
      return `${Math.round((share / total) * 1000) / 10}%`;
    const length = millimetres(width);
    return length === undefined ? undefined : `${length}mm`;
  });
  return tag(
    'colgroup',
    {},
    widths.map((width) => tag('col', { style: width && `width: ${width}` })),
  );
}

/** The anchors of cells with an id, by which cells name those that head them. */
const anchorsById = (rows: readonly TableRow[]): ReadonlyMap<string, string> =>
  new Map(
    rows
      .flatMap(({ cells }) => cells)
      .flatMap(({ element }) => {
        const { anchor, attributes } = element as ResolvedElement;
        const { id } = attributes;
        return id === undefined || anchor === undefined ? [] : [[id, anchor] as const];
      }),
  );

const sides: ReadonlySet<string> = new Set(['left', 'right', 'center', 'justify']);
const heights: ReadonlySet<string> = new Set(['top', 'middle', 'bottom']);

interface CellPlace {
  readonly row: Element;
  readonly inHead: boolean;
  readonly anchors: ReadonlyMap<string, string>;
}

function cellHtml(
  rendering: Rendering,
  cell: TableCell,
  { row, inHead, anchors }: CellPlace,
): Html {
  const { idOf, forWhom, marked, tight } = rendering;
  const { element, valign, columnSpan, rowSpan, edges, blocks } = cell;
  const { classes, others } = ownOf(element.attributes, rendering.locale);
  const scope = scopeOf(cell, inHead);
  const side = sideOf(cell);
  const headers = (element.attributes['headers'] ?? '')
    .split(/\s+/u)
    .flatMap((id) => anchors.get(id) ?? []);
  return tag(
    scope === undefined ? 'td' : 'th',
    {
      id: idOf(element),
      colspan: columnSpan > 1 ? columnSpan : undefined,
      rowspan: rowSpan > 1 ? rowSpan : undefined,
      scope,
      headers: headers.join(' ') || undefined,
      class: classOf(
        side !== undefined && sides.has(side) ? side : undefined,
        valign !== undefined && heights.has(valign) ? valign : undefined,
        ruleClass('above', edges.above),
        ruleClass('before', edges.before),
        ...classes,
        forWhom(element),
      ),
      ...others,
    },
    marked(row, 'div', marked(element, 'div', tight(blocks))),
  );
}

/** What a cell heads: as it says itself, else all below it or beside it. */
function scopeOf(
  { element, heads, columnSpan, rowSpan }: TableCell,
  inHead: boolean,
): string | undefined {
  const own = element.attributes['scope'];
  if (own !== undefined && /^(row|col)(group)?$/u.test(own)) return own;
  if (inHead) return columnSpan > 1 ? 'colgroup' : 'col';
  return heads ? (rowSpan > 1 ? 'rowgroup' : 'row') : undefined;
}

const ruleClass = (edge: string, isRuled: boolean | undefined): string | undefined =>
  isRuled === undefined ? undefined : `${isRuled ? 'rule' : 'no-rule'}-${edge}`;
