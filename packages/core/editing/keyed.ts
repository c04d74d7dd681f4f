import type { EditorState, Transaction } from 'prosemirror-state';
import { mayContain } from '../grammar/index.ts';
import { choiceOf, wordsOfAnswer, type Choice } from './choice.ts';
import { canBeNamed, textElementAt } from './fitting.ts';
import { editorSchema } from './schema.ts';

/** What a variable stands for. */
export type VariableKind = 'text' | 'image' | 'link';
type Holder = 'ph' | 'keyword' | 'term' | 'xref' | 'image';
/** What can show a variable in a line, the plainest first. */
const holdersOf: Readonly<Record<VariableKind, readonly Holder[]>> = {
  text: ['ph', 'keyword', 'term'],
  image: ['image'],
  link: ['xref'],
};

function holderAt(state: EditorState, kind: VariableKind): Holder | undefined {
  const element = textElementAt(state.selection.$from);
  return element === undefined
    ? undefined
    : holdersOf[kind].find((holder) => mayContain(element, holder) && canBeNamed(state, holder));
}

export const canUseVariable = (state: EditorState): boolean =>
  (['text', 'image', 'link'] as const).some((kind) => holderAt(state, kind) !== undefined);

/**
 * Puts a variable in the place of the selection; where none of that kind can stand, nothing
 * changes.
 * @param from where what is replaced begins, when something was typed to ask for the variable
 */
function useVariable(
  state: EditorState,
  key: string,
  kind: VariableKind,
  from = state.selection.from,
): Transaction {
  const holder = holderAt(state, kind);
  if (!holder) return state.tr;
  const attributes = { keyref: key };
  const node =
    holder === 'image'
      ? editorSchema.nodes['image']!.create({ attributes, children: [] })
      : editorSchema.nodes[`${holder}_inline`]!.create({ attributes });
  return state.tr.replaceWith(from, state.selection.to, node).scrollIntoView();
}

/** An answer names kind and key: `text product`. */
export const variableAnswer = (kind: VariableKind, key: string): string => `${kind} ${key}`;

export function answeredVariable(state: EditorState, answer: string, from?: number): Transaction {
  const [kind = '', key = ''] = answer.split(' ');
  return kind === 'text' || kind === 'image' || kind === 'link'
    ? useVariable(state, key, kind, from)
    : state.tr;
}

export function variableChoices(state: EditorState): Choice[] {
  if (!canUseVariable(state)) return [];
  const choice = choiceOf(
    { kind: 'insert', element: 'ph', place: 'in the line', within: state.selection.$from.depth },
    (at, answer) => answeredVariable(at, wordsOfAnswer(answer)),
  );
  return [
    {
      ...choice,
      element: 'variable',
      label: 'Variable',
      help:
        'Words, an image or a link that are kept in one place and shown here; also by typing ' +
        '%%.',
      asks: 'variable',
    },
  ];
}
