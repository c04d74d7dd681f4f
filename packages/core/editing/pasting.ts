import { Fragment, Slice, type Node as EditorNode } from 'prosemirror-model';
import { Selection, type EditorState, type Transaction } from 'prosemirror-state';
import { mayContain } from '../grammar/index.ts';
import {
  childNamed,
  element,
  isElement,
  textOf,
  type Element,
  type Node as XmlNode,
} from '../markup/index.ts';
import { contentsOf } from '../tables/index.ts';
import { textElementAt } from './fitting.ts';
import { misplacedIn } from './guard.ts';
import { fillCells } from './table-editing.ts';
import { blockFrom, inlinesFrom } from './to-editor.ts';

export interface Pasted {
  readonly transaction: Transaction;
  /**
   * Whether it came in as it was, as paragraphs, or as words of the line: what the place could
   * take.
   */
  readonly as: 'blocks' | 'paragraphs' | 'words';
}

/** Inline content without what the element may not hold: its words stay. */
function allowedIn(holder: string, nodes: readonly XmlNode[]): XmlNode[] {
  return nodes.flatMap((node): XmlNode[] => {
    if (!isElement(node)) return typeof node === 'string' ? [node] : [];
    return mayContain(holder, node.name)
      ? [element(node.name, node.attributes, allowedIn(node.name, node.children))]
      : allowedIn(holder, node.children);
  });
}

/** The words of blocks as paragraphs: what a place takes that takes no structure. */
function asParagraphs(blocks: readonly Element[]): Element[] {
  const isParagraph = ({ name }: Element): boolean =>
    ['p', 'title', 'li', 'dt', 'dd', 'entry', 'codeblock'].includes(name);
  return blocks.flatMap((block) => {
    const inner = block.children
      .filter(isElement)
      .filter((child) => isParagraph(child) || child.children.some(isElement));
    if (
      isParagraph(block) &&
      !block.children.some((child) => isElement(child) && isParagraph(child))
    )
      return textOf(block).trim() === ''
        ? []
        : [element('p', {}, block.name === 'p' ? block.children : [textOf(block)])];
    return asParagraphs(inner);
  });
}

/**
 * Puts blocks behind the block at the caret, at the nearest element that takes them all; an empty
 * line that may go is replaced.
 */
function insertBlocks(state: EditorState, nodes: readonly EditorNode[]): Transaction | undefined {
  const begun = (): Transaction => (state.selection.empty ? state.tr : state.tr.deleteSelection());
  const { $from } = begun().selection;
  const content = Fragment.from(nodes);
  const isEmptyLine = $from.parent.isTextblock && $from.parent.content.size === 0;
  for (let depth = $from.depth - 1; depth > 0; depth -= 1) {
    const parent = $from.node(depth);
    const after = $from.indexAfter(depth);
    const replaces =
      isEmptyLine && depth === $from.depth - 1 && parent.canReplace(after - 1, after, content);
    if (!replaces && !parent.canReplace(after, after, content)) continue;
    const start = replaces ? $from.before(depth + 1) : $from.after(depth + 1);
    const tr = begun().replaceWith(start, $from.after(depth + 1), content);
    // A closed block may stand anywhere in the schema, but not so in the content model.
    if (misplacedIn(tr.doc) > misplacedIn(state.doc)) continue;
    return tr
      .setSelection(Selection.near(tr.doc.resolve(start + content.size), -1))
      .scrollIntoView();
  }
  return undefined;
}

/** A table and nothing else, into a table: its cells go into the cells. */
function intoCells(state: EditorState, blocks: readonly Element[]): Transaction | undefined {
  const [only] = blocks;
  const group =
    only?.name === 'table'
      ? childNamed(only, 'tgroup')
      : only?.name === 'simpletable'
        ? only
        : undefined;
  return blocks.length === 1 && group ? fillCells(state, contentsOf(group)) : undefined;
}

/**
 * Takes content from outside at the caret, with as much of its structure as the place allows;
 * always valid.
 */
export function pasteBlocks(state: EditorState, blocks: readonly Element[]): Pasted {
  const cells = intoCells(state, blocks);
  if (cells) return { transaction: cells, as: 'blocks' };
  const { $from } = state.selection;
  const holder = textElementAt($from);
  const [only] = blocks;
  if (blocks.length === 1 && only!.name === 'p' && holder !== undefined) {
    const words = inlinesFrom($from.parent.type, allowedIn(holder, only!.children));
    return {
      transaction: state.tr
        .replaceSelection(new Slice(Fragment.from(words), 0, 0))
        .scrollIntoView(),
      as: 'blocks',
    };
  }
  const whole = insertBlocks(state, blocks.map(blockFrom));
  if (whole) return { transaction: whole, as: 'blocks' };
  const paragraphs = asParagraphs(blocks);
  const plain = paragraphs.length > 0 ? insertBlocks(state, paragraphs.map(blockFrom)) : undefined;
  if (plain) return { transaction: plain, as: 'paragraphs' };
  return {
    transaction: state.tr
      .insertText(blocks.map(textOf).join(' ').replace(/\s+/gu, ' ').trim())
      .scrollIntoView(),
    as: 'words',
  };
}
