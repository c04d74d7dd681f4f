import { Proof } from '@ukiyo/contracts';
import type { PagePlan, StyleSheet } from '@ukiyo/core/styles';
import { ref, shallowRef, watch } from 'vue';
import { completed, has } from '../../bench/shapes.ts';
import { ask, messageOf } from '../../parts/api.ts';
import { latestOnly } from '../../parts/latest.ts';
import { useSession } from '../../parts/session.ts';

/** The specimen, set anew with every change of sheet or plan. */
export function useSpecimen(sheet: () => StyleSheet | undefined, plan: () => PagePlan | undefined) {
  const session = useSession();
  const proof = shallowRef<Proof>();
  const failure = ref('');
  const busy = ref(false);
  const set = latestOnly(async (order: { readonly sheet: StyleSheet; readonly plan: PagePlan }) => {
    busy.value = true;
    try {
      const before = proof.value;
      const answer = await ask(`${session.base}/designs/specimen`, Proof, {
        method: 'POST',
        body: { ...order, locale: session.project?.locale ?? 'en', has: has(before) },
      });
      proof.value = completed(answer, before);
      failure.value = '';
    } catch (error) {
      failure.value = messageOf(error);
    }
    busy.value = false;
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
