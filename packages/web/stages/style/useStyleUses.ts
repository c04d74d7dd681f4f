import { StyleUses } from '@ukiyo/contracts';
import { shallowRef, watch } from 'vue';
import { ask } from '../../parts/api.ts';
import { useLoads } from '../../parts/attempts.ts';
import { latestOnly } from '../../parts/latest.ts';
import { useSession } from '../../parts/session.ts';

/**
 * Where the styles of a sheet are used, asked for again whenever it was saved.
 * @param version of the sheet as it is kept
 */
export function useStyleUses(sheet: () => string, version: () => number | undefined) {
  const session = useSession();
  const uses = shallowRef<StyleUses>();
  const { failure, load } = useLoads();
  const loadOf = latestOnly(async (id: string) => {
    await load(async () => {
      const found = await ask(`${session.base}/designs/sheets/${id}/uses`, StyleUses);
      if (id === sheet()) uses.value = found;
    });
  });
  watch(
    [sheet, version],
    ([id, saved], [before]) => {
      if (id !== before) uses.value = undefined;
      if (id !== '' && saved !== undefined) loadOf(id);
    },
    { immediate: true },
  );
  return { uses, failure };
}
