import { tinykeys } from 'tinykeys';
import { onBeforeUnmount } from 'vue';

const isTyping = (): boolean =>
  document.activeElement?.matches(
    'textarea, input:not([type="color"], [type="checkbox"], [type="radio"])',
  ) ?? false;

/**
 * The keys that take changes back and make them again; where text is typed they do so in the
 * field.
 */
export function useUndoKeys(undo: () => void, redo: () => void): void {
  const unlessTyping = (act: () => void) => (event: KeyboardEvent) => {
    if (isTyping()) return;
    event.preventDefault();
    act();
  };
  onBeforeUnmount(
    tinykeys(window, {
      '$mod+KeyZ': unlessTyping(undo),
      '$mod+KeyY': unlessTyping(redo),
      '$mod+Shift+KeyZ': unlessTyping(redo),
    }),
  );
}
