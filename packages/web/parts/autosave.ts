import { computed, ref } from 'vue';

/** Milliseconds from the last change to saving. */
const defaultRest = 500;
/** Milliseconds from a failure to the next attempt. */
const retryAfter = 4000;

export type SaveState = 'saved' | 'changed' | 'saving' | 'failed';

interface AutosaveOptions<Draft> {
  /** Stores a draft; rejects when that failed. */
  readonly save: (id: string, draft: Draft) => Promise<void>;
  /**
   * Takes the reason why saving failed.
   * @returns whether to try again without a decision of the user
   */
  readonly failed: (id: string, error: unknown) => boolean;
  /** Milliseconds after the last change. */
  readonly rest?: number;
}

/**
 * Saves drafts automatically, a moment after the last change and one at a time. A draft that could
 * not be saved is kept until it is saved or discarded.
 *
 * Each draft has the id of its document: a screen that already shows another document still saves
 * the previous one under the right id.
 */
export function useAutosave<Draft>({ save, failed, rest = defaultRest }: AutosaveOptions<Draft>) {
  const state = ref<SaveState>('saved');
  /** By their ids, the oldest first. */
  const unsaved = new Map<string, Draft>();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let running: Promise<void> | undefined;

  /** @returns whether it was saved */
  async function saveOne(id: string, draft: Draft): Promise<boolean> {
    try {
      await save(id, draft);
    } catch (error) {
      state.value = 'failed';
      if (failed(id, error)) later(retryAfter);
      return false;
    }
    // Changes made during the request are saved next.
    if (unsaved.get(id) === draft) unsaved.delete(id);
    return true;
  }
  async function saveAll(): Promise<void> {
    try {
      for (let next = first(); next; next = first()) {
        state.value = 'saving';
        if (!(await saveOne(...next))) return;
      }
      state.value = 'saved';
    } finally {
      // At once, so that no change is missed between this run and the next.
      running = undefined;
    }
  }
  const first = (): [string, Draft] | undefined => unsaved.entries().next().value;
  function later(milliseconds: number): void {
    clearTimeout(timer);
    timer = setTimeout(() => void flush(), milliseconds);
  }

  /** Keeps a draft, and saves it after a pause in changes. */
  function change(id: string, draft: Draft): void {
    unsaved.set(id, draft);
    if (!running) state.value = 'changed';
    later(rest);
  }
  /** Saves at once. @returns whether everything is saved now */
  async function flush(): Promise<boolean> {
    clearTimeout(timer);
    if (unsaved.size === 0) return true;
    running ??= saveAll();
    await running;
    return unsaved.size === 0;
  }
  /** Discards a draft in favour of the stored version. */
  function discard(id: string): void {
    unsaved.delete(id);
    if (unsaved.size > 0) return;
    clearTimeout(timer);
    state.value = 'saved';
  }
  return { state, isSafe: computed(() => state.value === 'saved'), change, flush, discard };
}
