import type { ResolvedElement } from '@ukiyo/core/compose';
import { isElement, type Node } from '@ukiyo/core/markup';
import { readSyntax, type Syntax, type SyntaxGroup } from '@ukiyo/core/syntax-diagrams';
import { phraseFor } from './flow.ts';

/**
 * A syntax diagram in lines of text, in the notation of ISO/IEC 14977 as far as it goes: `[ ]`
 * around what is optional, `|` between choices, `=` after the name of a fragment; `[, …]` stands
 * after what can be repeated with a comma between.
 */

const between = { sequence: ' ', choice: ' | ', tight: '' };

const joined = (parts: readonly (readonly Node[])[], separator: string): Node[] =>
  parts.flatMap((part, index) => (index === 0 || separator === '' ? part : [separator, ...part]));

/** Signs around words, within the element that says who gets them. */
function around(element: ResolvedElement, before: string, words: readonly Node[], after: string) {
  const all = [before, ...words, after].filter((one) => one !== '');
  return element.when === undefined ? all : [phraseFor(element, all)];
}

/** What is written for one part of a diagram. */
function written(part: Syntax<ResolvedElement>): readonly Node[] {
  if ('parts' in part) return writtenGroup(part);
  const { kind, element, isOptional, nodes } = part;
  if (kind === 'reference') return around(element, '⟨', nodes, '⟩');
  return isOptional ? around(element, '[', [element], ']') : [element];
}

function writtenGroup(group: SyntaxGroup<ResolvedElement>): readonly Node[] {
  const { kind, element, isOptional, parts, title, separators } = group;
  const words = joined(parts.map(written), between[kind]);
  const named = title ? [...title.children, ': '] : [];
  const isChoice = kind === 'choice' && parts.length > 1;
  const [before, after] = isOptional ? ['[', ']'] : isChoice ? ['(', ')'] : ['', ''];
  const repeated = separators.flatMap((separator) => [
    ' [',
    ...(separator.children.length === 0 ? [] : [separator, ' ']),
    '…]',
  ]);
  return around(
    element,
    before,
    [...named, ...words, ...(isOptional ? repeated : [])],
    after,
  ).concat(isOptional ? [] : repeated);
}

/** A line of a syntax diagram, with the block or fragment that it is. */
export interface SyntaxLine {
  readonly element: ResolvedElement;
  readonly nodes: readonly Node[];
}

/** @param diagram a resolved `syntaxdiagram` (DITA 1.3, programming domain) */
export const syntaxLines = (diagram: ResolvedElement): readonly SyntaxLine[] =>
  readSyntax(diagram)
    .map(({ element, title, parts }) => {
      const words = joined(parts.map(written), ' ');
      const named = title ? [...title.children, words.length > 0 ? ' = ' : ''] : [];
      return { element, nodes: [...named, ...words] };
    })
    .filter(({ nodes }) => nodes.some((node) => isElement(node) || node !== ''));
