import { computed, ref } from 'vue';

/** How long after the last change it is saved, in milliseconds. */
const defaultRest = 500;
/** How long after a failure it is tried again, in milliseconds. */
const retryAfter = 4000;

export type SaveState = 'saved' | 'changed' | 'saving' | 'failed';

interface AutosaveOptions<Draft> {
  /** Stores a draft; rejects when that failed. */
  readonly save: (id: string, draft: Draft) => Promise<void>;
  /**
   * Is told why saving failed.
   * @returns whether it is worth trying again without anybody doing something
   */
  readonly failed: (id: string, error: unknown) => boolean;
  /** Milliseconds after the last change. */
  readonly rest?: number;
}

/**
 * Saves by itself what is being changed, a moment after the last change. One draft is saved after
 * the other; a draft that could not be saved stays here until it is, or until it is let go.
 *
 * Drafts carry the id of what they are drafts of: a screen that has gone on to another thing still
 * saves the one before under its own name.
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
    // What was changed while it was on its way is saved next.
    if (unsaved.get(id) === draft) unsaved.delete(id);
    return true;
  }
  async function saveAll(): Promise<void> {
    for (let next = first(); next; next = first()) {
      state.value = 'saving';
      if (!(await saveOne(...next))) return;
    }
    state.value = 'saved';
  }
  const first = (): [string, Draft] | undefined => unsaved.entries().next().value;
  function later(milliseconds: number): void {
    clearTimeout(timer);
    timer = setTimeout(() => void flush(), milliseconds);
  }

  /** Notes what is to be saved, and saves it when nothing was changed for a while. */
  function change(id: string, draft: Draft): void {
    unsaved.set(id, draft);
    if (!running) state.value = 'changed';
    later(rest);
  }
  /** Saves at once. @returns whether everything is saved now */
  async function flush(): Promise<boolean> {
    clearTimeout(timer);
    running ??= saveAll().finally(() => (running = undefined));
    await running;
    return unsaved.size === 0;
  }
  /** Gives up a draft, in favour of what is stored. */
  function letGo(id: string): void {
    unsaved.delete(id);
    if (unsaved.size > 0) return;
    clearTimeout(timer);
    state.value = 'saved';
  }
  return { state, isSafe: computed(() => state.value === 'saved'), change, flush, letGo };
}
