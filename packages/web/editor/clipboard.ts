import { editorSchema, pasteBlocks } from '@ukiyo/core/editing';
import { contentOfHtml } from '@ukiyo/core/html';
import { element, type Element, type Node as XmlNode } from '@ukiyo/core/markup';
import { Slice } from 'prosemirror-model';
import { Plugin } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';

/** The type under which parts of topics travel between topics, with everything that they are. */
const ownType = 'application/x-ukiyo-part';
const largest = 20 * 1024 * 1024;

function readTree(node: Node): XmlNode[] {
  if (node instanceof Text) return node.data === '' ? [] : [node.data];
  if (!(node instanceof globalThis.Element)) return [];
  const attributes = Object.fromEntries([...node.attributes].map(({ name, value }) => [name, value]));
  return [element(node.localName, attributes, [...node.childNodes].flatMap(readTree))];
}
/** Read as a browser reads it, without running or loading anything. */
const treeOf = (html: string): Element => element('body', {}, [...new DOMParser().parseFromString(html, 'text/html').body.childNodes].flatMap(readTree));

/** Lines with an empty one between them are paragraphs, as in a letter; so are single lines. */
const paragraphsOf = (text: string): Element[] =>
  text
    .split(/\r?\n+/u)
    .map((line) => line.trim())
    .filter((line) => line !== '')
    .map((line) => element('p', {}, [line]));

function ownPart(data: string): Slice | undefined {
  try {
    return Slice.fromJSON(editorSchema, JSON.parse(data));
  } catch {
    return undefined;
  }
}

/** Copies parts of topics whole, and takes content from elsewhere with its structure. @param tell says what was left out */
export function clipboard(tell: (message: string) => void): Plugin {
  function copy(view: EditorView, event: ClipboardEvent): boolean {
    const { selection } = view.state;
    if (!event.clipboardData || selection.empty) return false;
    const slice = selection.content();
    const { dom, text } = view.serializeForClipboard(slice);
    event.clipboardData.clearData();
    event.clipboardData.setData(ownType, JSON.stringify(slice.toJSON()));
    event.clipboardData.setData('text/html', dom.innerHTML);
    event.clipboardData.setData('text/plain', text);
    event.preventDefault();
    if (event.type === 'cut' && view.editable) view.dispatch(view.state.tr.deleteSelection().scrollIntoView().setMeta('uiEvent', 'cut'));
    return true;
  }
  return new Plugin({
    props: {
      handleDOMEvents: { copy, cut: copy },
      handlePaste(view, { clipboardData }) {
        const { state } = view;
        const html = clipboardData?.getData('text/html') ?? '';
        const text = clipboardData?.getData('text/plain') ?? '';
        const own = ownPart(clipboardData?.getData(ownType) ?? '');
        if (html.length + text.length > largest) {
          tell('This is more than one topic can take in at once. Paste it in parts.');
          return true;
        }
        if (own) view.dispatch(state.tr.replaceSelection(own).scrollIntoView().setMeta('paste', true));
        else if (state.selection.$from.parent.type.spec.code) view.dispatch(state.tr.insertText(text).scrollIntoView().setMeta('paste', true));
        else {
          const { blocks, dropped } = html === '' ? { blocks: paragraphsOf(text), dropped: [] } : contentOfHtml(treeOf(html));
          if (blocks.length === 0) return false;
          const { transaction, as } = pasteBlocks(state, blocks);
          view.dispatch(transaction.setMeta('paste', true));
          const lost = [...dropped, ...(as === 'blocks' ? [] : ['structure that cannot stand here'])];
          if (lost.length > 0) tell(`Pasted without ${lost.join(', ')}.`);
        }
        return true;
      },
    },
  });
}
