import { elementOf, readableText, readItem, readReference } from '@ukiyo/core/library';
import type { Attributes } from '@ukiyo/core/markup';
import type { Node } from 'prosemirror-model';
import { Plugin, PluginKey } from 'prosemirror-state';
import { Decoration, DecorationSet, type EditorView } from 'prosemirror-view';
import { differenceOf, drawAll, redraw, type Draw } from './drawn.ts';

/** Gives the text of a topic or map; rejects when it cannot be had. */
export type ReadText = (id: string) => Promise<{ title: string; text: string; kind: 'topic' | 'map' }>;

interface Passage {
  readonly title: string;
  readonly text: string;
  /** The type of a borrowed note. */
  readonly note?: string;
}

type Passages = ReadonlyMap<string, Passage>;
interface State {
  readonly passages: Passages;
  readonly decorations: DecorationSet;
}
const key = new PluginKey<State>('borrowed');

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
  const draw =
    (passages: Passages): Draw =>
    (node, position) => {
      const reference = borrowedBy(node);
      const passage = reference === undefined ? undefined : passages.get(reference);
      return passage ? [Decoration.widget(position + 1, () => shown(passage), { key: `${reference}${passage.text}`, side: -1 })] : [];
    };
  const look = (view: EditorView, from: number, to: number): void =>
    view.state.doc.nodesBetween(from, to, (node) => {
      const reference = borrowedBy(node);
      if (reference === undefined || asked.has(reference)) return;
      asked.add(reference);
      void fetchPassage(view, reference);
    });
  return new Plugin<State>({
    key,
    state: {
      init: () => ({ passages: new Map(), decorations: DecorationSet.empty }),
      apply(transaction, state) {
        const found = transaction.getMeta(key) as [string, Passage] | undefined;
        if (found) {
          const passages = new Map(state.passages).set(...found);
          return { passages, decorations: drawAll(transaction.doc, draw(passages)) };
        }
        return transaction.docChanged ? { ...state, decorations: redraw(state.decorations, transaction, draw(state.passages)) } : state;
      },
    },
    view(view) {
      look(view, 0, view.state.doc.content.size);
      return {
        update(_view, before) {
          const range = before.doc === view.state.doc ? undefined : differenceOf(before.doc, view.state.doc);
          if (range) look(view, range.from, range.to);
        },
      };
    },
    props: { decorations: (state) => key.getState(state)?.decorations },
  });
}

/** Where what the element shows has its home. */
export const borrowedBy = (node: Node): string | undefined => ((node.attrs['attributes'] ?? {}) as Attributes)['conref'];

function shown({ title, text, note }: Passage): HTMLElement {
  const dom = document.createElement('div');
  dom.className = 'borrowed-text';
  dom.contentEditable = 'false';
  const from = document.createElement('span');
  from.className = 'borrowed-from';
  from.textContent = `borrowed · ${title}`;
  if (note !== undefined) dom.dataset['note'] = note;
  dom.append(text, from);
  return dom;
}
