import type { Node as EditorNode, NodeType, ResolvedPos } from 'prosemirror-model';
import type { EditorState } from 'prosemirror-state';
import { allowedIn, definitionOf, elementDefinitions, isA } from '../grammar/index.ts';
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
const isNamed = (type: NodeType): boolean => type.isBlock && !unnamed.has(type.name) && definitionOf(type.spec.element ?? '') !== undefined && !isTablePart(type.spec.element ?? '');

/** Blocks that can be offered by name. */
export const blockTypes: readonly NodeType[] = Object.values(editorSchema.nodes).filter(isNamed).sort(inOrder);

/** The named blocks that keep `parent` valid when put before child `index`, and that can be made empty, in the order of its content model. */
export function fittingTypes(parent: EditorNode, index: number): NodeType[] {
  const match = parent.contentMatchAt(index);
  const model = allowedIn(parent.type.spec.element ?? '');
  const place = ({ spec }: NodeType): number => model.indexOf(spec.element ?? '');
  return Array.from({ length: match.edgeCount }, (_, edge) => match.edge(edge).type)
    .filter((type) => isNamed(type) && parent.canReplaceWith(index, index, type) && type.createAndFill() !== null)
    .sort((a, b) => place(a) - place(b));
}

/** The element whose text the caret is in: a line without a tag belongs to what holds it. */
export function textElementAt($at: ResolvedPos): string | undefined {
  if (!$at.parent.isTextblock) return undefined;
  return $at.parent.type.name === special.line ? $at.node($at.depth - 1).type.spec.element : $at.parent.type.spec.element;
}

/** Whether the selection lies in one line and over nothing that holds words of its own: only then can all of it get one name. */
export function isPlainRun({ doc, selection: { $from, $to, from, to } }: EditorState): boolean {
  let isPlain = $from.sameParent($to);
  doc.nodesBetween(from, to, (node) => {
    isPlain &&= !(node.isInline && node.content.size > 0);
    return isPlain;
  });
  return isPlain;
}
