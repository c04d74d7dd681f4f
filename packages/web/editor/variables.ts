import {
  answeredVariable,
  canUseVariable,
  variableAnswer,
  type VariableKind,
} from '@ukiyo/core/editing';
import type { Attributes } from '@ukiyo/core/markup';
import type { Node } from 'prosemirror-model';
import {
  Plugin,
  PluginKey,
  TextSelection,
  type EditorState,
  type Transaction,
} from 'prosemirror-state';
import { Decoration, type DecorationSet } from 'prosemirror-view';
import { drawAll, redraw, type Draw } from './drawn.ts';

/** The type under which a variable is dragged onto a page, as `kind key`. */
const draggedVariable = 'application/x-ukiyo-variable';

/** What a key stands for, as the page shows it. */
export interface VariableView {
  readonly kind: VariableKind;
  readonly words: string;
  /** Its name, its set, and what else it says for others. */
  readonly tooltip: string;
}
export interface VariableHost {
  readonly find: (key: string) => VariableView | undefined;
  /** Shows the chooser; what was typed to ask for it begins at `from`. */
  readonly choose: (from: number) => void;
}

const key = new PluginKey<DecorationSet>('variables');
/** Typed twice, it asks for a variable. */
const sign = '%';

/** The key that an element of the line, or the mark on words, has. */
function keyOn(node: Node): string | undefined {
  const holder = node.isText
    ? node.marks.find(
        (mark) => (mark.attrs['attributes'] as Attributes | null)?.['keyref'] !== undefined,
      )
    : node;
  return ((holder?.attrs['attributes'] ?? {}) as Attributes)['keyref'];
}

const draw =
  (find: VariableHost['find']): Draw =>
  (node, position) => {
    const name = node.isInline ? keyOn(node) : undefined;
    if (name === undefined) return [];
    const known = find(name);
    const end = position + node.nodeSize;
    if (!known) return [];
    // Words of its own stay in the text; pointing at them shows which variable it is.
    if (node.isText || node.content.size > 0)
      return [Decoration.inline(position, end, { title: known.tooltip })];
    return [
      Decoration.node(position, end, {
        class: 'variable-known',
        title: known.tooltip,
        'data-shown': known.words,
      }),
    ];
  };

/**
 * Shows with every variable what it says; asks for one when the sign is typed twice; takes dropped
 * ones.
 */
export function variableMarks(host: VariableHost): Plugin<DecorationSet> {
  return new Plugin<DecorationSet>({
    key,
    state: {
      init: (_config, { doc }) => drawAll(doc, draw(host.find)),
      apply(transaction, decorations) {
        if (transaction.getMeta(key) !== undefined)
          return drawAll(transaction.doc, draw(host.find));
        return transaction.docChanged
          ? redraw(decorations, transaction, draw(host.find))
          : decorations;
      },
    },
    props: {
      decorations: (state) => key.getState(state),
      handleTextInput(view, from, to, text) {
        const before = from > 0 ? view.state.doc.textBetween(from - 1, from, '', '') : '';
        if (text !== sign || before !== sign || from !== to || !canUseVariable(view.state))
          return false;
        view.dispatch(view.state.tr.insertText(text, from, to));
        host.choose(from - 1);
        return true;
      },
      handleDrop(view, event) {
        const answer = event.dataTransfer?.getData(draggedVariable) ?? '';
        const at =
          answer === ''
            ? undefined
            : view.posAtCoords({ left: event.clientX, top: event.clientY })?.pos;
        if (at === undefined) return false;
        view.dispatch(view.state.tr.setSelection(TextSelection.near(view.state.doc.resolve(at))));
        view.dispatch(answeredVariable(view.state, answer));
        view.focus();
        return true;
      },
    },
  });
}

/** What variables say has changed, or for whom one looks. */
export const showVariables = (state: EditorState): Transaction => state.tr.setMeta(key, true);

/** Makes something that can be dragged carry a variable. */
export const carryVariable = (event: DragEvent, kind: VariableKind, name: string): void =>
  event.dataTransfer?.setData(draggedVariable, variableAnswer(kind, name));
