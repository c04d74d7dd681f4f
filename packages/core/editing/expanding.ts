import type { EditorState } from 'prosemirror-state';
import {
  expandableStyle,
  isA,
  isExpandable,
  labelOf,
  mayContain,
  stylesOf,
  withStyles,
} from '../grammar/index.ts';
import type { Choice } from './choice.ts';
import { openElements, withAttributes } from './details.ts';
import { canBeNamed, textElementAt } from './fitting.ts';
import { editorSchema } from './schema.ts';

/** Parts that stand under a heading of their own or one that the product gives them. */
const hasHeading = (state: EditorState, element: string, position: number): boolean =>
  isA(element, 'section') &&
  element !== 'context' &&
  (element !== 'section' || state.doc.nodeAt(position)?.firstChild?.type.spec.element === 'title');

/**
 * The part around the caret, and the selected words, can be kept closed in help sites until the
 * reader opens them.
 */
export function expandableChoices(state: EditorState): Choice[] {
  const { $from, empty, from, to } = state.selection;
  const within = $from.depth;
  const help = 'Closed in help sites until the reader opens it; print shows all of it.';
  const part = openElements(state).findLast(
    ({ element, position, end }) => end === undefined && hasHeading(state, element, position),
  );
  const choices: Choice[] = [];
  if (part) {
    const isClosed = isExpandable(part.attributes);
    const styles = stylesOf(part.attributes).filter((style) => style !== expandableStyle);
    choices.push({
      kind: 'turn',
      element: expandableStyle,
      label: isClosed ? 'Always open' : 'Expandable',
      help: isClosed ? 'Shown in help sites at once.' : help,
      place: `for ${labelOf(part.element)}`,
      within,
      apply: (at) =>
        withAttributes(
          at,
          part,
          withStyles(part.attributes, isClosed ? styles : [...styles, expandableStyle]),
        ),
    });
  }
  const holder = textElementAt($from);
  if (!empty && holder !== undefined && mayContain(holder, 'ph') && canBeNamed(state, 'ph'))
    choices.push({
      kind: 'phrase',
      element: 'expandable-words',
      label: 'Expandable words',
      help,
      place: 'for the selected words',
      within,
      apply: ({ tr }) =>
        tr.addMark(
          from,
          to,
          editorSchema.marks['ph']!.create({ attributes: { outputclass: expandableStyle } }),
        ),
    });
  return choices;
}
