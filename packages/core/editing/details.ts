import type { Mark, Node as EditorNode } from 'prosemirror-model';
import { NodeSelection, type EditorState, type Transaction } from 'prosemirror-state';
import {
  attributeOf,
  attributesOf,
  isKept,
  isValueAllowed,
  labelOf,
  type AttributeDefinition,
} from '../grammar/index.ts';
import { walk, type Attributes } from '../markup/index.ts';
import { fromEditor } from './from-editor.ts';
import { special } from './names.ts';

/** One element around the selection: a block, or words that carry a name. */
export interface OpenElement {
  readonly element: string;
  readonly label: string;
  readonly attributes: Attributes;
  /** Of the block, or of the first of the named words. */
  readonly position: number;
  /** Where the named words end; absent for blocks. */
  readonly end?: number;
}

const attributesAt = (holder: EditorNode | Mark): Attributes =>
  (holder.attrs['attributes'] as Attributes | undefined) ?? {};

/** The open elements from the topic inward; a selected one is the last. */
export function openElements(state: EditorState): OpenElement[] {
  const { selection } = state;
  const { $from } = selection;
  const found: OpenElement[] = [];
  const add = (node: EditorNode, position: number): void => {
    const element = node.type.spec.element;
    if (element !== undefined && node.type.name !== special.line)
      found.push({ element, label: labelOf(element), attributes: attributesAt(node), position });
  };
  for (let depth = 1; depth <= $from.depth; depth += 1) add($from.node(depth), $from.before(depth));
  if (selection instanceof NodeSelection) add(selection.node, selection.from);
  else
    for (const mark of (selection.empty ? $from.marks() : $from.marksAcross(selection.$to)) ?? [])
      found.push(...markedWords(state, mark));
  return found;
}

/** The unbroken run of words around the caret that carry the mark. */
function markedWords({ selection: { $from } }: EditorState, mark: Mark): OpenElement[] {
  const element = mark.type.spec.element;
  if (element === undefined) return [];
  const start = $from.start();
  const runs: { from: number; to: number }[] = [];
  $from.parent.forEach((child, offset) => {
    const from = start + offset;
    if (!mark.isInSet(child.marks)) return;
    const last = runs.at(-1);
    if (last?.to === from) last.to = from + child.nodeSize;
    else runs.push({ from, to: from + child.nodeSize });
  });
  const run = runs.find(({ from, to }) => from <= $from.pos && $from.pos <= to);
  return run
    ? [
        {
          element,
          label: labelOf(element),
          attributes: attributesAt(mark),
          position: run.from,
          end: run.to,
        },
      ]
    : [];
}

/**
 * Gives the element these attributes; empty values are left out, so that none is ever left behind.
 */
export function withAttributes(
  state: EditorState,
  target: OpenElement,
  attributes: Attributes,
): Transaction {
  const kept = Object.fromEntries(
    Object.entries(attributes).filter(([name, value]) => value !== '' || name === 'alt'),
  );
  const { tr } = state;
  if (target.end === undefined) return tr.setNodeAttribute(target.position, 'attributes', kept);
  const mark = state.doc
    .nodeAt(target.position)
    ?.marks.find(
      ({ type, attrs }) =>
        type.spec.element === target.element && attrs['attributes'] === target.attributes,
    );
  return mark
    ? tr
        .removeMark(target.position, target.end, mark)
        .addMark(target.position, target.end, mark.type.create({ attributes: kept }))
    : tr;
}

/** Written by processors, or data of the editor's own; shown only where they are set. */
const outOfTheWay = new Set([
  'class',
  'xtrf',
  'xtrc',
  'base',
  'conaction',
  'conrefend',
  'xml:space',
]);

/**
 * The attributes of an element as fields: those that are set, also unknown ones, then those that
 * may be added.
 */
export function attributeFields({ element, attributes }: OpenElement): {
  set: AttributeDefinition[];
  more: AttributeDefinition[];
} {
  const known = attributesOf(element);
  const unknown = Object.keys(attributes)
    .filter((name) => !attributeOf(element, name) && !isKept(name))
    .map((name): AttributeDefinition => ({
      name,
      label: name,
      kind: 'text',
      help: 'The content model does not know this attribute. It is kept as it is.',
    }));
  const set = known.filter(({ name }) => attributes[name] !== undefined);
  return {
    set: [...set, ...unknown],
    more: known.filter(
      (one) => !set.includes(one) && one.kind !== 'facet' && !outOfTheWay.has(one.name),
    ),
  };
}

/** What is wrong with a value for an attribute, in plain words; undefined when nothing is. */
export function refusalOf(
  state: EditorState,
  target: OpenElement,
  definition: AttributeDefinition,
  value: string,
): string | undefined {
  if (value === '')
    return definition.required === true ? `“${target.label}” needs this.` : undefined;
  if (!isValueAllowed(definition, value)) {
    if (definition.kind === 'id')
      return 'An id begins with a letter and has letters, digits, dots, hyphens and underscores.';
    return definition.values
      ? `It can be ${definition.values.join(', ')}.`
      : 'This is not a value that can stand here.';
  }
  if (definition.kind !== 'id' || value === target.attributes[definition.name]) return undefined;
  let taken = false;
  walk(fromEditor(state.doc), (found) => {
    taken ||= found.attributes['id'] === value && found.name !== 'resourceid';
  });
  return taken ? 'Another element of this topic has this id.' : undefined;
}
