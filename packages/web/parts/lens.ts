import { Lens } from '@ukiyo/contracts';
import { evaluateProfile, lensOf, matchOf } from '@ukiyo/core/facets';
import { useStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import { z } from 'zod';
import { ask } from './api.ts';
import { renew } from './latest.ts';
import { useLibrary } from './library.ts';
import { useSession } from './session.ts';

/** The lens that is applied on every screen; kept in this browser. */
export const useLens = defineStore('lens', () => {
  const session = useSession();
  const lenses = shallowRef<readonly Lens[]>([]);
  /** Its ID; `''` for none. */
  const chosen = useStorage('ukiyo-lens', '');
  /** Whether dropped content is hidden rather than shown in grey. */
  const hides = useStorage('ukiyo-lens-hides', false);
  const library = useLibrary();
  /** With those that stand behind it. */
  const lens = computed(() => lensOf(chosen.value, lenses.value, library.facets));
  /** The part of list queries that leaves out dropped items. */
  const hiding = computed(() =>
    hides.value && chosen.value !== '' && lens.value ? { lens: chosen.value } : {},
  );
  /** Whether the lens drops content with these attributes. */
  const drops = (conditions: Readonly<Record<string, string>>): boolean =>
    !evaluateProfile(conditions, lens.value, library.facets).kept;
  /**
   * The alternate that replaces its base under the lens; undefined if the base itself is used.
   */
  function standsIn<
    Kept extends { readonly id: string; readonly conditions: Readonly<Record<string, string>> },
  >(alternates: readonly Kept[]): Kept | undefined {
    const matches = alternates.map(({ conditions }) =>
      matchOf(conditions, lens.value, library.facets),
    );
    const closest = Math.max(0, ...matches);
    return closest > 0 ? alternates[matches.indexOf(closest)] : undefined;
  }
  const load = (): Promise<void> =>
    renew(lenses, () => ask(`${session.base}/lenses`, z.array(Lens)));
  return { lenses, chosen, hides, lens, hiding, drops, standsIn, load };
});
