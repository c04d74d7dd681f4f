import { Contents, Edition } from '@ukiyo/contracts';
import { useStorage } from '@vueuse/core';
import { computed, shallowRef, watch } from 'vue';
import { z } from 'zod';
import { ask } from '../../parts/api.ts';
import { useLoads } from '../../parts/attempts.ts';
import { useSession } from '../../parts/session.ts';

/**
 * The contents of the map as an edition numbers them; composed anew whenever the map has been
 * saved.
 */
export function useContents(map: () => string, saved: () => string) {
  const session = useSession();
  const editions = shallowRef<readonly Edition[]>([]);
  const kept = useStorage<Record<string, string>>('ukiyo-arrange-edition', {});
  const contents = shallowRef<Contents>();
  const { failure, load } = useLoads();
  /** Of this map first; another edition can have it as a sub-map. */
  const offered = computed(() =>
    editions.value.toSorted((a, b) => Number(b.map === map()) - Number(a.map === map())),
  );
  const chosen = computed({
    get: () =>
      kept.value[map()] ?? editions.value.find((edition) => edition.map === map())?.id ?? '',
    set: (id: string) => void (kept.value = { ...kept.value, [map()]: id }),
  });
  async function loadEditions(): Promise<void> {
    editions.value = await ask(`${session.base}/editions`, z.array(Edition));
  }
  watch(
    [chosen, saved],
    async ([edition, state], [before]) => {
      if (edition !== before) contents.value = undefined;
      if (edition === '' || state !== 'Saved') return;
      await load(async () => {
        const found = await ask(`${session.base}/editions/${edition}/contents`, Contents);
        if (chosen.value === edition) contents.value = found;
      });
    },
    { immediate: true },
  );
  const keyOf = ({
    item,
    path,
  }: {
    readonly item: string;
    readonly path: readonly number[];
  }): string => `${item} ${path.join('.')}`;
  /**
   * What the edition makes of an entry of this map: its number, or the rule by which it is dropped.
   */
  const byEntry = computed(() => {
    const found = new Map<string, { readonly number: string; readonly dropped?: string }>();
    for (const { entry, detail } of contents.value?.dropped ?? [])
      found.set(keyOf(entry), { number: '', dropped: detail });
    for (const { entry, number = '' } of contents.value?.places ?? [])
      if (!found.has(keyOf(entry))) found.set(keyOf(entry), { number });
    return found;
  });
  const placeOf = (path: readonly number[]) => byEntry.value.get(keyOf({ item: map(), path }));
  return { offered, chosen, contents, failure, loadEditions, placeOf };
}
export type MapContents = ReturnType<typeof useContents>;
