import { Agreements, FacetList } from '@ukiyo/contracts';
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import { ask } from './api.ts';
import { useEvents, type Heard } from './events.ts';
import { loadOnce, renew } from './latest.ts';
import { useSession } from './session.ts';

/**
 * Facets and agreements: one document each, which checks and lenses need whole. Loaded when first
 * needed, and again after changes may have been missed.
 */
export const useLibrary = defineStore('library', () => {
  const session = useSession();
  const events = useEvents();
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
  return {
    facetList,
    facets,
    agreements,
    agree,
    addWord,
    load,
    ensure,
  };
});
