import { computed, nextTick, onScopeDispose, ref, watch } from 'vue';

const waitingActs = ref(0);
/** Whether an act on this screen waits for its list, so that its result is not saved yet. */
export const isActWaiting = computed(() => waitingActs.value > 0);

/** Ends the task, so that the page handles one key before the next. */
const between = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

/** Inserts a character at the caret, as a browser does for a key without a handler. */
function insertText(text: string): void {
  const field = document.activeElement;
  if (field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement) {
    const end = field.value.length;
    field.setRangeText(text, field.selectionStart ?? end, field.selectionEnd ?? end, 'end');
    field.dispatchEvent(new Event('input', { bubbles: true }));
    return;
  }
  const selection = document.getSelection();
  if (!(field instanceof HTMLElement) || !field.isContentEditable || !selection?.rangeCount) return;
  const range = selection.getRangeAt(0);
  range.deleteContents();
  range.insertNode(new Text(text));
  range.collapse(false);
}

/** Sends a key to the element that has the focus now. */
function send({ key, code, ctrlKey, shiftKey, altKey, metaKey }: KeyboardEvent): void {
  const modifiers = { ctrlKey, shiftKey, altKey, metaKey };
  const event = new KeyboardEvent('keydown', {
    key,
    code,
    ...modifiers,
    bubbles: true,
    cancelable: true,
  });
  const isHandled = !document.activeElement?.dispatchEvent(event);
  const isText = key.length === 1 && !ctrlKey && !altKey && !metaKey;
  if (!isHandled && isText) insertText(key);
}

/** Sends keys one after the other; keys pressed in the meantime come after them. */
async function replay(held: readonly KeyboardEvent[]): Promise<void> {
  if (held.length === 0) return;
  const keys = [...held];
  const hold = (event: KeyboardEvent): void => {
    if (!event.isTrusted) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    keys.push(event);
  };
  document.addEventListener('keydown', hold, true);
  try {
    await nextTick();
    for (let key = keys.shift(); key; key = keys.shift()) {
      send(key);
      await between();
    }
  } finally {
    document.removeEventListener('keydown', hold, true);
  }
}

/**
 * Delays an act on a list until the list belongs to the typed text: Enter can be pressed before the
 * server has answered, and never chooses a row of an earlier answer. Keys pressed in the meantime
 * are held, and sent after the act to the element that has the focus then.
 * @param isCurrent whether the list belongs to the typed text
 */
export function useOnceCurrent(isCurrent: () => boolean) {
  let waiting: (() => void) | undefined;
  let held: KeyboardEvent[] = [];
  watch(
    isCurrent,
    (now) => {
      if (!now || !waiting) return;
      const run = waiting;
      const keys = held;
      forget();
      run();
      void replay(keys).finally(() => (waitingActs.value -= 1));
    },
    { flush: 'post' },
  );
  /** Runs the act at once, or as soon as the list is current. */
  function act(run: () => void): void {
    if (isCurrent()) return run();
    if (!waiting) waitingActs.value += 1;
    waiting = run;
  }
  function forget(): void {
    waiting = undefined;
    held = [];
  }
  function cancel(): void {
    if (waiting) waitingActs.value -= 1;
    forget();
  }
  onScopeDispose(cancel);
  const isWaiting = (): boolean => waiting !== undefined;
  /** Holds a key that is pressed while an act waits; Esc cancels the act. */
  function hold(event: KeyboardEvent): boolean {
    if (!isWaiting()) return false;
    event.preventDefault();
    event.stopPropagation();
    if (event.key === 'Escape') cancel();
    else held.push(event);
    return true;
  }
  return { act, hold, isWaiting };
}
