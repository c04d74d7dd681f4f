import type { Item } from '@ukiyo/contracts';
import {
  changeEach,
  changeEntry,
  flattenMap,
  indent,
  insertEntry,
  moveDown,
  moveMany,
  moveUp,
  outdent,
  removeMany,
  toggleEntryValue,
  type Arranged,
  type ArrangedMany,
  type MapEntry,
} from '@ukiyo/core/arranging';
import { readItem } from '@ukiyo/core/library';
import type { Element } from '@ukiyo/core/markup';
import type { Path } from '@ukiyo/core/problems';
import { useRefHistory } from '@vueuse/core';
import { computed, ref, shallowRef, type Ref } from 'vue';
import { useStoredText } from './storedText.ts';

const same = (a: Path | undefined, b: Path | undefined): boolean => a?.join() === b?.join();
/** How a click or an arrow chooses: this one alone, this one too, or all up to this one. */
export type Choosing = 'alone' | 'also' | 'to';

/** Which entries of a map are chosen, and at which of them one is. */
function useChosenEntries(entries: Ref<readonly MapEntry[]>) {
  const chosen = shallowRef<Path>();
  const selected = shallowRef<readonly Path[]>([]);
  const keys = computed(() => new Set(selected.value.map((path) => path.join())));
  const indexOf = (path: Path | undefined): number =>
    entries.value.findIndex((entry) => same(entry.path, path));
  const isSelected = (path: Path): boolean => keys.value.has(path.join());
  function select(path: Path | undefined, how: Choosing = 'alone'): void {
    if (how === 'to' && path && chosen.value) {
      const [from, to] = [indexOf(selected.value[0]), indexOf(path)];
      const between = entries.value
        .slice(Math.min(from, to), Math.max(from, to) + 1)
        .map((entry) => entry.path);
      selected.value = from > to ? between.toReversed() : between;
    } else if (how === 'also' && path) {
      selected.value = isSelected(path)
        ? selected.value.filter((one) => !same(one, path))
        : [...selected.value, path];
    } else selected.value = path ? [path] : [];
    chosen.value = path;
  }
  const chosenIndex = computed(() => indexOf(chosen.value));
  return { chosen, selected, chosenIndex, isSelected, select };
}

/** Puts topics or maps behind an entry, one after the other. */
function addAll(
  root: Element | undefined,
  after: Path | undefined,
  hrefs: readonly string[],
): Arranged | undefined {
  let now: Arranged | undefined;
  for (const href of hrefs) {
    const { root: tree, path } = now ?? { root, path: after };
    now = tree && insertEntry(tree, path && path.length > 0 ? path : undefined, href);
    if (!now) return undefined;
  }
  return now;
}

/** So many changes of a map can be taken back. */
const capacity = 200;

/** A map being arranged: every change is saved at once and can be undone. */
export function useMap() {
  const root = shallowRef<Element>();
  const failure = ref('');
  const stored = useStoredText(
    () => root.value,
    (item) => show(item, chosen.value),
  );
  const history = useRefHistory(root, { capacity, flush: 'sync' });
  const entries = computed<MapEntry[]>(() => (root.value ? flattenMap(root.value) : []));
  const choice = useChosenEntries(entries);
  const { chosen, selected, select } = choice;

  /** Shows a map as it is stored. @param wanted the entry to choose; the first where it is gone */
  function show({ id, kind, text }: Item, wanted?: Path): void {
    const read = readItem(id, kind, text);
    root.value = read.root;
    failure.value = read.root ? '' : (read.problems[0]?.message ?? 'This map cannot be read.');
    const found = entries.value.find(({ path }) => same(path, wanted)) ?? entries.value[0];
    select(found?.path);
    history.clear();
  }
  async function load(item: string): Promise<string> {
    const found = await stored.load(item);
    show(found);
    return found.title;
  }
  /** Makes a change, after which the entries at these paths are chosen. */
  function put(next: ArrangedMany | undefined): boolean {
    if (!root.value || !next) return false;
    root.value = next.root;
    chosen.value = next.paths.at(-1);
    selected.value = next.paths;
    stored.save();
    return true;
  }
  const on = (change: (tree: Element) => ArrangedMany | undefined): boolean =>
    root.value !== undefined && put(change(root.value));
  const alone = (arranged: Arranged | undefined): ArrangedMany | undefined =>
    arranged && { root: arranged.root, paths: [arranged.path] };
  type Change = (tree: Element, path: Path) => Arranged | undefined;
  const onSelected = (change: Change, isBackward = false): boolean =>
    selected.value.length > 0 && on((tree) => changeEach(tree, selected.value, change, isBackward));
  function step(act: () => void): void {
    const before = root.value;
    act();
    if (root.value !== before) stored.save();
  }
  return {
    ...choice,
    root,
    entries,
    failure,
    saved: stored.state,
    conflict: stored.conflict,
    keepMine: stored.keepMine,
    load,
    moveUp: () => onSelected(moveUp),
    moveDown: () => onSelected(moveDown, true),
    indent: () => onSelected(indent),
    outdent: () => onSelected(outdent, true),
    remove: (): boolean => on((tree) => alone(removeMany(tree, selected.value))),
    toggleValue: (facet: string, value: string): boolean =>
      onSelected((tree, path) => toggleEntryValue(tree, path, facet, value)),
    change: (path: Path, how: (entry: Element) => Element): boolean =>
      on((tree) => alone(changeEntry(tree, path, how))),
    /** The map itself, or all of it, is another now. */
    changeRoot: (how: (tree: Element) => Element): boolean =>
      on((tree) => ({ root: how(tree), paths: selected.value })),
    /** Puts topics or maps behind the chosen entry, one after the other. */
    add: (hrefs: readonly string[]): boolean =>
      on((tree) => alone(addAll(tree, chosen.value, hrefs))),
    drop: (from: readonly Path[], parent: Path, index: number): boolean =>
      on((tree) => moveMany(tree, from, parent, index)),
    undo: () => step(history.undo),
    redo: () => step(history.redo),
    canUndo: history.canUndo,
    canRedo: history.canRedo,
  };
}
export type OpenMap = ReturnType<typeof useMap>;
