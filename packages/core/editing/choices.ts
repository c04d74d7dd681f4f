import type { Node as EditorNode, NodeType, ResolvedPos } from 'prosemirror-model';
import { definitionOf, elementDefinitions, labelOf } from '../grammar/index.ts';
import { special } from './names.ts';

/** Something that can be put at a place, with where it would go. */
export interface Choice {
  readonly type: NodeType;
  readonly element: string;
  readonly label: string;
  readonly help: string;
  /** What it goes into. */
  readonly into: string;
  /** Position before which it goes. */
  readonly position: number;
}

const order = new Map(elementDefinitions.map(({ name }, index) => [name, index]));
const rank = (type: NodeType): number => order.get(type.spec.element ?? '') ?? order.size;

const unnamed = new Set<string>([special.line, special.rawBlock, special.flowParagraph]);

/** The elements that can be put after the block at a place, nearest first; each once, at the nearest place. */
export function insertChoices($at: ResolvedPos): Choice[] {
  const choices: Choice[] = [];
  const seen = new Set<string>();
  for (let depth = $at.depth - 1; depth >= 0; depth -= 1) {
    const parent = $at.node(depth);
    const index = $at.indexAfter(depth);
    const position = $at.after(depth + 1);
    for (const type of typesAt(parent, index)) {
      const element = type.spec.element;
      const definition = element === undefined ? undefined : definitionOf(element);
      if (!definition || element === undefined || seen.has(element)) continue;
      seen.add(element);
      choices.push({ type, element, label: definition.label, help: definition.help, into: labelOf(parent.type.spec.element ?? 'topic'), position });
    }
  }
  return choices;
}

/** The node types that keep `parent` valid when put before child `index`, and that can be made empty. */
function typesAt(parent: EditorNode, index: number): NodeType[] {
  const match = parent.contentMatchAt(index);
  return Array.from({ length: match.edgeCount }, (_, edge) => match.edge(edge).type)
    .filter((type) => !unnamed.has(type.name) && !type.isText && parent.canReplaceWith(index, index, type) && type.createAndFill() !== null)
    .sort((a, b) => rank(a) - rank(b));
}
