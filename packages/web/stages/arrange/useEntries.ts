import { droppedEntries, entryTitle, type MapEntry } from '@ukiyo/core/arranging';
import { labelOf } from '@ukiyo/core/grammar';
import { readReference } from '@ukiyo/core/library';
import { computed, onMounted, ref, watch } from 'vue';
import { useLens } from '../../parts/lens.ts';
import { useItems } from '../../parts/items.ts';
import { useVariables } from '../../parts/variables.ts';
import type { OpenMap } from './useMap.ts';

/** Where each entry stands among those below the same entry, from 1, and how many these are. */
export function placesAmongSiblings(
  entries: readonly Pick<MapEntry, 'path'>[],
): { readonly at: number; readonly of: number }[] {
  const counts = new Map<string, number>();
  const places = entries.map(({ path }) => {
    const above = path.slice(0, -1).join('.');
    const at = (counts.get(above) ?? 0) + 1;
    counts.set(above, at);
    return { above, at };
  });
  return places.map(({ above, at }) => ({ at, of: counts.get(above)! }));
}

/** What entries lead to, and what they are called. */
function useTargets(id: () => string) {
  const items = useItems();
  const variables = useVariables();
  onMounted(() => variables.ensure());
  const targetOf = ({ href }: MapEntry): string => {
    const reference = href === '' ? undefined : readReference(href, id());
    return reference?.kind === 'item' ? reference.id : '';
  };
  const itemOf = (entry: MapEntry) => {
    const target = targetOf(entry);
    return target === '' ? undefined : items.find(target);
  };
  const titleOf = (entry: MapEntry): string =>
    variables.spoken(entryTitle(entry.element)) ||
    itemOf(entry)?.title ||
    entry.href ||
    labelOf(entry.element.name);
  function isMissing(entry: MapEntry): boolean {
    const target = targetOf(entry);
    return entry.href !== '' && (target === '' || items.isMissing(target));
  }
  return { targetOf, itemOf, titleOf, isMissing };
}

/** Which entries are folded, so that what is below them is not shown. */
function useFolding(map: OpenMap, id: () => string) {
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
    const shut = map.entries.value.filter(
      (entry, index) => depth !== undefined && entry.depth >= depth && holds(index),
    );
    folded.value = new Set(shut.map(keyOf));
  }
  /** Opens what stands around an entry. */
  function openTo({ path }: MapEntry): void {
    for (const other of map.entries.value)
      if (other.path.length < path.length && other.path.every((at, depth) => at === path[depth]))
        fold(other, false);
  }
  return { isFolded, holds, fold, foldFrom, openTo };
}

/**
 * The entries as they are shown: their titles, what the lens drops, what is folded, and where words
 * are found.
 */
export function useEntries(map: OpenMap, id: () => string) {
  const looking = useLens();
  const targets = useTargets(id);
  const { openTo, ...folding } = useFolding(map, id);
  const { targetOf, itemOf, titleOf } = targets;
  const dropped = computed(() => {
    const byEntry = droppedEntries(map.entries.value, ({ attributes }) =>
      looking.drops(attributes),
    );
    // A topic that varies as a whole goes alone: what stands under it stays.
    return map.entries.value.map(
      (entry, index) => byEntry[index] === true || looking.drops(itemOf(entry)?.conditions ?? {}),
    );
  });
  const places = computed(() => placesAmongSiblings(map.entries.value));
  /** The entries that are drawn, with their place among all. */
  const shown = computed(() => {
    const rows: { readonly entry: MapEntry; readonly index: number }[] = [];
    let shut: number | undefined;
    map.entries.value.forEach((entry, index) => {
      if (shut !== undefined && entry.depth > shut) return;
      shut = folding.isFolded(entry) ? entry.depth : undefined;
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
      openTo(entry);
      map.select(entry.path);
      return true;
    }
    return false;
  }
  return { ...targets, ...folding, dropped, shown, places, find };
}
export type Entries = ReturnType<typeof useEntries>;
