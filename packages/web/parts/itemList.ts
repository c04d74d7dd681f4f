import { ItemPage, type ItemQuery, type ListedItem } from '@ukiyo/contracts';
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue';
import { ask, messageOf } from './api.ts';
import { useItems } from './items.ts';
import { useSession } from './session.ts';

/** Which items a list has. */
export type ListQuery = Partial<Omit<ItemQuery, 'offset' | 'limit'>>;

/** Rows of one request. */
const pageSize = 100;
/** As many as the server gives in one answer. */
const mostAtOnce = 500;

const parametersOf = (query: ListQuery): URLSearchParams =>
  new URLSearchParams(
    Object.entries(query).flatMap(([name, value]) =>
      value === undefined || value === '' ? [] : [[name, String(value)]],
    ),
  );

/** @param base address of the project @param query as parameters of an address */
async function allItems(base: string, query: string | undefined): Promise<ListedItem[]> {
  const parameters = new URLSearchParams(query);
  parameters.set('limit', String(mostAtOnce));
  const all: ListedItem[] = [];
  for (;;) {
    parameters.set('offset', String(all.length));
    const page = await ask(`${base}/items?${parameters}`, ItemPage);
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
  const asked = computed(() => {
    const now = query();
    return now && parametersOf(now).toString();
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
      const parameters = new URLSearchParams(asked.value);
      parameters.set('offset', String(page * pageSize));
      parameters.set('limit', String(pageSize));
      const found = await ask(`${session.base}/items?${parameters}`, ItemPage);
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
  const loadAll = (): Promise<ListedItem[]> => allItems(session.base, asked.value);
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
  const parameters = parametersOf(query);
  parameters.set('limit', '1');
  return (await ask(`${useSession().base}/items?${parameters}`, ItemPage)).items[0];
}

export type ItemList = ReturnType<typeof useItemList>;
