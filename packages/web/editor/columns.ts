import { gridOfNode, hasColumns, measuresOf, setColumnWidths } from '@ukiyo/core/editing';
import type { Node } from 'prosemirror-model';
import { Plugin, PluginKey } from 'prosemirror-state';
import { Decoration, DecorationSet, type EditorView } from 'prosemirror-view';
import { differenceOf } from './drawn.ts';

const key = new PluginKey<DecorationSet>('columns');
const millimetre = 96 / 25.4;
/** How near to an edge a hand has to be, and how narrow a column may be pulled, in pixels. */
const reach = 5;
const narrowest = 24;

/**
 * Widths of one table's columns, on its specifications, or on the cells of the first row where it
 * has none.
 */
function draw(table: Node, position: number): Decoration[] {
  const measures = measuresOf(table);
  if (!measures) return [];
  const shares = measures.reduce((sum, { unit, amount }) => sum + (unit === '*' ? amount : 0), 0);
  const styles = measures.map(
    ({ unit, amount }) => `width: ${unit === '*' ? `${(amount / shares) * 100}%` : `${amount}mm`}`,
  );
  const isSimple = table.type.spec.element === 'simpletable';
  const holder = isSimple ? table.firstChild : table;
  const start = isSimple ? position + 2 : position + 1;
  const sized: Decoration[] = [
    Decoration.node(position, position + table.nodeSize, { class: 'sized' }),
  ];
  holder?.forEach((child, offset, index) => {
    if (styles[index] !== undefined && (isSimple || child.isAtom))
      sized.push(
        Decoration.node(start + offset, start + offset + child.nodeSize, { style: styles[index] }),
      );
  });
  return sized;
}

function drawWithin(
  document: Node,
  from: number,
  to: number,
): { tables: { position: number; end: number }[]; decorations: Decoration[] } {
  const tables: { position: number; end: number }[] = [];
  const decorations: Decoration[] = [];
  document.nodesBetween(from, to, (node, position) => {
    if (!hasColumns(node)) return !node.isTextblock;
    tables.push({ position, end: position + node.nodeSize });
    decorations.push(...draw(node, position));
    return false;
  });
  return { tables, decorations };
}

interface Edge {
  readonly position: number;
  readonly table: HTMLElement;
  /** Where the columns begin, and where the last one ends, in pixels of the window. */
  readonly edges: number[];
  /** Which of them is near. */
  readonly index: number;
}

/** The edge between two columns near a point. */
function edgeAt(
  view: EditorView,
  { target, clientX }: PointerEvent | MouseEvent,
): Edge | undefined {
  const cell = target instanceof HTMLElement ? target.closest('td') : null;
  const table = cell?.closest('table');
  if (!cell || !table) return undefined;
  const box = cell.getBoundingClientRect();
  if (Math.min(Math.abs(box.right - clientX), Math.abs(box.left - clientX)) > reach)
    return undefined;
  const inside = view.posAtDOM(table, 0);
  const $inside = view.state.doc.resolve(inside);
  if (!hasColumns($inside.parent)) return undefined;
  const grid = gridOfNode($inside.parent);
  const cells = [...table.querySelectorAll<HTMLElement>('td')].filter(
    (one) => one.closest('table') === table,
  );
  const edges: number[] = [];
  [...grid.head, ...grid.body]
    .flatMap((row) => row.cells)
    .forEach(({ column, columnSpan }, at) => {
      const { left, right } = cells[at]?.getBoundingClientRect() ?? box;
      edges[column] = left;
      edges[column + columnSpan] = right;
    });
  const index = edges.findIndex(
    (edge, at) => at > 0 && at < grid.columns.length && Math.abs(edge - clientX) <= reach,
  );
  return index === -1 ||
    edges.length !== grid.columns.length + 1 ||
    edges.includes(undefined as never)
    ? undefined
    : { position: $inside.before(), table, edges, index };
}

function pull(view: EditorView, { position, table, edges, index }: Edge, down: PointerEvent): void {
  const line = document.createElement('div');
  line.className = 'column-edge';
  const { top, height } = table.getBoundingClientRect();
  Object.assign(line.style, { top: `${top}px`, height: `${height}px` });
  document.body.append(line);
  const bounded = (x: number): number =>
    Math.min(edges[index + 1]! - narrowest, Math.max(edges[index - 1]! + narrowest, x));
  const show = (x: number): void => void (line.style.left = `${bounded(x)}px`);
  show(down.clientX);
  const onMove = (event: PointerEvent): void => show(event.clientX);
  const end = (event: PointerEvent): void => {
    window.removeEventListener('pointermove', onMove);
    line.remove();
    const node = view.state.doc.nodeAt(position);
    if (event.type === 'pointercancel' || !node || !hasColumns(node)) return;
    const moved = edges.with(index, bounded(event.clientX));
    view.dispatch(
      setColumnWidths(
        view.state,
        position,
        moved.slice(1).map((edge, at) => (edge - moved[at]!) / millimetre),
      ),
    );
  };
  window.addEventListener('pointermove', onMove);
  window.addEventListener('pointerup', end, { once: true });
  window.addEventListener('pointercancel', end, { once: true });
}

/**
 * Shows columns as wide as they are said to be, and lets a hand pull their edges; the palette has
 * the same for keys.
 */
export function columns(): Plugin<DecorationSet> {
  return new Plugin<DecorationSet>({
    key,
    state: {
      init: (_config, { doc }) =>
        DecorationSet.create(doc, drawWithin(doc, 0, doc.content.size).decorations),
      apply(transaction, before) {
        if (!transaction.docChanged) return before;
        const mapped = before.map(transaction.mapping, transaction.doc);
        const range = differenceOf(transaction.before, transaction.doc);
        if (!range) return mapped;
        const { tables, decorations } = drawWithin(
          transaction.doc,
          Math.max(0, range.from - 1),
          Math.min(transaction.doc.content.size, range.to + 1),
        );
        if (tables.length === 0) return mapped;
        return mapped
          .remove(tables.flatMap(({ position, end }) => mapped.find(position, end)))
          .add(transaction.doc, decorations);
      },
    },
    props: {
      decorations: (state) => key.getState(state),
      handleDOMEvents: {
        mousemove(view, event) {
          if (view.editable && event.buttons === 0)
            view.dom.classList.toggle('at-edge', edgeAt(view, event) !== undefined);
          return false;
        },
        pointerdown(view, event) {
          const edge = view.editable && event.button === 0 ? edgeAt(view, event) : undefined;
          if (!edge) return false;
          event.preventDefault();
          pull(view, edge, event);
          return true;
        },
        // The caret stays where it is.
        mousedown: (view, event) => view.editable && edgeAt(view, event) !== undefined,
      },
    },
  });
}
