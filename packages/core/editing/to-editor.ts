import { Fragment, type Mark, type Node as EditorNode, type NodeType } from 'prosemirror-model';
import { contentKindOf, guidanceTarget, isInline } from '../grammar/index.ts';
import { isElement, isInstruction, type Element, type Node } from '../markup/index.ts';
import { gridOf } from '../tables/index.ts';
import { blockToElement, inlineFromEditor } from './from-editor.ts';
import { isBlockNode, isMark, nodeName, special } from './names.ts';
import { editorSchema as schema } from './schema.ts';

const type = (name: string): NodeType => schema.nodes[name]!;
const rawBlock = (node: Node): EditorNode => type(special.rawBlock).create({ node });
const rawInline = (node: Node): EditorNode => type(special.rawInline).create({ node });

/**
 * Shows a topic as an editor document. Whatever is not valid at its place becomes a closed block
 * there; nothing is lost.
 */
export function toEditor(root: Element): EditorNode {
  const node = blockFrom(root);
  const document = type(special.document);
  return document.validContent(Fragment.from(node))
    ? document.create(null, node)
    : document.create(null, rawBlock(root));
}

function guidanceIn(children: readonly Node[]): string | null {
  const [only] = children;
  return children.length === 1 &&
    only !== undefined &&
    isInstruction(only) &&
    only.target === guidanceTarget
    ? only.body
    : null;
}

/** One block of a topic as a node of the editor. */
export function blockFrom(element: Element): EditorNode {
  const { name, attributes, children } = element;
  if (name === 'image') return type(special.blockImage).create({ attributes, children });
  if (!isBlockNode(name)) return rawBlock(element);
  const kind = contentKindOf(name);
  const guidance = guidanceIn(children);
  if (name === 'p' && !children.some(isBlock))
    return type('p').create(
      { attributes, guidance },
      guidance === null ? inlinesFrom(type('p'), children) : [],
    );
  if (kind === 'text')
    return type(nodeName(name)).create(
      { attributes, guidance },
      guidance === null ? inlinesFrom(type(nodeName(name)), children) : [],
    );
  const nodeType = type(name === 'p' ? special.flowParagraph : nodeName(name));
  const inner =
    kind === 'flow'
      ? flowFrom(children)
      : children.map((child) => (isElement(child) ? blockFrom(child) : rawBlock(child)));
  const content = fitting(nodeType, inner);
  const borrows = (attributes['conref'] ?? attributes['conkeyref']) !== undefined;
  // What borrows needs nothing of its own; the page needs something to show it in.
  if (!content)
    return (
      (borrows && children.length === 0 ? nodeType.createAndFill({ attributes }) : null) ??
      rawBlock(element)
    );
  const node = nodeType.create({ attributes }, content);
  return name === 'tgroup' ? withSpans(node, element) : node;
}

const isBlock = (node: Node): node is Element => isElement(node) && !isInline(node.name);

/** Runs of text become lines; an element without content gets an empty one. */
function flowFrom(children: readonly Node[]): EditorNode[] {
  const guidance = guidanceIn(children);
  if (guidance !== null || children.length === 0) return [type(special.line).create({ guidance })];
  const nodes: EditorNode[] = [];
  let run: Node[] = [];
  const endRun = (): void => {
    if (run.length > 0)
      nodes.push(type(special.line).create(null, inlinesFrom(type(special.line), run)));
    run = [];
  };
  for (const child of children) {
    if (!isBlock(child)) run.push(child);
    else {
      endRun();
      nodes.push(blockFrom(child));
    }
  }
  endRun();
  return nodes;
}

/**
 * The nodes as content of the type, with those that do not fit closed; undefined when something
 * required is missing.
 */
function fitting(nodeType: NodeType, nodes: readonly EditorNode[]): Fragment | undefined {
  const whole = Fragment.from(nodes);
  if (nodeType.validContent(whole)) return whole;
  const kept: EditorNode[] = [];
  let match = nodeType.contentMatch;
  for (const node of nodes) {
    const next = match.matchType(node.type);
    const shown = next ? node : rawBlock(sourceOf(node));
    const after = next ?? match.matchType(shown.type);
    if (!after) return undefined;
    match = after;
    kept.push(shown);
  }
  if (match.validEnd) return Fragment.from(kept);
  // Only a place for text may be added: everything else that is missing is for people to decide.
  const line = match.matchType(type(special.line));
  return line?.validEnd === true
    ? Fragment.from([...kept, type(special.line).create()])
    : undefined;
}

function sourceOf(node: EditorNode): Node {
  return node.type.name === special.rawBlock ? (node.attrs['node'] as Node) : blockToElement(node);
}

/** Cells know in the editor how far they reach; the column specifications stay what is written. */
function withSpans(node: EditorNode, tgroup: Element): EditorNode {
  const spans = new Map(
    [...gridOf(tgroup).head, ...gridOf(tgroup).body].flatMap((row) =>
      row.cells.map((cell) => [cell.element, cell] as const),
    ),
  );
  const sections = tgroup.children.filter(isElement);
  const visit = (editor: EditorNode, element: Element): EditorNode => {
    if (element.name === 'entry') {
      const cell = spans.get(element);
      return cell
        ? editor.type.create(
            { ...editor.attrs, columnSpan: cell.columnSpan, rowSpan: cell.rowSpan },
            editor.content,
          )
        : editor;
    }
    const elements = element.children.filter(isElement);
    if (!['thead', 'tbody', 'row'].includes(element.name) || elements.length !== editor.childCount)
      return editor;
    const children = elements.map((child, index) => visit(editor.child(index), child));
    return editor.copy(Fragment.from(children));
  };
  if (sections.length !== node.childCount) return node;
  return node.copy(
    Fragment.from(sections.map((section, index) => visit(node.child(index), section))),
  );
}

/**
 * Phrases become marks where that keeps them exactly, and inline nodes where it does not. What may
 * not stand in the parent is closed.
 */
export function inlinesFrom(parent: NodeType, nodes: readonly Node[]): EditorNode[] {
  const marked = nodes.flatMap((node) => markedFrom(parent, node, []));
  const fits =
    marked.every((node) => parent.allowsMarks(node.marks)) &&
    JSON.stringify(inlineFromEditor(marked)) === JSON.stringify(nodes);
  return fits ? marked : nodes.flatMap((node) => nestedFrom(parent, node));
}

const isPlain = (node: Node): boolean =>
  typeof node === 'string' ||
  (isElement(node) &&
    isMark(node.name) &&
    node.children.length > 0 &&
    node.children.every(isPlain));

function markedFrom(parent: NodeType, node: Node, marks: readonly Mark[]): EditorNode[] {
  if (typeof node === 'string') return node === '' ? [] : [schema.text(node, marks)];
  if (!isElement(node) || !isMark(node.name) || !isPlain(node))
    return nestedFrom(parent, node).map((one) => one.mark(marks));
  const mark = schema.marks[nodeName(node.name)]!.create({ attributes: node.attributes });
  return node.children.flatMap((child) => markedFrom(parent, child, mark.addToSet(marks)));
}

function nestedFrom(parent: NodeType, node: Node): EditorNode[] {
  if (typeof node === 'string') return node === '' ? [] : [schema.text(node)];
  const open = isElement(node) ? inlineNodeFrom(node) : undefined;
  return [open && parent.contentMatch.matchType(open.type) ? open : rawInline(node)];
}

function inlineNodeFrom(element: Element): EditorNode | undefined {
  const { name, attributes, children } = element;
  if (name === 'image') return type('image').create({ attributes, children });
  if (!isMark(name)) return undefined;
  const nodeType = type(`${nodeName(name)}_inline`);
  return nodeType.create(
    { attributes },
    children.flatMap((child) => nestedFrom(nodeType, child)),
  );
}
