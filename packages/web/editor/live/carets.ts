import type { Caret, LivePerson } from '@ukiyo/contracts';
import type { Received } from '@ukiyo/core/editing';
import { Plugin, PluginKey, type EditorState, type Transaction } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';
import { pigmentOf } from '../../theme/tokens.ts';

/** Another person in the topic, with their caret in the document of this page. */
interface RemoteCaret extends Pick<LivePerson, 'client' | 'name' | 'place'> {
  readonly anchor: number;
  readonly head: number;
}

const key = new PluginKey<readonly RemoteCaret[]>('others');

function caret({ name, place }: RemoteCaret): () => HTMLElement {
  return () => {
    const dom = document.createElement('span');
    dom.className = 'other-caret';
    dom.style.setProperty('--pigment', pigmentOf(place));
    dom.dataset['name'] = name;
    return dom;
  };
}

const identityOf = (other: RemoteCaret): string => `${other.client} ${other.place}`;

/** Shows the carets of the others. */
export function otherCarets(): Plugin {
  return new Plugin<readonly RemoteCaret[]>({
    key,
    state: {
      init: () => [],
      apply(transaction, others) {
        const set = transaction.getMeta(key) as readonly RemoteCaret[] | undefined;
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

const othersIn = (state: EditorState): readonly RemoteCaret[] => key.getState(state) ?? [];

/**
 * Shows all people in the topic; carets that are known already stay in place.
 * @param people without the editor itself
 */
export function withPeople(state: EditorState, people: readonly LivePerson[]): Transaction {
  const known = new Map(othersIn(state).map((other) => [other.client, other]));
  const others = people.flatMap(({ client, name, place, caret: at }): RemoteCaret[] => {
    const position = known.get(client) ?? at;
    return position ? [{ client, name, place, anchor: position.anchor, head: position.head }] : [];
  });
  return state.tr.setMeta(key, others);
}

/** Moves carets; those of unknown people are left out. */
export function withCarets(
  state: EditorState,
  people: readonly LivePerson[],
  carets: readonly { readonly client: string; readonly caret: Caret }[],
): Transaction {
  const placed = carets.flatMap(({ client, caret: { anchor, head } }): RemoteCaret[] => {
    const person = people.find((one) => one.client === client);
    return person ? [{ client, name: person.name, place: person.place, anchor, head }] : [];
  });
  const moved = new Set(placed.map(({ client }) => client));
  const resting = othersIn(state).filter(({ client }) => !moved.has(client));
  return state.tr.setMeta(key, [...resting, ...placed]);
}

/** The received steps, with the caret of each author after their text. */
export function afterSteps(
  state: EditorState,
  { transaction, ends }: Pick<Received, 'transaction' | 'ends'>,
): Transaction {
  if (ends.size === 0) return transaction;
  const others = othersIn(state).map((other) => {
    const end = ends.get(other.client) ?? transaction.mapping.map(other.head);
    return { ...other, anchor: end, head: end };
  });
  return transaction.setMeta(key, others);
}
