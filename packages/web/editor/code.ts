import type { Attributes } from '@ukiyo/core/markup';
import type { HLJSApi } from 'highlight.js';
import { Plugin, PluginKey } from 'prosemirror-state';
import { Decoration, type DecorationSet, type EditorView } from 'prosemirror-view';
import { arrive } from './arrivals.ts';
import { drawAll, redraw, type Draw } from './drawn.ts';

const key = new PluginKey<DecorationSet>('code');
/** More would be felt at each key. */
const longest = 20_000;

/** Loaded for the first text with a language: few topics have one, and it is large. */
let highlighter: HLJSApi | undefined;
let isWanted = false;

/**
 * The stretches of a text that its language sets apart, each with its classes.
 * @param highlighted the text as HTML, with a `span` around each of them
 */
function stretches(highlighted: string): { from: number; to: number; class: string }[] {
  const { body } = new DOMParser().parseFromString(`<pre>${highlighted}</pre>`, 'text/html');
  const found: { from: number; to: number; class: string }[] = [];
  let at = 0;
  const visit = (node: Node): void => {
    if (node instanceof Text) {
      at += node.data.length;
      return;
    }
    const from = at;
    node.childNodes.forEach(visit);
    if (node instanceof Element && node.className !== '')
      found.push({ from, to: at, class: node.className });
  };
  // The reader of HTML drops a line break at the very beginning.
  if (highlighted.startsWith('\n')) at = 1;
  body.firstElementChild?.childNodes.forEach(visit);
  return found;
}

/**
 * Colours of program text by its language (`language-…` as in HTML, 4.5.15), for stretches without
 * names in them each for itself.
 */
const drawCode: Draw = (node, position, parent) => {
  if (!node.isText || parent?.type.spec.code !== true || node.text!.length > longest) return [];
  const language = /(?:^|\s)language-([\w+#-]+)/u.exec(
    (parent.attrs['attributes'] as Attributes)['outputclass'] ?? '',
  )?.[1];
  isWanted ||= language !== undefined;
  if (language === undefined || !highlighter?.getLanguage(language)) return [];
  const { value } = highlighter.highlight(node.text!, { language });
  return stretches(value).map(({ from, to, class: name }) =>
    Decoration.inline(position + from, position + to, { class: name }),
  );
};

/** Loads the highlighter once a text wants it, and draws the page again with it. */
function loadWhenWanted(view: EditorView): () => void {
  let isLoading = false;
  return () => {
    if (!isWanted || highlighter || isLoading) return;
    isLoading = true;
    import('highlight.js/lib/common')
      .then((module) => {
        highlighter = module.default;
        arrive(view, (state) => state.tr.setMeta(key, true));
      })
      // Without colours the text is as readable; the next change tries again.
      .catch(() => undefined)
      .finally(() => (isLoading = false));
  };
}

export function codeColours(): Plugin<DecorationSet> {
  return new Plugin<DecorationSet>({
    key,
    state: {
      init: (_config, { doc }) => drawAll(doc, drawCode),
      apply(transaction, before) {
        if (transaction.getMeta(key) === true) return drawAll(transaction.doc, drawCode);
        return transaction.docChanged ? redraw(before, transaction, drawCode) : before;
      },
    },
    props: { decorations: (state) => key.getState(state) },
    view(view) {
      const update = loadWhenWanted(view);
      update();
      return { update };
    },
  });
}
