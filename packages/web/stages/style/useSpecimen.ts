import { Proof } from '@ukiyo/contracts';
import type { PagePlan, StyleSheet } from '@ukiyo/core/styles';
import { shallowRef, watch } from 'vue';
import { completed, has } from '../../bench/shapes.ts';
import { ask } from '../../parts/api.ts';
import { useLoads } from '../../parts/attempts.ts';
import { latestOnly } from '../../parts/latest.ts';
import { useSession } from '../../parts/session.ts';

/** The specimen, set anew with every change of sheet or plan. */
export function useSpecimen(sheet: () => StyleSheet | undefined, plan: () => PagePlan | undefined) {
  const session = useSession();
  const proof = shallowRef<Proof>();
  const { failure, isBusy: busy, load } = useLoads();
  const set = latestOnly(async (order: { readonly sheet: StyleSheet; readonly plan: PagePlan }) => {
    await load(async () => {
      const before = proof.value;
      const answer = await ask(`${session.base}/designs/specimen`, Proof, {
        method: 'POST',
        body: { ...order, locale: session.project?.locale ?? 'en', has: has(before) },
      });
      proof.value = completed(answer, before);
    });
  });
  watch(
    [sheet, plan],
    ([one, other]) => {
      if (one && other) set({ sheet: one, plan: other });
    },
    { immediate: true },
  );
  return { proof, failure, busy };
}
