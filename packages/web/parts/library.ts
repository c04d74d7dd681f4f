import { Agreements, Asset, FacetList } from '@ukiyo/contracts';
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import { z } from 'zod';
import { ask } from './api.ts';
import { useEvents, type Heard } from './events.ts';
import { loadOnce, renew } from './latest.ts';
import { useSession } from './session.ts';

/** Images, facets and agreements; loaded when first needed and after every change. */
export const useLibrary = defineStore('library', () => {
  const session = useSession();
  const events = useEvents();
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

  async function load(): Promise<void> {
    await Promise.all([
      renew(assets, () => ask(`${session.base}/assets`, z.array(Asset))),
      renew(facetList, () => ask(`${session.base}/facets`, FacetList)),
      renew(agreements, () => ask(`${session.base}/agreements`, Agreements)),
    ]);
  }
  function hear({ kind }: Heard): void {
    // Without an answer the lists stay as they are until the next change.
    if (kind === 'missed') void load().catch(() => undefined);
  }
  events.listen(hear);
  const ensure = loadOnce(load);
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
  /** The alternates of an image. */
  const alternatesOf = (base: string): Asset[] =>
    assets.value.filter(({ alternateOf }) => alternateOf === base);
  const assetAddress = (id: string): string =>
    `/api${session.base}/assets/${encodeURIComponent(id)}/file`;
  return {
    assets,
    facetList,
    facets,
    agreements,
    agree,
    addWord,
    load,
    ensure,
    upload,
    deleteAsset,
    alternatesOf,
    assetAddress,
  };
});
