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
import { computed, ref, shallowRef } from 'vue';
import { useStoredText } from './storedText.ts';

const same = (a: Path | undefined, b: Path | undefined): boolean => a?.join() === b?.join();
/** How a click or an arrow chooses: this one alone, this one too, or all up to this one. */
export type Choosing = 'alone' | 'also' | 'to';

/** A map being arranged: every change is saved at once and can be undone. */
export function useMap() {
  const root = shallowRef<Element>();
  /** The entry at which one is, and all that are chosen with it. */
  const chosen = shallowRef<Path>();
  const selected = shallowRef<readonly Path[]>([]);
  const failure = ref('');
  const undone = shallowRef<readonly Element[]>([]);
  const done = shallowRef<readonly Element[]>([]);
  const stored = useStoredText(() => root.value);

  const entries = computed<MapEntry[]>(() => (root.value ? flattenMap(root.value) : []));
  const indexOf = (path: Path | undefined): number =>
    entries.value.findIndex((entry) => same(entry.path, path));
  const chosenIndex = computed(() => indexOf(chosen.value));
  const keys = computed(() => new Set(selected.value.map((path) => path.join())));
  const isSelected = (path: Path): boolean => keys.value.has(path.join());

  function select(path: Path | undefined, how: Choosing = 'alone'): void {
    if (how === 'to' && path && chosen.value) {
      const [from, to] = [indexOf(selected.value[0]), indexOf(path)];
      selected.value = entries.value
        .slice(Math.min(from, to), Math.max(from, to) + 1)
        .map((entry) => entry.path);
      if (from > to) selected.value = selected.value.toReversed();
    } else if (how === 'also' && path) {
      selected.value = isSelected(path)
        ? selected.value.filter((one) => !same(one, path))
        : [...selected.value, path];
    } else selected.value = path ? [path] : [];
    chosen.value = path;
  }
  async function load(item: string): Promise<string> {
    const found = await stored.load(item);
    const read = readItem(found.id, found.kind, found.text);
    root.value = read.root;
    failure.value = read.root ? '' : (read.problems[0]?.message ?? 'This map cannot be read.');
    select(entries.value[0]?.path);
    undone.value = [];
    done.value = [];
    return found.title;
  }
  function put(next: Element, paths: readonly Path[]): boolean {
    if (!root.value) return false;
    done.value = [...done.value, root.value];
    undone.value = [];
    root.value = next;
    chosen.value = paths.at(-1);
    selected.value = paths;
    stored.save();
    return true;
  }
  const apply = (arranged: Arranged | undefined): boolean =>
    arranged !== undefined && put(arranged.root, [arranged.path]);
  const applyMany = (arranged: ArrangedMany | undefined): boolean =>
    arranged !== undefined && put(arranged.root, arranged.paths);
  function step(from: typeof done, to: typeof done): void {
    const tree = from.value.at(-1);
    if (!tree || !root.value) return;
    to.value = [...to.value, root.value];
    from.value = from.value.slice(0, -1);
    root.value = tree;
    stored.save();
  }
  type Change = (tree: Element, path: Path) => Arranged | undefined;
  const onSelected = (change: Change, isBackward = false): boolean =>
    root.value !== undefined &&
    selected.value.length > 0 &&
    applyMany(changeEach(root.value, selected.value, change, isBackward));
  return {
    root,
    entries,
    chosen,
    selected,
    chosenIndex,
    isSelected,
    failure,
    saved: stored.state,
    conflict: stored.conflict,
    keepMine: stored.keepMine,
    load,
    select,
    moveUp: () => onSelected(moveUp),
    moveDown: () => onSelected(moveDown, true),
    indent: () => onSelected(indent),
    outdent: () => onSelected(outdent, true),
    remove: (): boolean =>
      root.value !== undefined && apply(removeMany(root.value, selected.value)),
    toggleValue: (facet: string, value: string): boolean =>
      onSelected((tree, path) => toggleEntryValue(tree, path, facet, value)),
    change: (path: Path, how: (entry: Element) => Element): boolean =>
      root.value !== undefined && apply(changeEntry(root.value, path, how)),
    /** The map itself, or all of it, is another now. */
    changeRoot: (how: (tree: Element) => Element): boolean =>
      root.value !== undefined && put(how(root.value), selected.value),
    /** Puts topics or maps behind the chosen entry, one after the other. */
    add: (hrefs: readonly string[]): boolean => {
      let now: Arranged | undefined;
      for (const href of hrefs) {
        const before = now ?? { root: root.value, path: chosen.value };
        now =
          before.root &&
          insertEntry(
            before.root,
            before.path && before.path.length > 0 ? before.path : undefined,
            href,
          );
        if (!now) return false;
      }
      return apply(now);
    },
    drop: (from: readonly Path[], parent: Path, index: number): boolean =>
      root.value !== undefined && applyMany(moveMany(root.value, from, parent, index)),
    undo: () => step(done, undone),
    redo: () => step(undone, done),
    canUndo: computed(() => done.value.length > 0),
    canRedo: computed(() => undone.value.length > 0),
  };
}
export type OpenMap = ReturnType<typeof useMap>;
