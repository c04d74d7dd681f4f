import type { Node as EditorNode } from 'prosemirror-model';
import { Plugin, type Transaction } from 'prosemirror-state';
import { follows, mayContain } from '../grammar/index.ts';
import { symbolOf } from './fitting.ts';
import { special } from './names.ts';

/** Closed parts of a line, and of the elements in it, that their element may not hold. */
function misplacedInLine(line: EditorNode, holder: string): number {
  let count = 0;
  line.forEach((child) => {
    const symbol = child.type.name === special.rawInline ? symbolOf(child) : undefined;
    if (symbol !== undefined && !mayContain(holder, symbol)) count += 1;
    if (child.content.size > 0) count += misplacedInLine(child, child.type.spec.element ?? '');
  });
  return count;
}

/** Whether the element holds a closed block where its content model has no place for it. */
function holdsMisplaced(parent: EditorNode): boolean {
  let holdsClosed = false;
  const symbols: string[] = [];
  parent.forEach((child) => {
    const symbol = symbolOf(child);
    if (symbol === undefined) return;
    holdsClosed ||= child.type.name === special.rawBlock;
    symbols.push(symbol);
  });
  return holdsClosed && !follows(parent.type.spec.element ?? '', symbols);
}

/** Nodes are immutable: what was counted once holds for as long as the node is there. */
const counted = new WeakMap<EditorNode, number>();

/** How many places inside hold something closed that does not belong there. */
export function misplacedIn(parent: EditorNode): number {
  const known = counted.get(parent);
  if (known !== undefined) return known;
  let count = holdsMisplaced(parent) ? 1 : 0;
  parent.forEach((child) => {
    if (child.type.name === special.line)
      count += misplacedInLine(child, parent.type.spec.element ?? '');
    else if (child.isTextblock) count += misplacedInLine(child, child.type.spec.element ?? '');
    else if (!child.isLeaf) count += misplacedIn(child);
  });
  counted.set(parent, count);
  return count;
}

const asItIs = 'asItIs';
/** Lets a text written in the XML or Markdown view in as it is; its faults are marked. */
export const unguarded = (transaction: Transaction): Transaction =>
  transaction.setMeta(asItIs, true);

/**
 * In the schema a closed block may stand anywhere, so that nothing is ever thrown away. This keeps
 * keys and commands from putting one where it does not belong. What is pasted, dropped or undone,
 * or comes from others, comes in as it is, and is marked.
 */
export const structureGuard = new Plugin({
  filterTransaction(transaction, state) {
    const comesAsItIs =
      transaction.getMeta(asItIs) === true ||
      transaction.getMeta('paste') === true ||
      transaction.getMeta('uiEvent') === 'drop' ||
      transaction.getMeta('history$') !== undefined ||
      transaction.getMeta('rebased') !== undefined;
    return (
      !transaction.docChanged ||
      comesAsItIs ||
      misplacedIn(transaction.doc) <= misplacedIn(state.doc)
    );
  },
});
