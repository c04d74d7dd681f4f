import type { ResolvedElement } from '@ukiyo/core/compose';
import { childElements, childNamed, isElement, type Node } from '@ukiyo/core/markup';

/**
 * A syntax diagram in lines of text, in the notation of ISO/IEC 14977 as far as it goes: `[ ]`
 * around what is optional, `|` between choices, `=` after the name of a fragment; `[, …]` stands
 * after what can be repeated with a comma between.
 */

const children = (element: ResolvedElement): readonly ResolvedElement[] =>
  childElements(element) as ResolvedElement[];

const between: Readonly<Record<string, string>> = {
  groupseq: ' ',
  groupchoice: ' | ',
  groupcomp: '',
};
const holders = new Set(['synblk', 'fragment']);

const joined = (parts: readonly (readonly Node[])[], separator: string): Node[] =>
  parts.flatMap((part, index) => (index === 0 || separator === '' ? part : [separator, ...part]));

/** Signs around words, within the element that says who gets them. */
function around(element: ResolvedElement, before: string, words: readonly Node[], after: string) {
  const all = [before, ...words, after].filter((one) => one !== '');
  return element.when === undefined ? all : [{ ...phrase(element), children: all }];
}
const phrase = ({ when, origin }: ResolvedElement): ResolvedElement => ({
  name: 'ph',
  attributes: {},
  children: [],
  origin,
  ...(when === undefined ? {} : { when }),
});

/** What is written for one part of a diagram. @param diagram in which its fragments stand */
function written(part: ResolvedElement, diagram: ResolvedElement): readonly Node[] {
  const { name, attributes } = part;
  const isOptional = attributes['importance'] === 'optional';
  if (name === 'fragref') return around(part, '⟨', namesOf(part, diagram), '⟩');
  if (between[name] === undefined) return isOptional ? around(part, '[', [part], ']') : [part];
  const inner = children(part).filter((one) => !['title', 'repsep'].includes(one.name));
  const words = joined(
    inner.map((one) => written(one, diagram)),
    between[name],
  );
  const title = childNamed(part, 'title');
  const named = title ? [...title.children, ': '] : [];
  const isChoice = name === 'groupchoice' && inner.length > 1;
  const [before, after] = isOptional ? ['[', ']'] : isChoice ? ['(', ')'] : ['', ''];
  const repeated = children(part)
    .filter((one) => one.name === 'repsep')
    .flatMap((separator) => [
      ' [',
      ...(separator.children.length === 0 ? [] : [separator, ' ']),
      '…]',
    ]);
  return around(part, before, [...named, ...words, ...(isOptional ? repeated : [])], after).concat(
    isOptional ? [] : repeated,
  );
}

/** The words of a reference to a fragment: its own, or the title of the fragment. */
function namesOf(reference: ResolvedElement, diagram: ResolvedElement): readonly Node[] {
  if (reference.children.length > 0) return reference.children;
  const id = /[^/#]*$/u.exec(reference.attributes['href'] ?? '')![0];
  const find = (element: ResolvedElement): ResolvedElement | undefined =>
    element.attributes['id'] === id
      ? element
      : children(element)
          .map(find)
          .find((one) => one !== undefined);
  const fragment = id === '' ? undefined : find(diagram);
  return (fragment && childNamed(fragment, 'title')?.children) ?? [id];
}

/** The parts of a diagram, block or fragment that stand in its own line. */
function ownLine(holder: ResolvedElement, diagram: ResolvedElement): readonly Node[] {
  const parts = children(holder).filter(({ name }) => name !== 'title' && !holders.has(name));
  const title = holder === diagram ? undefined : childNamed(holder, 'title');
  const words = joined(
    parts.map((part) => written(part, diagram)),
    ' ',
  );
  return title ? [...title.children, words.length > 0 ? ' = ' : '', ...words] : words;
}

/** A line of a syntax diagram, with the block or fragment that it is. */
export interface SyntaxLine {
  readonly element: ResolvedElement;
  readonly nodes: readonly Node[];
}

/** @param diagram a resolved `syntaxdiagram` (DITA 1.3, programming domain) */
export function syntaxLines(diagram: ResolvedElement): readonly SyntaxLine[] {
  const linesOf = (holder: ResolvedElement): readonly SyntaxLine[] => {
    const nodes = ownLine(holder, diagram);
    const inner = children(holder)
      .filter(({ name }) => holders.has(name))
      .flatMap(linesOf);
    return nodes.some((node) => isElement(node) || node !== '')
      ? [{ element: holder, nodes }, ...inner]
      : inner;
  };
  return linesOf(diagram);
}
