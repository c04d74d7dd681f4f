import { Conflict, type Item } from '@ukiyo/contracts';
import { writeCanonical } from '@ukiyo/core/grammar';
import type { Element } from '@ukiyo/core/markup';
import { computed, ref, shallowRef } from 'vue';
import { ApiError, messageOf } from '../../parts/api.ts';
import { useAutosave } from '../../parts/autosave.ts';
import { useLibrary } from '../../parts/library.ts';
import { useSafeLeaving } from '../../parts/safeLeaving.ts';

/**
 * Loading and saving of the open map. A tree that met another person's is kept until somebody
 * decides.
 * @param read the tree as it stands on the page
 */
export function useStoredText(read: () => Element | undefined) {
  const library = useLibrary();
  const item = shallowRef<Item>();
  const conflict = shallowRef<Item>();
  const failure = ref('');
  /** The version of each map that what is saved was made from. */
  const versions = new Map<string, number>();
  const autosave = useAutosave<Element>({
    async save(id, root) {
      take(await library.save(id, writeCanonical(root), versions.get(id) ?? 0));
    },
    failed(_id, error) {
      const found =
        error instanceof ApiError && error.status === 409
          ? Conflict.safeParse(error.body).data
          : undefined;
      conflict.value = found?.current;
      failure.value = found ? 'changed by somebody else' : messageOf(error);
      return found === undefined;
    },
  });
  const state = computed(() => {
    if (!item.value) return '';
    switch (autosave.state.value) {
      case 'saved':
        return 'Saved';
      case 'saving':
        return 'Saving …';
      case 'changed':
        return 'Not saved yet';
      case 'failed':
        return `Not saved: ${failure.value}`;
    }
  });

  function take(saved: Item): void {
    versions.set(saved.id, saved.version);
    if (item.value?.id === saved.id) item.value = saved;
  }
  async function load(id: string): Promise<Item> {
    conflict.value = undefined;
    autosave.discard(id);
    const found = await library.read(id);
    item.value = found;
    take(found);
    return found;
  }
  /** What is on the page is saved at once. */
  function save(): void {
    const root = read();
    if (!item.value || !root) return;
    autosave.change(item.value.id, root);
    void autosave.flush();
  }
  /** Saves what is on the page over what the other person saved; theirs stays in the revisions. */
  function keepMine(): void {
    if (!conflict.value) return;
    take(conflict.value);
    conflict.value = undefined;
    save();
  }
  useSafeLeaving(autosave.isSafe, autosave.flush);
  return { item, state, conflict, load, save, keepMine };
}
