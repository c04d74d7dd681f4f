import { ItemPage, type ListedItem } from '@ukiyo/contracts';
import { watch } from 'vue';
import { ask } from './api.ts';
import { useItems } from './items.ts';
import { listAddress, listParameters, type ListQuery } from './listAddress.ts';
import { usePagedList } from './pagedList.ts';
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
 * The items that match a query, page by page.
 * @param query undefined for no list at all
 */
export function useItemList(query: () => ListQuery | undefined) {
  const session = useSession();
  const items = useItems();
  const list = usePagedList<ListedItem>({
    asked() {
      const now = query();
      return now && listParameters(now).toString();
    },
    async page(offset) {
      const found = await ask(session.base + listAddress(query() ?? {}, offset), ItemPage);
      return { total: found.total, rows: found.items };
    },
    take: items.take,
    find: items.find,
    changes: () => items.listings,
  });
  /** All items of the list, also those that were never visible. */
  const loadAll = (): Promise<ListedItem[]> => allItems(session.base, query());
  return { ...list, loadAll };
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
