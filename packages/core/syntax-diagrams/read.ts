import { childElements, childNamed, type Element, type Node } from '../markup/index.ts';

/** A part of a syntax diagram (DITA 1.3, programming domain). @template E of a tree of elements */
export type Syntax<E extends Element = Element> = SyntaxWord<E> | SyntaxGroup<E>;

interface Part<E extends Element> {
  readonly element: E;
  readonly isOptional: boolean;
}
interface SyntaxWord<E extends Element = Element> extends Part<E> {
  readonly kind: 'word' | 'reference';
  /** Of a reference without words of its own: the title of its fragment. */
  readonly nodes: readonly Node[];
}
export interface SyntaxGroup<E extends Element = Element> extends Part<E> {
  /** The parts of a `tight` group have no spaces between them. */
  readonly kind: 'sequence' | 'choice' | 'tight';
  readonly title?: E;
  readonly parts: readonly Syntax<E>[];
  /** Between repetitions of the group; empty when the group does not repeat. */
  readonly separators: readonly E[];
}

/** A row of a diagram, with the diagram, block or fragment that it is. */
export interface SyntaxRow<E extends Element = Element> {
  readonly element: E;
  readonly title?: E;
  readonly parts: readonly Syntax<E>[];
}

const groups: Readonly<Record<string, SyntaxGroup['kind']>> = {
  groupseq: 'sequence',
  groupchoice: 'choice',
  groupcomp: 'tight',
};
const holders = new Set(['synblk', 'fragment']);
const besides = new Set(['title', 'desc', 'image', 'repsep', ...holders]);

const childrenOf = <E extends Element>(element: E): readonly E[] => childElements(element) as E[];
const titleIn = <E extends Element>(element: E): { readonly title?: E } => {
  const title = childNamed(element, 'title') as E | undefined;
  return title ? { title } : {};
};

/** The rows of a diagram: what it begins with, and each of its blocks and fragments. */
export function readSyntax<E extends Element>(diagram: E): readonly SyntaxRow<E>[] {
  const rowsOf = (holder: E): readonly SyntaxRow<E>[] => {
    const parts = partsOf(holder, diagram);
    const title = holder === diagram ? {} : titleIn(holder);
    const inner = childrenOf(holder)
      .filter(({ name }) => holders.has(name))
      .flatMap(rowsOf);
    const isEmpty = parts.length === 0 && !title.title;
    return isEmpty ? inner : [{ element: holder, ...title, parts }, ...inner];
  };
  return rowsOf(diagram);
}

const partsOf = <E extends Element>(holder: E, diagram: E): readonly Syntax<E>[] =>
  childrenOf(holder)
    .filter(({ name }) => !besides.has(name))
    .map((part) => partOf(part, diagram));

function partOf<E extends Element>(element: E, diagram: E): Syntax<E> {
  const isOptional = element.attributes['importance'] === 'optional';
  const kind = groups[element.name];
  if (kind) {
    const separators = childrenOf(element).filter(({ name }) => name === 'repsep');
    const parts = partsOf(element, diagram);
    return { kind, element, isOptional, parts, separators, ...titleIn(element) };
  }
  return element.name === 'fragref'
    ? { kind: 'reference', element, isOptional, nodes: namesOf(element, diagram) }
    : { kind: 'word', element, isOptional, nodes: element.children };
}

/** The words of a reference to a fragment: its own, or the title of the fragment. */
function namesOf<E extends Element>(reference: E, diagram: E): readonly Node[] {
  if (reference.children.length > 0) return reference.children;
  const id = /[^/#]*$/u.exec(reference.attributes['href'] ?? '')![0];
  const find = (element: E): E | undefined =>
    element.attributes['id'] === id
      ? element
      : childrenOf(element)
          .map(find)
          .find((one) => one !== undefined);
  const fragment = id === '' ? undefined : find(diagram);
  return (fragment && childNamed(fragment, 'title')?.children) ?? [id];
}
