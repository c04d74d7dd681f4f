import { useEventListener } from '@vueuse/core';

/** Time in ms within which the browser reports a click or an arrow key on an idle machine. */
const usualDelay = 40;
/** After this many ms a selection that was never reported is given up. */
const longestDelay = 1000;

function selectionParts(): readonly (Node | number | null | undefined)[] {
  const selection = document.getSelection();
  return [
    selection?.anchorNode,
    selection?.anchorOffset,
    selection?.focusNode,
    selection?.focusOffset,
  ];
}

/**
 * Whether a click or an arrow key is still being handled: the browser moves its selection first,
 * and `selectionchange` comes in a later task, on a busy machine much later. A change of the
 * document in between would put the caret back.
 * @returns a function that is true while the page must not be changed
 */
export function useHands(): () => boolean {
  let lastInput = -Infinity;
  let reported = selectionParts();
  useEventListener(
    document,
    ['pointerdown', 'pointerup', 'keydown'],
    (event: Event) => {
      if (!(event instanceof KeyboardEvent) || event.key.length > 1) lastInput = performance.now();
    },
    { capture: true },
  );
  useEventListener(document, 'selectionchange', () => void (reported = selectionParts()));
  return () => {
    const since = performance.now() - lastInput;
    return (
      since < usualDelay ||
      (since < longestDelay && selectionParts().some((part, index) => part !== reported[index]))
    );
  };
}
