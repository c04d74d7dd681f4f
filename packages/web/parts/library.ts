import {
  Agreements,
  Asset,
  FacetList,
  Item,
  ItemPage,
  templatesFolder,
  type ItemSummary,
  type NewItem,
} from '@ukiyo/contracts';
import { useDebounceFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { z } from 'zod';
import { ask } from './api.ts';
import { useEvents, type Heard } from './events.ts';
import { renew } from './latest.ts';
import { useSession } from './session.ts';

/** Whether an item is one that others begin as. */
export const isTemplate = (item: Pick<ItemSummary, 'folder'> | undefined): boolean =>
  item !== undefined && `${item.folder}/`.startsWith(`${templatesFolder}/`);

/** So many changes of others are asked for one by one. */
const mostTogether = 100;

/**
 * Topics, maps and images as the interface knows them; loaded when first needed and after every
 * change.
 */
export const useLibrary = defineStore('library', () => {
  const session = useSession();
  const events = useEvents();
  const items = shallowRef<readonly ItemSummary[]>([]);
  const assets = shallowRef<readonly Asset[]>([]);
  const facetList = shallowRef<FacetList>({ version: 0, facets: [] });
  const facets = computed(() => facetList.value.facets);
  const agreements = shallowRef<Agreements>({
    version: 0,
    rules: [],
    facts: [],
    words: {},
    synonyms: {},
  });
  const loaded = ref(false);

  async function loadItems(): Promise<ItemSummary[]> {
    const all: ItemSummary[] = [];
    for (let offset = 0; ; offset += 500) {
      const page = await ask(`${session.base}/items?limit=500&offset=${offset}`, ItemPage);
      all.push(...page.items);
      if (all.length >= page.total || page.items.length === 0) return all;
    }
  }
  async function load(): Promise<void> {
    await Promise.all([
      renew(items, loadItems),
      renew(assets, () => ask(`${session.base}/assets`, z.array(Asset))),
      renew(facetList, () => ask(`${session.base}/facets`, FacetList)),
      renew(agreements, () => ask(`${session.base}/agreements`, Agreements)),
    ]);
    if (!loaded.value) events.listen(hear);
    loaded.value = true;
  }
  /**
   * What others have written: asked for together, once they rest. Of many at a time everything is
   * asked for.
   */
  const changed = new Set<string>();
  const takeChanged = useDebounceFn(async () => {
    const ids = [...changed];
    changed.clear();
    if (ids.length > mostTogether) return load();
    const { items: now } = await ask(
      `${session.base}/items?ids=${ids.map(encodeURIComponent).join()}&limit=${mostTogether}`,
      ItemPage,
    );
    const gone = ids.filter((id) => !now.some((item) => item.id === id));
    if (gone.length > 0) items.value = items.value.filter(({ id }) => !gone.includes(id));
    now.forEach(keep);
  }, 400);
  function hear(event: Heard): void {
    if (event.kind === 'missed' || event.kind === 'many-items')
      return void load().catch(() => undefined);
    if (event.kind === 'item-gone') items.value = items.value.filter(({ id }) => id !== event.id);
    if (event.kind !== 'item' || (find(event.id)?.version ?? 0) >= event.version) return;
    changed.add(event.id);
    // Without an answer the list stays as it is, until the next change.
    void takeChanged().catch(() => undefined);
  }
  const ensure = async (): Promise<void> => void (loaded.value || (await load()));
  const find = (id: string): ItemSummary | undefined => items.value.find((item) => item.id === id);
  const read = (id: string): Promise<Item> =>
    ask(`${session.base}/items/${encodeURIComponent(id)}`, Item);

  function keep(item: ItemSummary): void {
    const at = items.value.findIndex((one) => one.id === item.id);
    items.value =
      at === -1
        ? [...items.value, item].sort((a, b) => a.title.localeCompare(b.title))
        : items.value.with(at, item);
  }
  async function create(input: NewItem): Promise<Item> {
    const item = await ask(`${session.base}/items`, Item, { method: 'POST', body: input });
    keep(item);
    return item;
  }
  async function save(id: string, text: string, version: number, note = ''): Promise<Item> {
    const item = await ask(`${session.base}/items/${encodeURIComponent(id)}`, Item, {
      method: 'PUT',
      body: { text, version, note },
    });
    keep(item);
    return item;
  }
  async function upload(file: File): Promise<Asset> {
    const form = new FormData();
    form.append('file', file);
    const asset = await ask(`${session.base}/assets`, Asset, { method: 'POST', form });
    assets.value = [...assets.value, asset].sort((a, b) => a.name.localeCompare(b.name));
    return asset;
  }
  async function deleteAsset(id: string): Promise<void> {
    await ask(`${session.base}/assets/${encodeURIComponent(id)}`, z.null(), { method: 'DELETE' });
    assets.value = assets.value.filter((asset) => asset.id !== id);
  }
  async function agree(next: Agreements): Promise<void> {
    agreements.value = await ask(`${session.base}/agreements`, Agreements, {
      method: 'PUT',
      body: next,
    });
  }
  async function addWord(locale: string, word: string): Promise<void> {
    agreements.value = await ask(`${session.base}/agreements/words`, Agreements, {
      method: 'POST',
      body: { locale, word },
    });
  }
  /** Topics or images with those that stand in for them. */
  const alternatesOf = <Kept extends { readonly alternateOf: string | null }>(
    kept: readonly Kept[],
    base: string,
  ): Kept[] => kept.filter(({ alternateOf }) => alternateOf === base);
  const assetAddress = (id: string): string =>
    `/api${session.base}/assets/${encodeURIComponent(id)}/file`;
  return {
    items,
    assets,
    facetList,
    facets,
    agreements,
    agree,
    addWord,
    load,
    ensure,
    find,
    read,
    keep,
    create,
    save,
    upload,
    deleteAsset,
    alternatesOf,
    assetAddress,
  };
});
