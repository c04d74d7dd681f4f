import { shallowRef } from 'vue';
import { z } from 'zod';

/** A text that a browser kept. */
const LeftText = z.object({ language: z.enum(['source', 'markdown']), text: z.string() });
export type LeftText = z.infer<typeof LeftText>;

/** The text that is not in the topic yet, kept in this browser beside the page's own store. */
export function useHeldText(name: () => string) {
  /** What was left when the browser ended before the text was in the topic. */
  const left = shallowRef<LeftText>();
  function lookForLeft(): void {
    try {
      left.value = LeftText.safeParse(JSON.parse(localStorage.getItem(name()) ?? 'null')).data;
    } catch {
      left.value = undefined;
    }
  }
  function hold(held: LeftText | undefined): void {
    try {
      if (held) localStorage.setItem(name(), JSON.stringify(held));
      else localStorage.removeItem(name());
    } catch {
      // More than the browser's store takes: the text stays in the open page.
    }
  }
  function discard(): void {
    left.value = undefined;
    localStorage.removeItem(name());
  }
  return { left, lookForLeft, hold, discard };
}
