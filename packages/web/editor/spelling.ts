import type { Node } from 'prosemirror-model';
import { Plugin, PluginKey, type EditorState, type Transaction } from 'prosemirror-state';
import { Decoration, DecorationSet, type EditorView } from 'prosemirror-view';
import { differenceOf, drawAll, redraw, type Draw } from './drawn.ts';

interface State {
  /** Words that are in no list. */
  readonly unknown: ReadonlySet<string>;
  readonly decorations: DecorationSet;
}
const key = new PluginKey<State>('spelling');
/** A word with letters alone; what has digits is a name or a code. */
const word = /\p{L}[\p{L}\p{M}’']*\p{L}/gu;
/** Words that no dictionary is asked about. */
const notProse = new Set(['codeph', 'userinput', 'systemoutput', 'filepath', 'cmdname', 'apiname', 'option', 'parmname', 'synph', 'varname', 'msgnum', 'tm', 'keyword', 'uicontrol', 'wintitle', 'tt']);

const isProse = (node: Node, parent: Node | null): boolean =>
  node.isText && parent?.type.spec.code !== true && !notProse.has(parent?.type.spec.element ?? '') && node.marks.every(({ type }) => !notProse.has(type.spec.element ?? ''));
const wordsIn = (node: Node): { readonly word: string; readonly at: number }[] =>
  [...(node.text ?? '').matchAll(word)]
    .filter(({ 0: found, index }) => !/[\p{N}@/]/u.test(`${node.text![index - 1] ?? ''}${node.text![index + found.length] ?? ''}`))
    .map(({ 0: found, index }) => ({ word: found.replaceAll('’', "'"), at: index }));

const draw =
  (unknown: ReadonlySet<string>): Draw =>
  (node, position, parent) =>
    isProse(node, parent)
      ? wordsIn(node)
          .filter((one) => unknown.has(one.word))
          .map((one) => Decoration.inline(position + one.at, position + one.at + one.word.length, { class: 'misspelt' }))
      : [];

/** Marks words that are in no list. @param ask is told of words that were not seen before; their judgement comes by `judged` */
export function spellingMarks(ask: (words: readonly string[]) => void, choose: (view: EditorView) => boolean): Plugin<State> {
  const seen = new Set<string>();
  const look = (view: EditorView, from: number, to: number): void => {
    const fresh: string[] = [];
    view.state.doc.nodesBetween(from, to, (node, _position, parent) => {
      if (!isProse(node, parent)) return;
      for (const { word: found } of wordsIn(node)) {
        if (seen.has(found)) continue;
        seen.add(found);
        fresh.push(found);
      }
    });
    if (fresh.length > 0) ask(fresh);
  };
  return new Plugin<State>({
    key,
    state: {
      init: () => ({ unknown: new Set(), decorations: DecorationSet.empty }),
      apply(transaction, state) {
        const unknown = transaction.getMeta(key) as ReadonlySet<string> | undefined;
        if (unknown) return { unknown, decorations: drawAll(transaction.doc, draw(unknown)) };
        return transaction.docChanged ? { ...state, decorations: redraw(state.decorations, transaction, draw(state.unknown)) } : state;
      },
    },
    view(view) {
      look(view, 0, view.state.doc.content.size);
      return {
        update(_view, before) {
          const range = before.doc === view.state.doc ? undefined : differenceOf(before.doc, view.state.doc);
          if (range) look(view, Math.max(0, range.from - 1), Math.min(view.state.doc.content.size, range.to + 1));
        },
      };
    },
    props: {
      decorations: (state) => key.getState(state)?.decorations,
      handleDOMEvents: {
        contextmenu(view, event) {
          if (!(event.target instanceof Element) || !event.target.closest('.misspelt')) return false;
          event.preventDefault();
          // The browser puts the caret there with its own event, which is still on its way.
          setTimeout(() => choose(view));
          return true;
        },
      },
    },
  });
}

/** Words that are in no list: all that were found so far. */
export const unknownIn = (state: EditorState): ReadonlySet<string> => key.getState(state)?.unknown ?? new Set();
export const judged = (transaction: Transaction, unknown: ReadonlySet<string>): Transaction => transaction.setMeta(key, unknown);

/** The misspelt word at the caret. */
export function misspeltAt(state: EditorState): { readonly word: string; readonly from: number; readonly to: number } | undefined {
  const { head } = state.selection;
  const [found] = key.getState(state)?.decorations.find(head, head) ?? [];
  return found && { word: state.doc.textBetween(found.from, found.to), from: found.from, to: found.to };
}
