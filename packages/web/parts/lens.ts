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

/** The lens through which everything is looked at, on every screen; kept in this browser. */
export const useLens = defineStore('lens', () => {
  const session = useSession();
  const lenses = shallowRef<readonly Lens[]>([]);
  /** Its id; `''` where one looks through none. */
  const chosen = useStorage('ukiyo-lens', '');
  /** Whether what it drops is not shown at all, or shown grey. */
  const hides = useStorage('ukiyo-lens-hides', false);
  const library = useLibrary();
  /** With those that stand behind it. */
  const lens = computed(() => lensOf(chosen.value, lenses.value, library.facets));
  /** Whether what varies by these attributes is dropped by the lens. */
  const drops = (conditions: Readonly<Record<string, string>>): boolean =>
    !evaluateProfile(conditions, lens.value, library.facets).kept;
  /**
   * The one of several alternates that stands in for its base, through the lens; undefined for the
   * base itself.
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
  return { lenses, chosen, hides, lens, drops, standsIn, load };
});
