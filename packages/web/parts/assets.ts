import type { AssetAlternate } from '@ukiyo/contracts';
import { ListedAsset } from '@ukiyo/contracts';
import { useDebounceFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { shallowRef, watch } from 'vue';
import { z } from 'zod';
import { ask } from './api.ts';
import { collecting, longestWait, useEvents, type Heard } from './events.ts';
import { useSession } from './session.ts';
import { useSummaries } from './summaries.ts';

/**
 * Images, videos and sounds by ID. What is known of one is requested when it is first needed, and
 * again after images have changed. The cost does not depend on the size of the library.
 */
export const useAssets = defineStore('assets', () => {
  const session = useSession();
  /** Counts changes that can alter the rows of lists. */
  const listings = shallowRef(0);
  /** Counts answers by which another image may be shown in the place of one. */
  const replacements = shallowRef(0);
  const store = useSummaries<ListedAsset>({
    base: () => session.base,
    path: '/assets/summaries',
    schema: ListedAsset,
    changed(before, now) {
      const [were, are] = [before, now].map((asset) => JSON.stringify(asset?.alternates ?? []));
      if (were !== are) replacements.value += 1;
    },
  });
  const address = (id: string): string => `${session.base}/assets/${encodeURIComponent(id)}`;
  /** The address of its bytes. */
  const fileAddress = (id: string): string => `/api${address(id)}/file`;
  function loadAgain(): void {
    listings.value += 1;
    store.fetchKnown();
  }
  /** Several images uploaded one after the other are one change. */
  const loadSoon = useDebounceFn(loadAgain, collecting, { maxWait: longestWait });
  function hear({ kind }: Heard): void {
    if (kind === 'assets' || kind === 'missed') void loadSoon();
  }
  useEvents().listen(hear);
  watch(
    () => session.base,
    () => {
      store.clear();
      listings.value += 1;
    },
  );
  async function upload(file: File): Promise<ListedAsset> {
    const form = new FormData();
    form.append('file', file);
    const asset = await ask(`${session.base}/assets`, ListedAsset, { method: 'POST', form });
    store.take([asset]);
    listings.value += 1;
    return asset;
  }
  async function remove(id: string): Promise<void> {
    await ask(address(id), z.null(), { method: 'DELETE' });
    store.forget(id);
    loadAgain();
  }
  /** Makes an image an alternate of another, or independent again. */
  async function setAlternate(id: string, body: z.input<typeof AssetAlternate>): Promise<void> {
    const order = { method: 'PUT', body } as const;
    store.take(await ask(`${address(id)}/alternate`, z.array(ListedAsset), order));
    listings.value += 1;
  }
  const { find, load, take, arrivals } = store;
  return {
    ...{ listings, replacements, arrivals, find, load, take },
    ...{ fileAddress, upload, remove, setAlternate },
  };
});
