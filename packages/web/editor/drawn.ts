import type { Node } from 'prosemirror-model';
import type { Transaction } from 'prosemirror-state';
import { DecorationSet, type Decoration } from 'prosemirror-view';

/** The decorations of one node at a position; must depend on nothing but these. */
export type Draw = (
  node: Node,
  position: number,
  parent: Node | null,
  index: number,
) => Decoration[];

interface Range {
  readonly from: number;
  readonly to: number;
}

/** Where two documents differ, in the second. Nodes that are the same are not looked into. */
export function differenceOf(before: Node, after: Node): Range | undefined {
  const from = before.content.findDiffStart(after.content);
  const end = before.content.findDiffEnd(after.content);
  return from === null || !end ? undefined : { from, to: Math.max(from, end.b) };
}

/** What a transaction touched, in its new document, even if it put the same there again. */
function touchedBy({ mapping, before, doc }: Transaction): Range | undefined {
  const difference = differenceOf(before, doc);
  let from = difference?.from ?? doc.content.size;
  let to = difference?.to ?? 0;
  mapping.maps.forEach((map, index) => {
    const rest = mapping.slice(index + 1);
    map.forEach((_oldStart, _oldEnd, start, end) => {
      from = Math.min(from, rest.map(start, -1));
      to = Math.max(to, rest.map(end, 1));
    });
  });
  return from <= to ? { from, to } : undefined;
}

export function drawAll(document: Node, draw: Draw): DecorationSet {
  const decorations: Decoration[] = [];
  document.descendants((...at) => void decorations.push(...draw(...at)));
  return DecorationSet.create(document, decorations);
}

/** Moves decorations with a change, and draws again only the nodes that the change touched. */
export function redraw(
  decorations: DecorationSet,
  transaction: Transaction,
  draw: Draw,
): DecorationSet {
  const { doc } = transaction;
  const mapped = decorations.map(transaction.mapping, doc);
  const range = touchedBy(transaction);
  if (!range) return mapped;
  const touched: { node: Node; position: number; parent: Node | null; index: number }[] = [];
  doc.nodesBetween(
    Math.max(0, range.from - 1),
    Math.min(doc.content.size, range.to + 1),
    (node, position, parent, index) => void touched.push({ node, position, parent, index }),
  );
  // What belongs to a node lies on the whole of it, just inside its edges, or on its text; what
  // lies deeper belongs to nodes that are not touched.
  const at = (place: number): Decoration[] =>
    mapped.find(place, place).filter(({ from, to }) => from === to);
  const stale = touched.flatMap(({ node, position }) => {
    const end = position + node.nodeSize;
    const on = mapped
      .find(position, end)
      .filter(({ from, to }) =>
        node.isText ? from < to && from < end && to > position : from === position && to === end,
      );
    return node.isLeaf
      ? on
      : [...on, ...at(position + 1), ...(end - 1 > position + 1 ? at(end - 1) : [])];
  });
  return mapped.remove(stale).add(
    doc,
    touched.flatMap(({ node, position, parent, index }) => draw(node, position, parent, index)),
  );
}
