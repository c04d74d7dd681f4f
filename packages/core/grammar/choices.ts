import { isElement, type Element, type Node } from '../markup/index.ts';
import type { State } from './automaton.ts';
import { textSymbol } from './content.ts';
import { contentKindOf, definitionOf, isInline, mayContain, startOf } from './table.ts';

const symbolOf = (node: Node): string | undefined => (typeof node === 'string' ? textSymbol : isElement(node) ? node.name : undefined);

function run(state: State | undefined, nodes: readonly Node[]): State | undefined {
  let at = state;
  for (const node of nodes) {
    const symbol = symbolOf(node);
    if (at && symbol !== undefined) at = at.next(symbol);
  }
  return at;
}

/** Whether names can stand in this order in an element, as far as they go: something may still be missing. */
export function follows(parent: string, symbols: readonly string[]): boolean {
  return symbols.reduce<State | undefined>((state, symbol) => state?.next(symbol), startOf(parent)) !== undefined;
}

/**
 * The elements that can be put before child `index` of `parent` without making its content worse, in the order of the content model.
 * Where the content before the place is already not valid, whatever the parent may contain at all is offered.
 */
export function insertable(parent: Element, index: number): string[] {
  const start = startOf(parent.name);
  if (!start) return [];
  const before = run(start, parent.children.slice(0, index));
  const after = parent.children.slice(index);
  const candidates = before ? before.symbols : [];
  return candidates.filter((symbol) => symbol !== textSymbol && run(before?.next(symbol), after) !== undefined);
}

/** The elements that can be put around children `from` (inclusive) to `to` (exclusive) of `parent`. */
export function wrappable(parent: Element, from: number, to: number): string[] {
  const inside = parent.children.slice(from, to);
  const start = startOf(parent.name);
  const before = run(start, parent.children.slice(0, from));
  const after = parent.children.slice(to);
  return (before?.symbols ?? []).filter((symbol) => symbol !== textSymbol && run(before?.next(symbol), after) !== undefined && run(startOf(symbol), inside) !== undefined);
}

/** The elements into which child `index` of `parent` can be turned with its content kept. */
export function convertible(parent: Element, index: number): string[] {
  const child = parent.children[index];
  if (!isElement(child)) return [];
  const kind = contentKindOf(child.name);
  return wrappable({ ...parent, children: parent.children.toSpliced(index, 1, ...child.children) }, index, index + child.children.length)
    .filter((name) => name !== child.name && contentKindOf(name) === kind && isInline(name) === isInline(child.name) && mayContain(parent.name, name))
    .filter((name) => run(startOf(name), child.children)?.complete === true && definitionOf(name) !== undefined);
}
