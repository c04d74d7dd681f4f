import type { Attributes } from '@ukiyo/core/markup';
import hljs from 'highlight.js/lib/common';
import { Plugin, PluginKey } from 'prosemirror-state';
import { Decoration, type DecorationSet } from 'prosemirror-view';
import { drawAll, redraw, type Draw } from './drawn.ts';

const key = new PluginKey<DecorationSet>('code');
/** More would be felt at each key. */
const longest = 20_000;

/** The stretches of a text that the language sets apart, each with its classes. */
function stretches(code: string, language: string): { from: number; to: number; class: string }[] {
  const { body } = new DOMParser().parseFromString(
    `<pre>${hljs.highlight(code, { language }).value}</pre>`,
    'text/html',
  );
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
  if (code.startsWith('\n')) at = 1;
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
  if (language === undefined || !hljs.getLanguage(language)) return [];
  return stretches(node.text!, language).map(({ from, to, class: name }) =>
    Decoration.inline(position + from, position + to, { class: name }),
  );
};

export function codeColours(): Plugin<DecorationSet> {
  return new Plugin<DecorationSet>({
    key,
    state: {
      init: (_config, { doc }) => drawAll(doc, drawCode),
      apply: (transaction, before) =>
        transaction.docChanged ? redraw(before, transaction, drawCode) : before,
    },
    props: { decorations: (state) => key.getState(state) },
  });
}
