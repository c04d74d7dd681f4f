import { isA } from '@ukiyo/core/grammar';
import type { ResolvedPos } from 'prosemirror-model';
import { Plugin, type EditorState } from 'prosemirror-state';
import { Decoration, DecorationSet } from 'prosemirror-view';

function around($head: ResolvedPos, depth: number): Decoration[] {
  const body = $head.node(depth);
  if (!isA(body.type.spec.element ?? '', 'body')) return [];
  const at = $head.index(depth);
  let position = $head.start(depth);
  const marked: Decoration[] = [];
  for (let index = 0; index < Math.min(at + 2, body.childCount); index += 1) {
    const end = position + body.child(index).nodeSize;
    if (index >= at - 1) marked.push(Decoration.node(position, end, { class: 'at-hand' }));
    position = end;
  }
  return marked;
}

/**
 * Marks the part of the body that holds the caret, and those beside it, to be laid out whatever
 * happens. Parts out of sight are not, and to the browser a new one is out of sight until its next
 * frame: a letter typed into it before that lands behind the caret.
 */
export const forceLayoutNearCaret = (): Plugin =>
  new Plugin({
    props: {
      decorations: ({ doc, selection: { $head } }: EditorState) =>
        DecorationSet.create(
          doc,
          Array.from({ length: $head.depth + 1 }, (_, depth) => around($head, depth)).flat(),
        ),
    },
  });
