import { Conflict, type Item } from '@ukiyo/contracts';
import { writeCanonical } from '@ukiyo/core/grammar';
import type { Element } from '@ukiyo/core/markup';
import { ref, shallowRef } from 'vue';
import { onBeforeRouteLeave, onBeforeRouteUpdate } from 'vue-router';
import { useEventListener } from '@vueuse/core';
import { useMessage } from 'naive-ui';
import { ApiError, messageOf } from '../../parts/api.ts';
import { useLibrary } from '../../parts/library.ts';

const restAfterKey = 900;

/**
 * Loading and saving of the open topic or map. Saves by itself a moment after the last change; what
 * is typed is never thrown away: nobody leaves a text that is not safe, and one that met another
 * person's is kept until somebody decides.
 * @param read the tree as it stands on the page
 */
export function useStoredText(read: () => Element | undefined) {
  const library = useLibrary();
  const message = useMessage();
  const item = shallowRef<Item>();
  const state = ref('');
  const conflict = shallowRef<Item>();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let isDirty = false;
  let saving: Promise<void> | undefined;

  async function load(id: string): Promise<Item> {
    conflict.value = undefined;
    item.value = await library.read(id);
    isDirty = false;
    state.value = 'Saved';
    return item.value;
  }
  function changed(): void {
    isDirty = true;
    state.value = 'Not saved yet';
    clearTimeout(timer);
    timer = setTimeout(() => void save(), restAfterKey);
  }
  async function save(): Promise<void> {
    clearTimeout(timer);
    if (saving) await saving;
    const open = item.value;
    const root = read();
    if (!open || !root || !isDirty || conflict.value) return;
    isDirty = false;
    state.value = 'Saving …';
    saving = library.save(open.id, writeCanonical(root), open.version).then(
      (saved) => {
        item.value = saved;
        state.value = isDirty ? 'Not saved yet' : 'Saved';
      },
      (error: unknown) => {
        isDirty = true;
        const found =
          error instanceof ApiError && error.status === 409
            ? Conflict.safeParse(error.body)
            : undefined;
        if (found?.success) conflict.value = found.data.current;
        else timer = setTimeout(() => void save(), 4000);
        state.value = found?.success
          ? 'Not saved: changed by somebody else'
          : `Not saved: ${messageOf(error)}`;
      },
    );
    await saving;
    saving = undefined;
  }
  /** Saves what is on the page over what the other person saved; theirs stays in the revisions. */
  async function keepMine(): Promise<void> {
    if (!conflict.value) return;
    item.value = conflict.value;
    conflict.value = undefined;
    isDirty = true;
    await save();
  }
  const hasUnsaved = (): boolean => isDirty && item.value !== undefined;
  /** The page stays open while its text is not safe, and the foot line says why. */
  async function keepSafe(): Promise<boolean> {
    await save();
    if (hasUnsaved()) message.warning('This is not saved yet, so it stays open.');
    return !hasUnsaved();
  }
  onBeforeRouteUpdate(keepSafe);
  onBeforeRouteLeave(keepSafe);
  useEventListener(window, 'beforeunload', (event) => {
    if (hasUnsaved()) event.preventDefault();
  });
  return { item, state, conflict, load, changed, save, keepMine };
}
