import { Fragment, type Mark, type Node as EditorNode } from 'prosemirror-model';
import { guidanceTarget, mayContain } from '../grammar/index.ts';
import { element, type Attributes, type Element, type Node } from '../markup/index.ts';
import type { Path } from '../problems/index.ts';
import { special } from './names.ts';

/** Told, while a document is read back, at which position of the editor each element begins. */
export type Locate = (path: Path, position: number) => void;

const attributesOf = (node: EditorNode): Attributes => node.attrs['attributes'] as Attributes;

/** The topic that an editor document shows. */
export function fromEditor(document: EditorNode, locate?: Locate): Element {
  const top = document.firstChild;
  if (!top) throw new Error('An editor document without a topic');
  if (top.type.name === special.rawBlock) return top.attrs['node'] as Element;
  return blockToElement(top, locate, [], 0);
}

/** Nodes are immutable: what one was read as holds for as long as it is there. */
const readBefore = new WeakMap<EditorNode, Element>();

/** @param position of the node in the document */
export function blockToElement(
  node: EditorNode,
  locate?: Locate,
  path: Path = [],
  position = 0,
): Element {
  const known = locate ? undefined : readBefore.get(node);
  if (known) return known;
  locate?.(path, position);
  const read = readBlock(node, locate, path, position);
  readBefore.set(node, read);
  return read;
}

function readBlock(
  node: EditorNode,
  locate: Locate | undefined,
  path: Path,
  position: number,
): Element {
  const name = node.type.spec.element ?? node.type.name;
  if (node.type.name === special.blockImage)
    return element('image', attributesOf(node), node.attrs['children'] as readonly Node[]);
  if (node.isTextblock) return element(name, attributesOf(node), textOf(node));
  const children: Node[] = [];
  let afterLine = false;
  node.forEach((child, offset) => {
    const at = position + 1 + offset;
    if (child.type.name === special.rawBlock) children.push(child.attrs['node'] as Node);
    else if (child.type.name === special.line) {
      // Two lines side by side would run together: the second is a paragraph where one can stand.
      if (afterLine && mayContain(name, 'p')) children.push(element('p', {}, textOf(child)));
      else if (afterLine) children.push(' ', ...textOf(child));
      else children.push(...textOf(child));
    } else {
      children.push(blockToElement(child, locate, [...path, children.length], at));
    }
    afterLine = child.type.name === special.line && child.content.size > 0;
  });
  return element(name, attributesOf(node), isFilled(node) ? [] : children);
}

/**
 * Whether it borrows, and has nothing of its own but what the editor needs to show it (DITA 1.3,
 * 2.4.5.2: the content of what borrows is passed over).
 */
function isFilled(node: EditorNode): boolean {
  const { conref, conkeyref } = attributesOf(node);
  if (
    (conref ?? conkeyref) === undefined ||
    node.childCount === 0 ||
    node.type.validContent(Fragment.empty)
  )
    return false;
  return node.type.createAndFill(node.attrs)?.content.eq(node.content) ?? false;
}

function textOf(node: EditorNode): Node[] {
  const guidance = node.attrs['guidance'] as string | null;
  if (node.content.size === 0)
    return guidance === null ? [] : [{ target: guidanceTarget, body: guidance }];
  const children: EditorNode[] = [];
  node.forEach((child) => void children.push(child));
  return inlineFromEditor(children);
}

interface Piece {
  readonly node: EditorNode;
  readonly marks: readonly Mark[];
}

/**
 * Text with marks as nested elements: of the marks that begin at a place and may hold the others,
 * the one that reaches furthest is the outermost.
 */
export function inlineFromEditor(nodes: readonly EditorNode[]): Node[] {
  return nest(nodes.map((node) => ({ node, marks: node.marks })));
}

const elementOf = (mark: Mark): string => mark.type.spec.element ?? mark.type.name;

function nest(pieces: readonly Piece[]): Node[] {
  const out: Node[] = [];
  for (let at = 0; at < pieces.length;) {
    const { node, marks } = pieces[at]!;
    if (marks.length === 0) {
      out.push(inlineNode(node));
      at += 1;
      continue;
    }
    const holds = (mark: Mark, others: readonly Mark[]): boolean =>
      others.every((other) => other.eq(mark) || mayContain(elementOf(mark), elementOf(other)));
    const reach = (mark: Mark): number => {
      let end = at + 1;
      // Where something begins that may not stand in it, it ends, and begins again inside.
      while (
        end < pieces.length &&
        mark.isInSet(pieces[end]!.marks) &&
        holds(mark, pieces[end]!.marks)
      )
        end += 1;
      return end;
    };
    const holders = marks.filter((mark) => holds(mark, marks));
    const outermost = (holders.length > 0 ? holders : marks).reduce((best, mark) =>
      reach(mark) > reach(best) ? mark : best,
    );
    const end = reach(outermost);
    const inner = pieces.slice(at, end).map((piece) => ({
      node: piece.node,
      marks: piece.marks.filter((mark) => !mark.eq(outermost)),
    }));
    out.push(
      element(elementOf(outermost), outermost.attrs['attributes'] as Attributes, nest(inner)),
    );
    at = end;
  }
  return [...element('', {}, out).children];
}

function inlineNode(node: EditorNode): Node {
  if (node.isText) return node.text ?? '';
  if (node.type.name === special.rawInline) return node.attrs['node'] as Node;
  const children: EditorNode[] = [];
  node.forEach((child) => void children.push(child));
  if (node.type.name === 'image')
    return element('image', attributesOf(node), node.attrs['children'] as readonly Node[]);
  return element(
    node.type.spec.element ?? node.type.name,
    attributesOf(node),
    inlineFromEditor(children),
  );
}
