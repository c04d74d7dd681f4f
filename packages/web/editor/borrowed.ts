import { elementOf, readableText, readItem, readReference } from '@ukiyo/core/library';
import type { Attributes } from '@ukiyo/core/markup';
import { Plugin, PluginKey } from 'prosemirror-state';
import { Decoration, DecorationSet, type EditorView } from 'prosemirror-view';

/** Gives the text of a topic or map; rejects when it cannot be had. */
export type ReadText = (id: string) => Promise<{ title: string; text: string; kind: 'topic' | 'map' }>;

interface Passage {
  readonly title: string;
  readonly text: string;
  /** The type of a borrowed note. */
  readonly note?: string;
}

const key = new PluginKey<ReadonlyMap<string, Passage>>('borrowed');

/** Shows in every borrowed passage what is borrowed, and from which topic. */
export function borrowedPassages(self: string, read: ReadText): Plugin {
  const asked = new Set<string>();
  const fetchPassage = async (view: EditorView, reference: string): Promise<void> => {
    const target = readReference(reference, self);
    let passage: Passage = { title: 'nowhere', text: 'This passage is not in the library.' };
    if (target.kind === 'item') {
      try {
        const lender = await read(target.id);
        const root = readItem(target.id, lender.kind, lender.text).root;
        const found = root && elementOf(root, target.element);
        if (found) passage = { title: lender.title, text: readableText(found.element), ...(found.element.name === 'note' ? { note: found.element.attributes['type'] ?? 'note' } : {}) };
      } catch {
        // the passage keeps saying that it is not there
      }
    }
    if (!view.isDestroyed) view.dispatch(view.state.tr.setMeta(key, [reference, passage]));
  };
  return new Plugin<ReadonlyMap<string, Passage>>({
    key,
    state: {
      init: () => new Map(),
      apply(transaction, passages) {
        const found = transaction.getMeta(key) as [string, Passage] | undefined;
        return found ? new Map(passages).set(...found) : passages;
      },
    },
    view: (view) => {
      const look = (): void =>
        view.state.doc.descendants((node) => {
          const { conref } = (node.attrs['attributes'] ?? {}) as Attributes;
          if (conref === undefined || asked.has(conref)) return;
          asked.add(conref);
          void fetchPassage(view, conref);
        });
      look();
      return { update: look };
    },
    props: {
      decorations(state) {
        const passages = key.getState(state) ?? new Map<string, Passage>();
        const decorations: Decoration[] = [];
        state.doc.descendants((node, position) => {
          const { conref } = (node.attrs['attributes'] ?? {}) as Attributes;
          const passage = conref === undefined ? undefined : passages.get(conref);
          if (!passage) return;
          const show = (): HTMLElement => {
            const dom = document.createElement('div');
            dom.className = 'borrowed-text';
            dom.contentEditable = 'false';
            const from = document.createElement('span');
            from.className = 'borrowed-from';
            from.textContent = `borrowed · ${passage.title}`;
            if (passage.note !== undefined) dom.dataset['note'] = passage.note;
            dom.append(passage.text, from);
            return dom;
          };
          decorations.push(Decoration.widget(position + 1, show, { key: `${conref}${passage.text}`, side: -1 }));
        });
        return DecorationSet.create(state.doc, decorations);
      },
    },
  });
}
