import { droppedEntries, entryTitle, type MapEntry } from '@ukiyo/core/arranging';
import { labelOf } from '@ukiyo/core/grammar';
import { readReference } from '@ukiyo/core/library';
import { computed, onMounted, ref, watch } from 'vue';
import { useLens } from '../../parts/lens.ts';
import { useLibrary } from '../../parts/library.ts';
import { useVariables } from '../../parts/variables.ts';
import type { OpenMap } from './useMap.ts';

/**
 * The entries as they are shown: their titles, what the lens drops, what is folded, and where words
 * are found.
 */
export function useEntries(map: OpenMap, id: () => string) {
  const library = useLibrary();
  const looking = useLens();
  const variables = useVariables();
  onMounted(() => variables.ensure());
  const targetOf = ({ href }: MapEntry): string => {
    const reference = href === '' ? undefined : readReference(href, id());
    return reference?.kind === 'item' ? reference.id : '';
  };
  const itemOf = (entry: MapEntry) => library.find(targetOf(entry));
  const titleOf = (entry: MapEntry): string =>
    variables.spoken(entryTitle(entry.element)) ||
    itemOf(entry)?.title ||
    entry.href ||
    labelOf(entry.element.name);
  const isMissing = (entry: MapEntry): boolean => entry.href !== '' && !itemOf(entry);

  const dropped = computed(() => {
    const byEntry = droppedEntries(map.entries.value, ({ attributes }) =>
      looking.drops(attributes),
    );
    // A topic that varies as a whole goes alone: what stands under it stays.
    return map.entries.value.map(
      (entry, index) => byEntry[index] === true || looking.drops(itemOf(entry)?.conditions ?? {}),
    );
  });
  const folded = ref<ReadonlySet<string>>(new Set());
  watch(id, () => (folded.value = new Set()));
  const keyOf = ({ path }: MapEntry): string => path.join('.');
  const isFolded = (entry: MapEntry): boolean => folded.value.has(keyOf(entry));
  const holds = (index: number): boolean =>
    (map.entries.value[index + 1]?.depth ?? -1) > (map.entries.value[index]?.depth ?? 0);
  function fold(entry: MapEntry, isShut = !isFolded(entry)): void {
    const next = new Set(folded.value);
    if (isShut) next.add(keyOf(entry));
    else next.delete(keyOf(entry));
    folded.value = next;
  }
  /** Folds everything from a depth on; `undefined` opens all. */
  function foldFrom(depth: number | undefined): void {
    folded.value = new Set(
      depth === undefined
        ? []
        : map.entries.value
            .filter((entry, index) => entry.depth >= depth && holds(index))
            .map(keyOf),
    );
  }
  /** The entries that are drawn, with their place among all. */
  const shown = computed(() => {
    const rows: { readonly entry: MapEntry; readonly index: number }[] = [];
    let shut: number | undefined;
    map.entries.value.forEach((entry, index) => {
      if (shut !== undefined && entry.depth > shut) return;
      shut = isFolded(entry) ? entry.depth : undefined;
      if (!(looking.hides && dropped.value[index] === true)) rows.push({ entry, index });
    });
    return rows;
  });
  /** The next entry, from the chosen one on, whose title or id has the words. */
  function find(words: string): boolean {
    const wanted = words.trim().toLowerCase();
    const { length } = map.entries.value;
    for (let step = 1; wanted !== '' && step <= length; step += 1) {
      const entry = map.entries.value[(map.chosenIndex.value + step) % length]!;
      if (!`${titleOf(entry)} ${targetOf(entry)}`.toLowerCase().includes(wanted)) continue;
      for (const other of map.entries.value)
        if (
          other.path.length < entry.path.length &&
          other.path.every((at, depth) => at === entry.path[depth])
        )
          fold(other, false);
      map.select(entry.path);
      return true;
    }
    return false;
  }
  return {
    targetOf,
    itemOf,
    titleOf,
    isMissing,
    dropped,
    isFolded,
    holds,
    fold,
    foldFrom,
    shown,
    find,
  };
}
export type Entries = ReturnType<typeof useEntries>;
