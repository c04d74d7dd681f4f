import type { EditorView } from 'prosemirror-view';

export interface PopItem {
  readonly key: string;
  readonly label: string;
  /** Address of a small picture of it. */
  readonly image?: string;
  /** Said beside the label. */
  readonly aside?: string;
  /** One line below it. */
  readonly help?: string;
  /** Of the group it belongs to; groups follow one another. */
  readonly head?: string;
  /** Whether there is something inside to choose from, by Tab. */
  readonly hasMore?: boolean;
}

export interface PopPlace {
  readonly left: number;
  readonly top?: number;
  readonly bottom?: number;
}

/**
 * Beside the caret, above the line where there is more room: the words that the list is about stay
 * in sight.
 */
export function placeAtCaret(view: EditorView): PopPlace {
  const box = view.coordsAtPos(view.state.selection.from);
  const vertical =
    window.innerHeight - box.bottom > 400
      ? { top: box.bottom + 6 }
      : { bottom: window.innerHeight - box.top + 6 };
  return { left: Math.min(box.left, window.innerWidth - 400), ...vertical };
}
