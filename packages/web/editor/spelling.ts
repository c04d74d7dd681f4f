import type { Attributes } from '@ukiyo/core/markup';
import type { Mark, Node } from 'prosemirror-model';
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
const notProse = new Set([
  'codeph',
  'userinput',
  'systemoutput',
  'filepath',
  'cmdname',
  'apiname',
  'option',
  'parmname',
  'synph',
  'varname',
  'msgnum',
  'tm',
  'keyword',
  'uicontrol',
  'wintitle',
  'tt',
]);

const isProse = (node: Node, parent: Node | null): boolean =>
  node.isText &&
  parent?.type.spec.code !== true &&
  !notProse.has(parent?.type.spec.element ?? '') &&
  node.marks.every(({ type }) => !notProse.has(type.spec.element ?? ''));
const wordsIn = (node: Node): { readonly word: string; readonly at: number }[] =>
  [...(node.text ?? '').matchAll(word)]
    .filter(
      ({ 0: found, index }) =>
        !/[\p{N}@/]/u.test(
          `${node.text![index - 1] ?? ''}${node.text![index + found.length] ?? ''}`,
        ),
    )
    .map(({ 0: found, index }) => ({ word: found.replaceAll('’', "'"), at: index }));

const languageOf = (holder: Node | Mark): string | undefined =>
  (holder.attrs['attributes'] as Attributes | undefined)?.['xml:lang'];
/**
 * Nodes are immutable: whether something inside is in a language of its own holds for as long as
 * the node is there.
 */
const mixed = new WeakMap<Node, boolean>();
function isMixed(node: Node): boolean {
  const known = mixed.get(node);
  if (known !== undefined) return known;
  let found =
    languageOf(node) !== undefined || node.marks.some((mark) => languageOf(mark) !== undefined);
  node.forEach((child) => (found ||= isMixed(child)));
  mixed.set(node, found);
  return found;
}
/**
 * Text in another language than the dictionary's (XML 1.0, 2.12: a language holds for all that is
 * inside).
 */
function foreignTexts(document: Node, isForeign: (language: string) => boolean): Set<Node> {
  const found = new Set<Node>();
  const visit = (node: Node, language: string | undefined): void => {
    const own = languageOf(node) ?? language;
    if (own === language && !isMixed(node) && (own === undefined || !isForeign(own))) return;
    if (node.isText) {
      const spoken = node.marks.map(languageOf).find((one) => one !== undefined) ?? own;
      if (spoken !== undefined && isForeign(spoken)) found.add(node);
    }
    node.forEach((child) => visit(child, own));
  };
  visit(document, undefined);
  return found;
}

const draw =
  (unknown: ReadonlySet<string>, foreign: ReadonlySet<Node>): Draw =>
  (node, position, parent) =>
    isProse(node, parent) && !foreign.has(node)
      ? wordsIn(node)
          .filter((one) => unknown.has(one.word))
          .map((one) =>
            Decoration.inline(position + one.at, position + one.at + one.word.length, {
              class: 'misspelt',
            }),
          )
      : [];

/**
 * Marks words that are in no list.
 * @param language of the dictionary: text in another one is left alone
 * @param ask is told of words that were not seen before; their judgement comes by `judged`
 */
export function spellingMarks(
  language: () => string,
  ask: (words: readonly string[]) => void,
  choose: (view: EditorView) => boolean,
): Plugin<State> {
  const primary = (tag: string): string => tag.split('-')[0]!.toLowerCase();
  const foreignIn = (document: Node): Set<Node> =>
    foreignTexts(document, (one) => primary(one) !== primary(language()));
  const seen = new Set<string>();
  const look = (view: EditorView, from: number, to: number): void => {
    const fresh: string[] = [];
    const foreign = foreignIn(view.state.doc);
    view.state.doc.nodesBetween(from, to, (node, _position, parent) => {
      if (!isProse(node, parent) || foreign.has(node)) return;
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
        if (unknown)
          return {
            unknown,
            decorations: drawAll(transaction.doc, draw(unknown, foreignIn(transaction.doc))),
          };
        return transaction.docChanged
          ? {
              ...state,
              decorations: redraw(
                state.decorations,
                transaction,
                draw(state.unknown, foreignIn(transaction.doc)),
              ),
            }
          : state;
      },
    },
    view(view) {
      look(view, 0, view.state.doc.content.size);
      return {
        update(_view, before) {
          const range =
            before.doc === view.state.doc ? undefined : differenceOf(before.doc, view.state.doc);
          if (range)
            look(
              view,
              Math.max(0, range.from - 1),
              Math.min(view.state.doc.content.size, range.to + 1),
            );
        },
      };
    },
    props: {
      decorations: (state) => key.getState(state)?.decorations,
      handleDOMEvents: {
        contextmenu(view, event) {
          if (!(event.target instanceof Element) || !event.target.closest('.misspelt'))
            return false;
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
export const unknownIn = (state: EditorState): ReadonlySet<string> =>
  key.getState(state)?.unknown ?? new Set();
export const judged = (transaction: Transaction, unknown: ReadonlySet<string>): Transaction =>
  transaction.setMeta(key, unknown);

/** The misspelt word at the caret. */
export function misspeltAt(
  state: EditorState,
): { readonly word: string; readonly from: number; readonly to: number } | undefined {
  const { head } = state.selection;
  const [found] = key.getState(state)?.decorations.find(head, head) ?? [];
  return (
    found && { word: state.doc.textBetween(found.from, found.to), from: found.from, to: found.to }
  );
}
