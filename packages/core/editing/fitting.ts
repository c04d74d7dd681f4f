import type { Node as EditorNode, NodeType, ResolvedPos } from 'prosemirror-model';
import type { EditorState } from 'prosemirror-state';
import {
  allowedIn,
  definitionOf,
  elementDefinitions,
  isA,
  mayContain,
  textSymbol,
} from '../grammar/index.ts';
import { isElement, type Node as XmlNode } from '../markup/index.ts';
import { special } from './names.ts';
import { editorSchema } from './schema.ts';

const order = new Map(elementDefinitions.map(({ name }, index) => [name, index]));
interface Typed {
  readonly spec: { readonly element?: string };
}
const rank = ({ spec }: Typed): number => order.get(spec.element ?? '') ?? order.size;

/** Sorts node and mark types as the content model lists their elements. */
export const inOrder = (a: Typed, b: Typed): number => rank(a) - rank(b);

const unnamed = new Set<string>([special.line, special.rawBlock, special.flowParagraph]);
/** Parts of tables come and go with their row or column as a whole. */
const tableParts = ['tgroup', 'thead', 'tbody', 'row', 'entry', 'sthead', 'strow', 'stentry'];
const isTablePart = (element: string): boolean => tableParts.some((part) => isA(element, part));
const isNamed = (type: NodeType): boolean =>
  type.isBlock &&
  !unnamed.has(type.name) &&
  definitionOf(type.spec.element ?? '') !== undefined &&
  !isTablePart(type.spec.element ?? '');

/** Blocks that can be offered by name. */
export const blockTypes: readonly NodeType[] = Object.values(editorSchema.nodes)
  .filter(isNamed)
  .sort(inOrder);

/**
 * The named blocks that keep `parent` valid when put before child `index`, and that can be made
 * empty, in the order of its content model.
 */
export function fittingTypes(parent: EditorNode, index: number): NodeType[] {
  const match = parent.contentMatchAt(index);
  const model = allowedIn(parent.type.spec.element ?? '');
  const place = ({ spec }: NodeType): number => model.indexOf(spec.element ?? '');
  return Array.from({ length: match.edgeCount }, (_, edge) => match.edge(edge).type)
    .filter(
      (type) =>
        isNamed(type) && parent.canReplaceWith(index, index, type) && type.createAndFill() !== null,
    )
    .sort((a, b) => place(a) - place(b));
}

/** The element whose text the caret is in: a line without a tag belongs to what holds it. */
export function textElementAt($at: ResolvedPos): string | undefined {
  if (!$at.parent.isTextblock) return undefined;
  return $at.parent.type.name === special.line
    ? $at.node($at.depth - 1).type.spec.element
    : $at.parent.type.spec.element;
}

/** What a child stands for in its parent's content model; undefined for what no model speaks of. */
export function symbolOf(child: EditorNode): string | undefined {
  if (child.type.name === special.line || child.isText) return textSymbol;
  if (child.type.name !== special.rawBlock && child.type.name !== special.rawInline)
    return child.type.spec.element;
  const node = child.attrs['node'] as XmlNode;
  return isElement(node) && definitionOf(node.name) ? node.name : undefined;
}

/**
 * Whether all of the selection can get one name: it lies in one line, over nothing that has words
 * of its own or may not stand in the element.
 */
export function canBeNamed(
  { doc, selection: { $from, $to, from, to } }: EditorState,
  element: string,
): boolean {
  let can = $from.sameParent($to);
  doc.nodesBetween(from, to, (node) => {
    if (!node.isInline || node.isText) return can;
    const symbol = symbolOf(node);
    can &&= node.content.size === 0 && (symbol === undefined || mayContain(element, symbol));
    return can;
  });
  return can;
}
