import { Lens } from '@ukiyo/contracts';
import { useStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import { z } from 'zod';
import { ask } from './api.ts';
import { useSession } from './session.ts';

/** The lens through which everything is looked at, on every screen; kept in this browser. */
export const useLens = defineStore('lens', () => {
  const session = useSession();
  const lenses = shallowRef<readonly Lens[]>([]);
  /** Its id; `''` where one looks through none. */
  const chosen = useStorage('ukiyo-lens', '');
  /** Whether what it drops is not shown at all, or shown grey. */
  const hides = useStorage('ukiyo-lens-hides', false);
  const lens = computed(() => lenses.value.find(({ id }) => id === chosen.value));
  async function load(): Promise<void> {
    lenses.value = await ask(`${session.base}/lenses`, z.array(Lens));
  }
  return { lenses, chosen, hides, lens, load };
});
