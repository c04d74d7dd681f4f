import { element, isElement, type Element, type Node } from '../markup/index.ts';
import type { State } from './automaton.ts';
import { textSymbol, type Expression } from './content.ts';
import { contentOf, startOf } from './table.ts';

/**
 * Whether names can stand in this order in an element, as far as they go: something may still be
 * missing.
 */
export function follows(parent: string, symbols: readonly string[]): boolean {
  return (
    symbols.reduce<State | undefined>((state, symbol) => state?.next(symbol), startOf(parent)) !==
    undefined
  );
}

/**
 * What children stand for in a content model: white space, comments and instructions for nothing.
 */
export const symbolsIn = (nodes: readonly Node[]): string[] =>
  nodes.flatMap((node) =>
    typeof node === 'string'
      ? node.trim() === ''
        ? []
        : [textSymbol]
      : isElement(node)
        ? [node.name]
        : [],
  );

/**
 * The last place among the children of `parent` where a new element can stand; undefined where
 * there is none.
 */
export function placeFor(parent: Element, name: string): number | undefined {
  for (let index = parent.children.length; index >= 0; index -= 1)
    if (
      follows(parent.name, [
        ...symbolsIn(parent.children.slice(0, index)),
        name,
        ...symbolsIn(parent.children.slice(index)),
      ])
    )
      return index;
  return undefined;
}

/** A new element with no more inside than it must have. */
export function emptyElement(name: string): Element {
  const needed = (part: Expression): Element[] => {
    if (part.kind === 'symbol')
      return part.symbol === textSymbol ? [] : [emptyElement(part.symbol)];
    if (part.kind === 'repeat') return part.least === 0 ? [] : needed(part.part);
    if (part.kind === 'choice')
      return part.parts.some((one) => one.kind === 'symbol' && one.symbol === textSymbol)
        ? []
        : needed(part.parts[0]!);
    return part.parts.flatMap(needed);
  };
  const content = contentOf(name);
  return element(name, {}, content ? needed(content) : []);
}
