import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue';
import { messageOf } from './api.ts';
import { pageSize } from './listAddress.ts';

/** Where a paged list gets its rows. */
interface PageSource<Row extends { readonly id: string }> {
  /** What is listed, as a text; undefined for no list at all. */
  readonly asked: () => string | undefined;
  /** One page of it. @param offset of its first row */
  readonly page: (offset: number) => Promise<{ total: number; rows: readonly Row[] }>;
  /** Stores rows that have arrived. */
  readonly take: (rows: readonly Row[]) => void;
  /** A stored row; undefined if there is none. */
  readonly find: (id: string) => Row | undefined;
  /** Another value when the list has to be requested again. */
  readonly changes: () => unknown;
}

/**
 * The rows of a list of the server, page by page. Visible pages are requested, and requested again
 * after changes that can affect them.
 */
export function usePagedList<Row extends { readonly id: string }>(source: PageSource<Row>) {
  /** IDs by row; undefined in pages that were not requested yet. */
  const ids = shallowRef<readonly (string | undefined)[]>([]);
  const failure = ref('');
  /** Whether the rows belong to the current query. */
  const isCurrent = ref(false);
  const asked = computed(source.asked);
  /** Pages that have arrived or are requested. */
  const pages = new Set<number>();
  /** The first and last visible row. */
  let inSight: readonly [number, number] = [0, 0];
  /** Aborted as soon as the answers to its requests are of no use. */
  let requests = new AbortController();
  onScopeDispose(() => requests.abort());

  async function fetchPage(page: number): Promise<void> {
    const { signal } = requests;
    pages.add(page);
    try {
      const found = await source.page(page * pageSize);
      if (signal.aborted) return;
      source.take(found.rows);
      const next = Array.from({ length: found.total }, (_, at) =>
        isCurrent.value ? ids.value[at] : undefined,
      );
      found.rows.forEach(({ id }, at) => (next[page * pageSize + at] = id));
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
  watch([asked, source.changes], reload, { immediate: true });

  const total = computed(() => ids.value.length);
  /** The rows that have arrived, in order. */
  const rows = computed((): Row[] =>
    ids.value.flatMap((id) => (id === undefined ? [] : (source.find(id) ?? []))),
  );
  /** Whether the rows belong to an earlier query while others are requested. */
  const isPending = computed(() => !isCurrent.value && failure.value === '');
  return { ids, rows, total, failure, isCurrent, isPending, show };
}
