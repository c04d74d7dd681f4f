import type { LivePerson } from '@ukiyo/contracts';
import { Plugin, PluginKey, type EditorState, type Transaction } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';
import { pigmentOf } from '../theme/tokens.ts';

/** Somebody else in the topic, with where they are in the document as it is here. */
export interface Other extends Pick<LivePerson, 'client' | 'name' | 'place'> {
  readonly anchor: number;
  readonly head: number;
}

const key = new PluginKey<readonly Other[]>('others');

function caret({ name, place }: Other): () => HTMLElement {
  return () => {
    const dom = document.createElement('span');
    dom.className = 'other-caret';
    dom.style.setProperty('--pigment', pigmentOf(place));
    dom.dataset['name'] = name;
    return dom;
  };
}

const identityOf = (other: Other): string => `${other.client} ${other.place}`;

/** Shows where the others are. */
export function otherCarets(): Plugin {
  return new Plugin<readonly Other[]>({
    key,
    state: {
      init: () => [],
      apply(transaction, others) {
        const set = transaction.getMeta(key) as readonly Other[] | undefined;
        if (set) return set;
        if (!transaction.docChanged) return others;
        return others.map((other) => ({
          ...other,
          anchor: transaction.mapping.map(other.anchor),
          head: transaction.mapping.map(other.head),
        }));
      },
    },
    props: {
      decorations(state) {
        const end = state.doc.content.size;
        const within = (position: number): number => Math.min(position, end);
        return DecorationSet.create(
          state.doc,
          (key.getState(state) ?? []).flatMap((other) => {
            const [from, to] = [
              within(Math.min(other.anchor, other.head)),
              within(Math.max(other.anchor, other.head)),
            ];
            const here = Decoration.widget(within(other.head), caret(other), {
              key: identityOf(other),
              side: 10,
              ignoreSelection: true,
            });
            return from === to
              ? [here]
              : [
                  here,
                  Decoration.inline(from, to, {
                    style:
                      `background: color-mix(in srgb, ${pigmentOf(other.place)} 18%, ` +
                      'transparent)',
                  }),
                ];
          }),
        );
      },
    },
  });
}

export const othersIn = (state: EditorState): readonly Other[] => key.getState(state) ?? [];
export const withOthers = (transaction: Transaction, others: readonly Other[]): Transaction =>
  transaction.setMeta(key, others);
