import {
  Fragment,
  type Node as EditorNode,
  type NodeType,
  type ResolvedPos,
} from 'prosemirror-model';
import { Selection, TextSelection, type Command } from 'prosemirror-state';
import { canSplit } from 'prosemirror-transform';
import { isA } from '../grammar/index.ts';
import { fittingTypes } from './fitting.ts';
import { special } from './names.ts';
import { editorSchema } from './schema.ts';

const elementOf = (node: EditorNode): string => node.type.spec.element ?? '';

/**
 * Depth of the nearest list item, step or the like around a place; not beyond the table cell it is
 * in.
 */
export function itemDepth($at: ResolvedPos): number | undefined {
  for (let depth = $at.depth; depth > 0; depth -= 1) {
    const element = elementOf($at.node(depth));
    if (isA(element, 'li') || isA(element, 'dlentry')) return depth;
    if (isA(element, 'entry') || isA(element, 'stentry')) return undefined;
  }
  return undefined;
}

/**
 * Enter in an item: an empty one ends the list; at the end of the item's first line a new item
 * follows; elsewhere the line is split.
 */
export const nextItem: Command = (state, dispatch) => {
  const { $from, empty } = state.selection;
  if (!empty || !$from.parent.isTextblock) return false;
  const depth = itemDepth($from);
  if (depth === undefined) return false;
  const item = $from.node(depth);
  const isFirstLine = $from.index(depth) === 0 && $from.depth === depth + 1;
  const isEmpty = item.textContent === '' && item.childCount === 1;
  if (isEmpty) return leaveList(state, dispatch);
  if (
    !isFirstLine &&
    !($from.parent.content.size === 0 && $from.index(depth) === item.childCount - 1)
  )
    return false;
  if (!isFirstLine || ($from.parentOffset === $from.parent.content.size && item.childCount > 1)) {
    // The item holds more: a new one follows it whole; an empty last line is left behind.
    const fresh = item.type.createAndFill();
    if (!fresh) return false;
    if (dispatch) {
      const tr = state.tr.insert($from.after(depth), fresh);
      const at = $from.after(depth);
      tr.setSelection(Selection.near(tr.doc.resolve(at + 1), 1));
      if (!isFirstLine) tr.delete($from.before(), $from.after());
      dispatch(tr.scrollIntoView());
    }
    return true;
  }
  if (!canSplit(state.doc, $from.pos, 2)) return false;
  dispatch?.(state.tr.split($from.pos, 2).scrollIntoView());
  return true;
};

/** Takes an empty last item away and goes on after the list. */
const leaveList: Command = (state, dispatch) => {
  const { $from } = state.selection;
  const depth = itemDepth($from);
  if (depth === undefined) return false;
  const list = $from.node(depth - 1);
  const outer = $from.node(depth - 2);
  const after = $from.indexAfter(depth - 2);
  if ($from.index(depth - 1) !== list.childCount - 1 || list.childCount < 2) return false;
  const paragraph = [editorSchema.nodes[special.line]!, editorSchema.nodes['p']!].find((type) =>
    outer.canReplaceWith(after, after, type),
  );
  // Where no paragraph may follow, as after the steps of a task: the first part that may.
  const next =
    paragraph?.createAndFill() ??
    fittingTypes(outer, after)
      .find((type) => !type.inlineContent)
      ?.createAndFill();
  if (!next) return false;
  if (dispatch) {
    const tr = state.tr.delete($from.before(depth), $from.after(depth));
    const at = tr.mapping.map($from.after(depth - 1));
    tr.insert(at, next).setSelection(Selection.near(tr.doc.resolve(at + 1), 1));
    dispatch(tr.scrollIntoView());
  }
  return true;
};

/** What a nested list is made of: items of the same kind, but steps hold substeps. */
function nestedTypes(
  list: EditorNode,
  item: EditorNode,
): { list: NodeType; item: NodeType } | undefined {
  if (elementOf(item) === 'step')
    return { list: editorSchema.nodes['substeps']!, item: editorSchema.nodes['substep']! };
  return isA(elementOf(item), 'li') && !isA(elementOf(item), 'substep')
    ? { list: list.type, item: item.type }
    : undefined;
}

/** Makes the item part of the one before it, in a list of its own. */
export const nestItem: Command = (state, dispatch) => {
  const { $from } = state.selection;
  const depth = itemDepth($from);
  if (depth === undefined || depth < 2) return false;
  const list = $from.node(depth - 1);
  const item = $from.node(depth);
  const index = $from.index(depth - 1);
  const types = nestedTypes(list, item);
  if (!types || index === 0) return false;
  const before = list.child(index - 1);
  const nested =
    types.item === item.type
      ? item
      : types.item.validContent(item.content)
        ? types.item.create(item.attrs, item.content)
        : undefined;
  if (!nested) return false;
  const last = before.lastChild;
  const inner =
    last?.type === types.list
      ? last.copy(last.content.addToEnd(nested))
      : types.list.create(null, nested);
  const host = before.copy(
    last?.type === types.list
      ? before.content.replaceChild(before.childCount - 1, inner)
      : before.content.addToEnd(inner),
  );
  if (!host.type.validContent(host.content) || !inner.type.validContent(inner.content))
    return false;
  if (dispatch) {
    const start = $from.before(depth) - before.nodeSize;
    const tr = state.tr.replaceWith(start, $from.after(depth), host);
    // The item ends just before the ends of its list and of the item that holds it.
    const moved = start + host.nodeSize - 2 - nested.nodeSize;
    dispatch(
      tr
        .setSelection(TextSelection.near(tr.doc.resolve(moved + ($from.pos - $from.before(depth)))))
        .scrollIntoView(),
    );
  }
  return true;
};

/**
 * Takes the item out of its list: into the list around it, with what follows it as its own list;
 * or, from the outermost list, as plain blocks.
 */
export const unnestItem: Command = (state, dispatch) => {
  const { $from } = state.selection;
  const depth = itemDepth($from);
  if (depth === undefined || depth < 2) return false;
  const hostDepth = depth - 2;
  const host = $from.node(hostDepth);
  const isNested = isA(elementOf(host), 'li') && hostDepth > 1;
  return isNested
    ? intoOuterList($from, depth)(state, dispatch)
    : outOfList($from, depth)(state, dispatch);
};

const intoOuterList =
  ($from: ResolvedPos, depth: number): Command =>
  (state, dispatch) => {
    const list = $from.node(depth - 1);
    const item = $from.node(depth);
    const host = $from.node(depth - 2);
    const outer = $from.node(depth - 3);
    const index = $from.index(depth - 1);
    const listIndex = $from.index(depth - 2);
    const following = childrenOf(list).slice(index + 1);
    const lifted =
      host.type === item.type
        ? item
        : host.type.validContent(item.content)
          ? host.type.create(item.attrs, item.content)
          : undefined;
    if (!lifted) return false;
    const kept =
      following.length > 0
        ? lifted.copy(lifted.content.addToEnd(list.type.create(null, following)))
        : lifted;
    const rest = childrenOf(list).slice(0, index);
    const hostChildren = childrenOf(host);
    const hostLeft = host.copy(
      Fragment.from([
        ...hostChildren.slice(0, listIndex),
        ...(rest.length > 0 ? [list.copy(Fragment.from(rest))] : []),
        ...hostChildren.slice(listIndex + 1),
      ]),
    );
    if (!kept.type.validContent(kept.content) || !hostLeft.type.validContent(hostLeft.content))
      return false;
    const hostIndex = $from.index(depth - 3);
    if (!outer.canReplace(hostIndex, hostIndex + 1, Fragment.from([hostLeft, kept]))) return false;
    if (dispatch) {
      const start = $from.before(depth - 2);
      const tr = state.tr.replaceWith(start, $from.after(depth - 2), [hostLeft, kept]);
      dispatch(
        tr
          .setSelection(
            TextSelection.near(
              tr.doc.resolve(start + hostLeft.nodeSize + ($from.pos - $from.before(depth))),
            ),
          )
          .scrollIntoView(),
      );
    }
    return true;
  };

const outOfList =
  ($from: ResolvedPos, depth: number): Command =>
  (state, dispatch) => {
    const list = $from.node(depth - 1);
    const item = $from.node(depth);
    const parent = $from.node(depth - 2);
    const index = $from.index(depth - 1);
    const listIndex = $from.index(depth - 2);
    const part = (children: EditorNode[]): EditorNode[] =>
      children.length === 0 ? [] : [list.copy(Fragment.from(children))];
    const paragraph = editorSchema.nodes['p']!;
    // A line without a tag becomes a paragraph where a line may not stand.
    const plain = (asParagraph: boolean): EditorNode[] =>
      childrenOf(item).map((child) =>
        asParagraph && child.type.name === special.line
          ? paragraph.create(null, child.content)
          : child,
      );
    for (const asParagraph of [true, false]) {
      const blocks = [
        ...part(childrenOf(list).slice(0, index)),
        ...plain(asParagraph),
        ...part(childrenOf(list).slice(index + 1)),
      ];
      if (
        blocks.some((block) => !block.type.validContent(block.content)) ||
        !parent.canReplace(listIndex, listIndex + 1, Fragment.from(blocks))
      )
        continue;
      if (dispatch) {
        const start = $from.before(depth - 1);
        const tr = state.tr.replaceWith(start, $from.after(depth - 1), blocks);
        const before = part(childrenOf(list).slice(0, index)).reduce(
          (sum, block) => sum + block.nodeSize,
          0,
        );
        dispatch(
          tr
            .setSelection(
              TextSelection.near(
                tr.doc.resolve(start + before + ($from.pos - $from.before(depth) - 1)),
              ),
            )
            .scrollIntoView(),
        );
      }
      return true;
    }
    return false;
  };

export function childrenOf(node: EditorNode): EditorNode[] {
  return Array.from({ length: node.childCount }, (_, index) => node.child(index));
}
