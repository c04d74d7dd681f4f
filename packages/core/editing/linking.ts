import type { EditorState, Transaction } from 'prosemirror-state';
import { labelOf, mayContain } from '../grammar/index.ts';
import type { Attributes } from '../markup/index.ts';
import { openElements, type OpenElement } from './details.ts';
import { canBeNamed, textElementAt } from './fitting.ts';
import { editorSchema } from './schema.ts';

const xref = editorSchema.marks['xref']!;
const bareXref = editorSchema.nodes['xref_inline']!;

/**
 * Whether a link can begin at the selection: within one line, in an element that may hold one, and
 * not in another link.
 */
export function canLink(state: EditorState): boolean {
  const { $from, from, to } = state.selection;
  const element = textElementAt($from);
  const isInLink =
    xref.isInSet($from.marks()) !== undefined || state.doc.rangeHasMark(from, to, xref);
  return (
    element !== undefined && canBeNamed(state, 'xref') && mayContain(element, 'xref') && !isInLink
  );
}

/** The link around the selection, or the one without words of its own just before the caret. */
export function linkAt(state: EditorState): OpenElement | undefined {
  const open = openElements(state).findLast(({ element }) => element === 'xref');
  const { $from } = state.selection;
  const before = $from.nodeBefore;
  if (open || before?.type !== bareXref) return open;
  return {
    element: 'xref',
    label: labelOf('xref'),
    attributes: before.attrs['attributes'] as Attributes,
    position: $from.pos - before.nodeSize,
  };
}

/**
 * Makes the selected words a link with these attributes; without a selection a link that takes its
 * words from its target.
 * @param from where what is replaced begins, when something was typed to ask for the link
 */
export function linkTo(
  state: EditorState,
  attributes: Attributes,
  from = state.selection.from,
): Transaction {
  const { tr } = state;
  const { to } = state.selection;
  if (from === state.selection.from && !state.selection.empty)
    return tr.addMark(from, to, xref.create({ attributes }));
  return tr.replaceWith(from, to, bareXref.create({ attributes })).scrollIntoView();
}

/** What a link to the reference carries; undefined for what no link may lead to. */
export function linkAttributes(reference: string): Attributes | undefined {
  if (/^(topic|map):/u.test(reference)) return { href: reference };
  return /^(https?:\/\/|mailto:)\S+$/iu.test(reference)
    ? { href: reference, format: 'html', scope: 'external' }
    : undefined;
}
