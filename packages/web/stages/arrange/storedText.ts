import { Conflict, type Item } from '@ukiyo/contracts';
import { writeCanonical } from '@ukiyo/core/grammar';
import type { Element } from '@ukiyo/core/markup';
import { computed, onScopeDispose, ref, shallowRef } from 'vue';
import { ApiError, messageOf } from '../../parts/api.ts';
import { useAutosave } from '../../parts/autosave.ts';
import { useEvents } from '../../parts/events.ts';
import { useItems } from '../../parts/items.ts';
import { useSafeLeaving } from '../../parts/safeLeaving.ts';

/** Which version of which map the page shows. */
type KnownVersion = Pick<Item, 'id' | 'version'>;

/**
 * Reads a map again when another person has saved it.
 * @param known undefined while something is unsaved here, which a newer map would replace
 */
function followStored(known: () => KnownVersion | undefined, show: (item: Item) => void): void {
  const items = useItems();
  const events = useEvents();
  async function refresh(id: string): Promise<void> {
    const found = await items.read(id);
    const now = known();
    if (now?.id === id && found.version > now.version) show(found);
  }
  const stop = events.listen((event) => {
    const now = known();
    if (!now) return;
    const isNewer = event.kind === 'item' && event.id === now.id && event.version > now.version;
    // Without an answer the map stays as it is; saving says then that another person changed it.
    if (isNewer || event.kind === 'missed' || event.kind === 'many-items')
      void refresh(now.id).catch(() => undefined);
  });
  onScopeDispose(stop);
}

/**
 * Loading and saving of the open map. What another person saves is shown at once while nothing here
 * is unsaved; a tree that could not be saved because of it is kept until you decide.
 * @param read the tree as it is on the page
 * @param show takes the map as another person saved it
 */
export function useStoredText(read: () => Element | undefined, show: (item: Item) => void) {
  const items = useItems();
  const item = shallowRef<Item>();
  const conflict = shallowRef<Item>();
  const failure = ref('');
  /** The version of each map that what is saved was made from. */
  const versions = new Map<string, number>();
  const autosave = useAutosave<Element>({
    async save(id, root) {
      take(await items.save(id, writeCanonical(root), versions.get(id) ?? 0));
    },
    failed(_id, error) {
      const found =
        error instanceof ApiError && error.status === 409
          ? Conflict.safeParse(error.body).data
          : undefined;
      conflict.value = found?.current;
      failure.value = found ? 'another person changed it' : messageOf(error);
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
    const found = await items.read(id);
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
  const known = (): KnownVersion | undefined =>
    item.value && autosave.isSafe.value
      ? { id: item.value.id, version: versions.get(item.value.id) ?? 0 }
      : undefined;
  followStored(known, (found) => {
    take(found);
    show(found);
  });
  useSafeLeaving(autosave.isSafe, autosave.flush);
  return { item, state, conflict, load, save, keepMine };
}
