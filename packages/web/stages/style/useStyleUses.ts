import { StyleUses } from '@ukiyo/contracts';
import { ref, shallowRef, watch } from 'vue';
import { ask, messageOf } from '../../parts/api.ts';
import { latestOnly } from '../../parts/latest.ts';
import { useSession } from '../../parts/session.ts';

/**
 * Where the styles of a sheet are used, asked for again whenever it was saved.
 * @param version of the sheet as it is kept
 */
export function useStyleUses(sheet: () => string, version: () => number | undefined) {
  const session = useSession();
  const uses = shallowRef<StyleUses>();
  const failure = ref('');
  const load = latestOnly(async (id: string) => {
    try {
      const found = await ask(`${session.base}/designs/sheets/${id}/uses`, StyleUses);
      if (id === sheet()) uses.value = found;
      failure.value = '';
    } catch (error) {
      failure.value = messageOf(error);
    }
  });
  watch(
    [sheet, version],
    ([id, saved], [before]) => {
      if (id !== before) uses.value = undefined;
      if (id !== '' && saved !== undefined) load(id);
    },
    { immediate: true },
  );
  return { uses, failure };
}
