import { flattenMap, indent, insertEntry, move, moveDown, moveUp, outdent, removeEntry, toggleEntryValue, type Arranged, type MapEntry } from '@ukiyo/core/arranging';
import { readItem } from '@ukiyo/core/library';
import type { Element } from '@ukiyo/core/markup';
import type { Path } from '@ukiyo/core/problems';
import { computed, ref, shallowRef } from 'vue';
import { useStoredText } from './storedText.ts';

const same = (a: Path | undefined, b: Path | undefined): boolean => a?.join() === b?.join();

/** A map being arranged: every change is saved at once and can be undone. */
export function useMap() {
  const root = shallowRef<Element>();
  const chosen = shallowRef<Path>();
  const failure = ref('');
  const undone = shallowRef<readonly Element[]>([]);
  const done = shallowRef<readonly Element[]>([]);
  const stored = useStoredText(() => root.value);

  const entries = computed<MapEntry[]>(() => (root.value ? flattenMap(root.value) : []));
  const chosenIndex = computed(() => entries.value.findIndex((entry) => same(entry.path, chosen.value)));

  async function load(item: string): Promise<string> {
    const found = await stored.load(item);
    const read = readItem(found.id, found.kind, found.text);
    root.value = read.root;
    failure.value = read.root ? '' : (read.problems[0]?.message ?? 'This map cannot be read.');
    chosen.value = entries.value[0]?.path;
    undone.value = [];
    done.value = [];
    return found.title;
  }
  function save(): void {
    stored.changed();
    void stored.save();
  }
  function apply(arranged: Arranged | undefined): boolean {
    if (!arranged || !root.value) return false;
    done.value = [...done.value, root.value];
    undone.value = [];
    root.value = arranged.root;
    chosen.value = arranged.path;
    save();
    return true;
  }
  function step(from: typeof done, to: typeof done): void {
    const tree = from.value.at(-1);
    if (!tree || !root.value) return;
    to.value = [...to.value, root.value];
    from.value = from.value.slice(0, -1);
    root.value = tree;
    save();
  }
  const onChosen = (change: (tree: Element, path: Path) => Arranged | undefined) => (): boolean => (root.value && chosen.value ? apply(change(root.value, chosen.value)) : false);
  function choose(offset: number): void {
    const entry = entries.value[Math.max(0, Math.min(entries.value.length - 1, chosenIndex.value + offset))];
    if (entry) chosen.value = entry.path;
  }
  return {
    entries,
    chosen,
    chosenIndex,
    failure,
    saved: stored.state,
    conflict: stored.conflict,
    keepMine: stored.keepMine,
    load,
    choose,
    moveUp: onChosen(moveUp),
    moveDown: onChosen(moveDown),
    indent: onChosen(indent),
    outdent: onChosen(outdent),
    remove: onChosen(removeEntry),
    toggleValue: (facet: string, value: string): boolean => onChosen((tree, path) => toggleEntryValue(tree, path, facet, value))(),
    add: (href: string): boolean => (root.value ? apply(insertEntry(root.value, chosen.value && chosen.value.length > 0 ? chosen.value : undefined, href)) : false),
    drop: (from: Path, parent: Path, index: number): boolean => (root.value ? apply(move(root.value, from, parent, index)) : false),
    undo: () => step(done, undone),
    redo: () => step(undone, done),
    canUndo: computed(() => done.value.length > 0),
    canRedo: computed(() => undone.value.length > 0),
  };
}
