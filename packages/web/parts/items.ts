import {
  Item,
  ListedItem,
  templatesFolder,
  type ItemSummary,
  type NewItem,
} from '@ukiyo/contracts';
import { useDebounceFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { shallowRef, watch } from 'vue';
import { ask } from './api.ts';
import { collecting, longestWait, useEvents, type Heard } from './events.ts';
import { useSession } from './session.ts';
import { useSummaries } from './summaries.ts';

/** Whether an item is a template. */
export const isTemplate = (item: Pick<ItemSummary, 'folder'> | undefined): boolean =>
  item !== undefined && `${item.folder}/`.startsWith(`${templatesFolder}/`);

/** Whether a change of an item can move it to other lists, or within one. */
const isListedOtherwise = (a: ListedItem, b: ListedItem): boolean =>
  a.title !== b.title ||
  a.type !== b.type ||
  a.folder !== b.folder ||
  a.alternateOf !== b.alternateOf ||
  JSON.stringify(a.conditions) !== JSON.stringify(b.conditions);

/** Known items by ID, and how often lists of them may have changed. */
function useKnownItems(base: () => string) {
  /** Counts changes that can alter the rows of lists. */
  const listings = shallowRef(0);
  const store = useSummaries<ListedItem>({
    base,
    path: '/summaries',
    schema: ListedItem,
    isOlder: (item, known) => known.version > item.version,
    changed(before, now) {
      if (!before) return;
      if (!now || isListedOtherwise(before, now)) listings.value += 1;
      countAlternatesAgain(before.alternateOf, now?.alternateOf ?? null);
    },
  });

  function countAlternatesAgain(before: string | null, now: string | null): void {
    if (before === now) return;
    store.fetchKnown([before, now].filter((id) => id !== null));
  }
  /** Stores the summary of an item that this page has just saved. */
  function keep(item: ItemSummary): void {
    const before = store.peek(item.id);
    store.take([{ ...item, alternates: before?.alternates ?? 0 }]);
    if (before) return;
    listings.value += 1;
    countAlternatesAgain(null, item.alternateOf);
  }
  function clear(): void {
    store.clear();
    listings.value += 1;
  }
  return { ...store, listings, keep, clear };
}

/** Follows the changes of others; changes close together share one request. */
function followChanges({ peek, listings, forget, fetchKnown }: ReturnType<typeof useKnownItems>) {
  const changed = new Set<string>();
  const fetchChanged = useDebounceFn(
    () => {
      const ids = [...changed];
      changed.clear();
      if (ids.some((id) => !peek(id))) listings.value += 1;
      fetchKnown(ids);
    },
    collecting,
    { maxWait: longestWait },
  );
  return (event: Heard): void => {
    if (event.kind === 'missed' || event.kind === 'many-items') {
      listings.value += 1;
      fetchKnown();
    } else if (event.kind === 'item-gone') forget(event.id);
    else if (event.kind === 'item') {
      if ((peek(event.id)?.version ?? 0) >= event.version) return;
      changed.add(event.id);
      void fetchChanged();
    }
  };
}

/**
 * Topics and maps by ID. A summary is requested when it is first needed, and again after another
 * person has changed the item. The cost does not depend on the size of the library.
 */
export const useItems = defineStore('items', () => {
  const session = useSession();
  const store = useKnownItems(() => session.base);
  const { listings, arrivals, find, isMissing, load, take, keep } = store;
  const address = (id: string): string => `${session.base}/items/${encodeURIComponent(id)}`;
  useEvents().listen(followChanges(store));
  watch(() => session.base, store.clear);

  const read = (id: string): Promise<Item> => ask(address(id), Item);
  async function create(input: NewItem): Promise<Item> {
    const item = await ask(`${session.base}/items`, Item, { method: 'POST', body: input });
    keep(item);
    return item;
  }
  async function save(id: string, text: string, version: number, note = ''): Promise<Item> {
    const item = await ask(address(id), Item, { method: 'PUT', body: { text, version, note } });
    keep(item);
    return item;
  }
  return { listings, arrivals, find, isMissing, load, take, keep, read, create, save };
});
