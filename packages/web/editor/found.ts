import type { Found } from '@ukiyo/core/editing';
import { Plugin, PluginKey, type EditorState, type Transaction } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';

interface State {
  readonly decorations: DecorationSet;
}
const key = new PluginKey<State>('found');

/** Marks what was found on the page, the one that is looked at more than the others. */
export function foundMarks(): Plugin<State> {
  return new Plugin<State>({
    key,
    state: {
      init: () => ({ decorations: DecorationSet.empty }),
      apply(transaction, state) {
        const shown = transaction.getMeta(key) as
          { found: readonly Found[]; current: number } | undefined;
        if (shown)
          return {
            decorations: DecorationSet.create(
              transaction.doc,
              shown.found.map(({ from, to }, index) =>
                Decoration.inline(from, to, {
                  class: index === shown.current ? 'found current' : 'found',
                }),
              ),
            ),
          };
        return transaction.docChanged
          ? { decorations: state.decorations.map(transaction.mapping, transaction.doc) }
          : state;
      },
    },
    props: { decorations: (state: EditorState) => key.getState(state)?.decorations },
  });
}

export const showFound = (
  transaction: Transaction,
  found: readonly Found[],
  current: number,
): Transaction => transaction.setMeta(key, { found, current });
