import { editorSchema, pasteBlocks } from '@ukiyo/core/editing';
import { contentOfHtml } from '@ukiyo/core/html';
import {
  element,
  findAll,
  isElement,
  type Element,
  type Node as XmlNode,
} from '@ukiyo/core/markup';
import { Slice } from 'prosemirror-model';
import { Plugin, type EditorState } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';

/** The type under which parts of topics travel between topics, with everything that they are. */
const ownType = 'application/x-ukiyo-part';
const largest = 20 * 1024 * 1024;

function readTree(node: Node): XmlNode[] {
  if (node instanceof Text) return node.data === '' ? [] : [node.data];
  if (!(node instanceof globalThis.Element)) return [];
  const attributes = Object.fromEntries(
    [...node.attributes].map(({ name, value }) => [name, value]),
  );
  return [element(node.localName, attributes, [...node.childNodes].flatMap(readTree))];
}
/** Read as a browser reads it, without running or loading anything. */
const treeOf = (html: string): Element =>
  element(
    'body',
    {},
    [...new DOMParser().parseFromString(html, 'text/html').body.childNodes].flatMap(readTree),
  );

/** Rows of words between tabs, as spreadsheets give them beside their own format, are a table. */
function tableOf(text: string): Element[] {
  const rows = text.replace(/\r?\n$/u, '').split(/\r?\n/u);
  if (!rows.some((row) => row.includes('\t'))) return [];
  const cells = rows.map((row) => row.split('\t'));
  const columns = Math.max(...cells.map((row) => row.length));
  const row = (words: readonly string[]): Element =>
    element(
      'row',
      {},
      Array.from({ length: columns }, (_, at) =>
        element('entry', {}, words[at] ? [words[at]] : []),
      ),
    );
  return [
    element('table', {}, [
      element('tgroup', { cols: String(columns) }, [element('tbody', {}, cells.map(row))]),
    ]),
  ];
}

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

/** Images that lie in the content itself, with what they are. */
const embedded = /^data:image\/(png|jpeg|gif|webp|svg\+xml);base64,([A-Za-z0-9+/=\s]+)$/u;
const mostImages = 40;

function fileFrom(source: string, name: string): File | undefined {
  const [, type = '', data = ''] = embedded.exec(source) ?? [];
  if (type === '') return undefined;
  try {
    return new File(
      [Uint8Array.from(atob(data), (letter) => letter.charCodeAt(0))],
      `${name}.${type.replace('jpeg', 'jpg').replace('svg+xml', 'svg')}`,
      { type: `image/${type}` },
    );
  } catch {
    return undefined;
  }
}

export interface ClipboardHost {
  /** Says what was left out, or what goes on. */
  readonly tell: (message: string) => void;
  /** Hears of what was copied. */
  readonly copied: (state: EditorState) => void;
  /** Takes a file into the library; gives its reference. */
  readonly upload: (file: File) => Promise<string | undefined>;
}

/** The content with its own images as images of the library. */
async function withImages(tree: Element, upload: ClipboardHost['upload']): Promise<Element> {
  let count = 0;
  const visit = async (node: XmlNode): Promise<XmlNode> => {
    if (!isElement(node)) return node;
    if (node.name === 'img' && count < mostImages) {
      count += 1;
      const file = fileFrom(node.attributes['src'] ?? '', `pasted-${count}`);
      const reference = file && (await upload(file));
      if (reference !== undefined)
        return { ...node, attributes: { ...node.attributes, src: reference } };
    }
    const children: XmlNode[] = [];
    for (const child of node.children) children.push(await visit(child));
    return { ...node, children };
  };
  return (await visit(tree)) as Element;
}
const hasImages = (tree: Element): boolean =>
  findAll(tree, ({ name, attributes }) => name === 'img' && embedded.test(attributes['src'] ?? ''))
    .length > 0;

/** Content from elsewhere, with what of it cannot be taken. */
type Content = ReturnType<typeof contentOfHtml>;

function take(view: EditorView, { blocks, dropped }: Content, tell: ClipboardHost['tell']): void {
  const { transaction, as } = pasteBlocks(view.state, blocks);
  view.dispatch(transaction.setMeta('paste', true));
  const lost = [...dropped, ...(as === 'blocks' ? [] : ['structure that cannot stand here'])];
  if (lost.length > 0) tell(`Pasted without ${lost.join(', ')}.`);
}

/** Puts what is selected into the clipboard: for topics, for pages of HTML, and as words. */
function copy(view: EditorView, event: ClipboardEvent, host: ClipboardHost): boolean {
  const { selection } = view.state;
  if (!event.clipboardData || selection.empty) return false;
  const slice = selection.content();
  const { dom, text } = view.serializeForClipboard(slice);
  event.clipboardData.clearData();
  event.clipboardData.setData(ownType, JSON.stringify(slice.toJSON()));
  event.clipboardData.setData('text/html', dom.innerHTML);
  event.clipboardData.setData('text/plain', text);
  event.preventDefault();
  if (event.type === 'copy') host.copied(view.state);
  if (event.type === 'cut' && view.editable)
    view.dispatch(view.state.tr.deleteSelection().scrollIntoView().setMeta('uiEvent', 'cut'));
  return true;
}

/** Takes HTML; its images first, where some lie in it. */
function pasteHtml(view: EditorView, tree: Element, { tell, upload }: ClipboardHost): boolean {
  if (hasImages(tree)) {
    tell('Bringing the images along …');
    void withImages(tree, upload).then(
      (whole) => view.isDestroyed || take(view, contentOfHtml(whole), tell),
    );
    return true;
  }
  const content = contentOfHtml(tree);
  if (content.blocks.length === 0) return false;
  take(view, content, tell);
  return true;
}

/** @param isPlain whether the words alone are asked for */
function paste(
  view: EditorView,
  data: DataTransfer | null,
  host: ClipboardHost,
  isPlain: boolean,
): boolean {
  const { state } = view;
  const html = data?.getData('text/html') ?? '';
  const text = data?.getData('text/plain') ?? '';
  const own = ownPart(data?.getData(ownType) ?? '');
  if (html.length + text.length > largest) {
    host.tell('This is more than one topic can take in at once. Paste it in parts.');
    return true;
  }
  if (own && !isPlain) {
    view.dispatch(state.tr.replaceSelection(own).scrollIntoView().setMeta('paste', true));
    return true;
  }
  if (state.selection.$from.parent.type.spec.code) {
    view.dispatch(state.tr.insertText(text).scrollIntoView().setMeta('paste', true));
    return true;
  }
  if (html !== '' && !isPlain) return pasteHtml(view, treeOf(html), host);
  const rows = isPlain ? [] : tableOf(text);
  const blocks = rows.length > 0 ? rows : paragraphsOf(text);
  if (blocks.length === 0) return false;
  take(view, { blocks, dropped: [] }, host.tell);
  return true;
}

/**
 * Copies parts of topics whole, and takes content from elsewhere with its structure and the images
 * that lie in it.
 */
export function clipboard(host: ClipboardHost): Plugin {
  let isPlain = false;
  return new Plugin({
    props: {
      handleDOMEvents: {
        copy: (view, event) => copy(view, event, host),
        cut: (view, event) => copy(view, event, host),
        keydown(_view, event) {
          isPlain = event.shiftKey && event.key.toLowerCase() === 'v';
          return false;
        },
      },
      handlePaste: (view, { clipboardData }) => paste(view, clipboardData, host, isPlain),
    },
  });
}
