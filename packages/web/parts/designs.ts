import {
  Designs,
  KeptLook,
  KeptPlan,
  KeptSheet,
  type DesignKind,
  type PagePlan,
  type SiteLook,
  type StyleSheet,
} from '@ukiyo/contracts';
import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import { z } from 'zod';
import { ask } from './api.ts';
import { loadOnce, renew } from './latest.ts';
import { useSession } from './session.ts';

/** Style sheets, page plans and site looks of the project. */
export const useDesigns = defineStore('designs', () => {
  const session = useSession();
  const list = shallowRef<Designs>({ sheets: [], plans: [], looks: [] });
  const load = (): Promise<void> => renew(list, () => ask(`${session.base}/designs`, Designs));
  const ensure = loadOnce(load);
  const put = <Kept extends { readonly id: string }>(all: readonly Kept[], one: Kept): Kept[] =>
    all.some(({ id }) => id === one.id)
      ? all.map((kept) => (kept.id === one.id ? one : kept))
      : [...all, one];
  async function saveSheet(id: string, version: number, content: StyleSheet): Promise<void> {
    const saved = await ask(`${session.base}/designs/sheets/${id}`, KeptSheet, {
      method: 'PUT',
      body: { version, content },
    });
    list.value = { ...list.value, sheets: put(list.value.sheets, saved) };
  }
  async function savePlan(id: string, version: number, content: PagePlan): Promise<void> {
    const saved = await ask(`${session.base}/designs/plans/${id}`, KeptPlan, {
      method: 'PUT',
      body: { version, content },
    });
    list.value = { ...list.value, plans: put(list.value.plans, saved) };
  }
  async function saveLook(id: string, version: number, content: SiteLook): Promise<void> {
    const saved = await ask(`${session.base}/designs/looks/${id}`, KeptLook, {
      method: 'PUT',
      body: { version, content },
    });
    list.value = { ...list.value, looks: put(list.value.looks, saved) };
  }
  /** Restores a shipped design; deletes another one. */
  async function remove(kind: DesignKind, id: string): Promise<void> {
    await ask(`${session.base}/designs/${kind}/${id}`, z.null(), { method: 'DELETE' });
    await load();
  }
  return { list, load, ensure, saveSheet, savePlan, saveLook, remove };
});
