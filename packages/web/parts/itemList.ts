import { ItemPage, type ListedItem } from '@ukiyo/contracts';
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue';
import { ask, messageOf } from './api.ts';
import { useItems } from './items.ts';
import { listAddress, listParameters, pageSize, type ListQuery } from './listAddress.ts';
import { useSession } from './session.ts';

/** As many as the server gives in one answer. */
const mostAtOnce = 500;

async function allItems(base: string, query: ListQuery | undefined): Promise<ListedItem[]> {
  const all: ListedItem[] = [];
  for (;;) {
    const page = await ask(base + listAddress(query ?? {}, all.length, mostAtOnce), ItemPage);
    all.push(...page.items);
    if (page.items.length === 0 || all.length >= page.total) return all;
  }
}

/**
 * The items that match a query, page by page. Visible pages are requested, and requested again
 * after changes that can affect them.
 * @param query undefined for no list at all
 */
export function useItemList(query: () => ListQuery | undefined) {
  const session = useSession();
  const items = useItems();
  /** IDs by row; undefined in pages that were not requested yet. */
  const ids = shallowRef<readonly (string | undefined)[]>([]);
  const failure = ref('');
  /** Whether the rows belong to the current query. */
  const isCurrent = ref(false);
  /** Its parameters as one text, which is the same as long as the query is. */
  const asked = computed(() => {
    const now = query();
    return now && listParameters(now).toString();
  });
  /** Pages that have arrived or are requested. */
  const pages = new Set<number>();
  /** The first and last visible row. */
  let inSight: readonly [number, number] = [0, 0];
  /** Aborts the requests of the current query. */
  let requests = new AbortController();
  onScopeDispose(() => requests.abort());

  async function fetchPage(page: number): Promise<void> {
    const { signal } = requests;
    pages.add(page);
    try {
      const address = listAddress(query() ?? {}, page * pageSize);
      const found = await ask(session.base + address, ItemPage);
      if (signal.aborted) return;
      items.take(found.items);
      const next = Array.from({ length: found.total }, (_, at) =>
        isCurrent.value ? ids.value[at] : undefined,
      );
      found.items.forEach(({ id }, at) => (next[page * pageSize + at] = id));
      ids.value = next;
      isCurrent.value = true;
      failure.value = '';
    } catch (error) {
      if (signal.aborted) return;
      pages.delete(page);
      failure.value = messageOf(error);
    }
  }
  /** Requests the pages of visible rows. */
  function show(from: number, to: number): void {
    inSight = [from, to];
    if (asked.value === undefined) return;
    for (let page = Math.floor(from / pageSize); page * pageSize <= to; page += 1)
      if (!pages.has(page)) void fetchPage(page);
  }
  async function reload(): Promise<void> {
    requests.abort();
    requests = new AbortController();
    pages.clear();
    isCurrent.value = false;
    failure.value = '';
    if (asked.value === undefined) return void (ids.value = []);
    await fetchPage(Math.floor(inSight[0] / pageSize));
    show(...inSight);
  }
  watch(asked, () => (inSight = [0, 0]), { flush: 'sync' });
  watch([asked, () => items.listings], reload, { immediate: true });

  const total = computed(() => ids.value.length);
  /** The rows that have arrived, in order. */
  const rows = computed((): ListedItem[] =>
    ids.value.flatMap((id) => (id === undefined ? [] : (items.find(id) ?? []))),
  );
  /** Whether the rows belong to an earlier query while others are requested. */
  const isPending = computed(() => !isCurrent.value && failure.value === '');
  /** All items of the list, also those that were never visible. */
  const loadAll = (): Promise<ListedItem[]> => allItems(session.base, query());
  return { ids, rows, total, failure, isCurrent, isPending, show, loadAll };
}
/** All items that match a query: for lists that stay short. */
export function useAllItems(query: () => ListQuery | undefined) {
  const list = useItemList(query);
  watch(list.total, (total) => list.show(0, total - 1), { immediate: true });
  return list.rows;
}

/** The first item that matches a query. */
export async function firstItem(query: ListQuery): Promise<ListedItem | undefined> {
  const address = listAddress(query, 0, 1);
  return (await ask(useSession().base + address, ItemPage)).items[0];
}

export type ItemList = ReturnType<typeof useItemList>;
