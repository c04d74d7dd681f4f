import { FolderCount } from '@ukiyo/contracts';
import { computed, shallowRef, watch } from 'vue';
import { z } from 'zod';
import { ask } from '../../parts/api.ts';
import { useItems } from '../../parts/items.ts';
import { renew } from '../../parts/latest.ts';
import { useSession } from '../../parts/session.ts';

/** A folder in the drawer, with what is in it and in the folders below. */
export interface FolderRow {
  readonly path: string;
  readonly name: string;
  readonly count: number;
  readonly depth: number;
}

/** @returns folders in the order of a tree, each after the one it is in */
export function folderRows(counts: readonly FolderCount[]): FolderRow[] {
  const sums = new Map<string, number>([['', 0]]);
  for (const { folder, count } of counts) {
    const steps = folder === '' ? [] : folder.split('/');
    for (let depth = 0; depth <= steps.length; depth += 1) {
      const path = steps.slice(0, depth).join('/');
      sums.set(path, (sums.get(path) ?? 0) + count);
    }
  }
  return [...sums]
    .sort(([a], [b]) => a.localeCompare(b))
    .map(([path, count]) => ({
      path,
      count,
      depth: path === '' ? 0 : path.split('/').length,
      name: path === '' ? 'All topics' : path.split('/').at(-1)!,
    }));
}

/** The folders of the library and the types of what is in them. */
export function useFolders() {
  const session = useSession();
  const items = useItems();
  const counts = shallowRef<readonly FolderCount[]>([]);
  watch(
    () => items.listings,
    () =>
      // Without an answer they stay as they are, until the next change.
      void renew(counts, () => ask(`${session.base}/folders`, z.array(FolderCount))).catch(
        () => undefined,
      ),
    { immediate: true },
  );
  const folders = computed(() => folderRows(counts.value));
  const types = computed(() => [...new Set(counts.value.flatMap(({ types: all }) => all))].sort());
  const total = computed(() => counts.value.reduce((sum, { count }) => sum + count, 0));
  return { folders, types, total };
}
