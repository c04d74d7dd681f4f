import type { Node as EditorNode } from 'prosemirror-model';
import type { EditorState, Transaction } from 'prosemirror-state';
import { NodeSelection } from 'prosemirror-state';
import { valuesOn, withValues } from '../facets/index.ts';
import { attributeOf, isA, labelOf, mayContain } from '../grammar/index.ts';
import type { Attributes } from '../markup/index.ts';
import type { Choice } from './choice.ts';
import { openElements, withAttributes, type OpenElement } from './details.ts';
import { canBeNamed, textElementAt } from './fitting.ts';
import { special } from './names.ts';
import { editorSchema } from './schema.ts';

/** What facet values are set on: selected words, that become a phrase of their own, or elements. */
export interface Varying {
  readonly label: string;
  readonly targets: readonly OpenElement[];
  /** The words that become a phrase; absent where there are elements. */
  readonly words?: { readonly from: number; readonly to: number };
}

/**
 * Where these vary, what holds them varies: a task with a title for some readers only is none for
 * the others.
 */
const partsOfOthers = ['title', 'cmd', 'shortdesc', 'tgroup', 'thead', 'tbody'];
const canVary = (element: string): boolean =>
  attributeOf(element, 'props') !== undefined && !partsOfOthers.some((part) => isA(element, part));

/** The blocks that the selection reaches over, where it reaches over several. */
function selectedBlocks({ selection }: EditorState): OpenElement[] {
  const range = selection.$from.blockRange(selection.$to);
  if (!range || range.endIndex - range.startIndex < 2) return [];
  const found: OpenElement[] = [];
  let position = range.start;
  for (let index = range.startIndex; index < range.endIndex; index += 1) {
    const node = range.parent.child(index);
    const { element } = node.type.spec;
    if (element !== undefined && node.type.name !== special.line && canVary(element))
      found.push({
        element,
        label: labelOf(element),
        attributes: node.attrs['attributes'] as Attributes,
        position,
      });
    position += node.nodeSize;
  }
  return found;
}

/** Whether all of the words can be in a phrase, beside the names that they have already. */
function bearsPhrase({ doc }: EditorState, from: number, to: number): boolean {
  const phrase = editorSchema.marks['ph']!;
  let bears = true;
  doc.nodesBetween(from, to, ({ isInline, isAtom, marks }) => {
    bears &&=
      (!isInline || isAtom) &&
      marks.every(({ type }) => !type.excludes(phrase) && !phrase.excludes(type));
    return bears;
  });
  return bears;
}

/** What would vary by facet values that are set now. */
export function varyingAt(state: EditorState): Varying | undefined {
  const { selection } = state;
  const { from, to, $from } = selection;
  const open = openElements(state).filter(({ element }) => canVary(element));
  const last = open.at(-1);
  if (!(selection instanceof NodeSelection) && !selection.empty) {
    const named = open.findLast((one) => one.position === from && one.end === to);
    if (named) return { label: named.label, targets: [named] };
    const holder = textElementAt($from);
    const isWhole = from === $from.start() && to === $from.end();
    if (
      !isWhole &&
      holder !== undefined &&
      mayContain(holder, 'ph') &&
      canBeNamed(state, 'ph') &&
      bearsPhrase(state, from, to)
    )
      return { label: 'The selected words', targets: [], words: { from, to } };
    const blocks = selectedBlocks(state);
    if (blocks.length > 1) return { label: `${blocks.length} elements`, targets: blocks };
  }
  return last && { label: last.label, targets: [last] };
}

/** The cells of a column, where none of the table is joined: the same place in each row. */
function columnAt({ selection: { $from } }: EditorState): Varying | undefined {
  const depth = Array.from({ length: $from.depth }, (_, at) => $from.depth - at).find((at) =>
    isCell($from.node(at)),
  );
  if (depth === undefined || depth < 2) return undefined;
  const isTable = (at: number): boolean =>
    ['tgroup', 'simpletable', 'properties', 'choicetable'].includes(
      $from.node(at).type.spec.element ?? '',
    );
  const tableDepth = Array.from({ length: depth }, (_, at) => depth - 1 - at).find(isTable);
  if (tableDepth === undefined) return undefined;
  const column = $from.index(depth - 1);
  const targets: OpenElement[] = [];
  let isEven = true;
  $from.node(tableDepth).descendants((node, offset, parent, index) => {
    if (!isCell(node)) return true;
    const attributes = node.attrs['attributes'] as Attributes;
    isEven &&= !['morerows', 'namest', 'nameend', 'spanname'].some(
      (name) => attributes[name] !== undefined,
    );
    const element = node.type.spec.element!;
    if (index === column && parent)
      targets.push({
        element,
        label: labelOf(element),
        attributes,
        position: $from.start(tableDepth) + offset,
      });
    return false;
  });
  return isEven && targets.length > 1 ? { label: `Column ${column + 1}`, targets } : undefined;
}
const isCell = ({ type: { spec } }: EditorNode): boolean =>
  ['entry', 'stentry'].some((cell) => isA(spec.element ?? '', cell));

/**
 * Everything at the selection that can vary, from the innermost outward; in a table its column
 * before its row.
 */
export function varyingsAt(state: EditorState): Varying[] {
  const first = varyingAt(state);
  if (!first) return [];
  const around = openElements(state)
    .filter(
      ({ element, position }) =>
        canVary(element) &&
        !isA(element, 'body') &&
        !first.targets.some((target) => target.position === position),
    )
    .filter(({ position }) => position < (first.targets[0]?.position ?? first.words?.from ?? 0))
    .map((one): Varying => ({ label: one.label, targets: [one] }))
    .toReversed();
  const all = [first, ...around];
  const column = columnAt(state);
  const cell = all.findLastIndex(
    ({ targets }) =>
      targets.length === 1 && ['entry', 'stentry'].some((name) => isA(targets[0]!.element, name)),
  );
  return column && cell >= 0 ? [...all.slice(0, cell + 1), column, ...all.slice(cell + 1)] : all;
}

/** The values that all of it has on a facet. */
export function valuesOfVarying({ targets }: Varying, facet: string): readonly string[] {
  const [first, ...others] = targets.map(({ attributes }) => valuesOn(attributes, facet));
  return (first ?? []).filter((value) => others.every((values) => values.includes(value)));
}

/**
 * Sets a value on all of it, or takes it away where all of it has it. A phrase that then says
 * nothing gives its words back.
 */
export function toggleValue(
  state: EditorState,
  varying: Varying,
  facet: string,
  value: string,
): Transaction {
  const isSet = valuesOfVarying(varying, facet).includes(value);
  const { words, targets } = varying;
  if (words)
    return state.tr.addMark(
      words.from,
      words.to,
      editorSchema.marks['ph']!.create({ attributes: withValues({}, facet, [value]) }),
    );
  const changed = (attributes: Attributes): Attributes => {
    const values = valuesOn(attributes, facet).filter((one) => one !== value);
    return withValues(attributes, facet, isSet ? values : [...values, value]);
  };
  const [only] = targets;
  if (targets.length === 1 && only) {
    const next = changed(only.attributes);
    if (only.end === undefined || only.element !== 'ph' || Object.keys(next).length > 0)
      return withAttributes(state, only, next);
    return state.tr.removeMark(
      only.position,
      only.end,
      editorSchema.marks['ph']!.create({ attributes: only.attributes }),
    );
  }
  return targets.reduce(
    (tr, { position, attributes }) =>
      tr.setNodeAttribute(position, 'attributes', changed(attributes)),
    state.tr,
  );
}

/** By the palette too: it asks for the values. */
export function varyingChoices(state: EditorState): Choice[] {
  const varying = varyingAt(state);
  if (!varying) return [];
  const { label } = varying;
  return [
    {
      kind: 'turn',
      element: 'only-for',
      label: 'Only for …',
      help: 'The models, readers or countries that this is for, picked from the lists of the team.',
      place: varying.words ? 'for the selected words' : `for ${label}`,
      within: state.selection.$from.depth,
      asks: 'facets',
      apply: ({ tr }) => tr,
    },
  ];
}
