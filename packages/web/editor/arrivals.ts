import { Plugin, type EditorState, type Transaction } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';

/**
 * Takes over what a click or a key has done to the page by now. The browser moves its caret at once
 * and tells so in a later task, on a busy machine much later: keys pressed before that would act at
 * the old place, and anything drawn before that would put the caret back there. ProseMirror reads
 * the page whenever the event comes, so it is sent early.
 */
export function catchUp({ composing, dom }: EditorView): void {
  if (!composing) dom.ownerDocument.dispatchEvent(new Event('selectionchange'));
}

/** Pages that a pointer presses, with what waits for its release. */
const pressed = new WeakMap<EditorView, (() => void)[]>();

/**
 * Shows on the page what did not come from it: titles that links lead to, borrowed passages,
 * spelling. While a pointer presses the page this waits, so that a click ends at the words at which
 * it began.
 * @param transaction made of the state of that moment
 */
export function arrive(view: EditorView, transaction: (state: EditorState) => Transaction): void {
  const show = (): void => {
    if (view.isDestroyed) return;
    catchUp(view);
    view.dispatch(transaction(view.state));
  };
  const waiting = pressed.get(view);
  if (waiting) waiting.push(show);
  else show();
}

function press(view: EditorView, { button }: PointerEvent): void {
  if (button !== 0 || pressed.has(view)) return;
  pressed.set(view, []);
  const ends = new AbortController();
  const release = (): void => {
    const waiting = pressed.get(view) ?? [];
    pressed.delete(view);
    for (const show of waiting) show();
  };
  // After the events of the click, which ask for the words below the pointer.
  const end = (): void => {
    ends.abort();
    setTimeout(release);
  };
  for (const name of ['pointerup', 'pointercancel', 'blur'])
    window.addEventListener(name, end, { signal: ends.signal });
}

/** Lets keys act where the last click was, and holds the page still while a pointer presses it. */
export const arrivals = (): Plugin =>
  new Plugin({
    props: {
      handleDOMEvents: {
        keydown: (view) => void catchUp(view),
        mouseup: (view) => void catchUp(view),
        pointerdown: (view, event) => void press(view, event),
      },
    },
  });
