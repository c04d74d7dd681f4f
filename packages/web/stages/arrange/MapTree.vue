<script setup lang="ts">
import type { MapEntry } from '@ukiyo/core/arranging';
import { branchLenses, isOnePage, peerScope } from '@ukiyo/core/arranging';
import { tagsOf } from '@ukiyo/core/facets';
import { labelOf } from '@ukiyo/core/grammar';
import type { Path } from '@ukiyo/core/problems';
import { useVirtualList } from '@vueuse/core';
import { computed, nextTick, shallowRef, watch } from 'vue';
import FacetBadge from '../../parts/FacetBadge.vue';
import { kindLabel } from '../../parts/kinds.ts';
import { useLibrary } from '../../parts/library.ts';
import { draggedEntries, factColumn, type Dragged } from './mapColumns.ts';
import type { MapContents } from './useContents.ts';
import type { Entries } from './useEntries.ts';
import type { Choosing, OpenMap } from './useMap.ts';

/** The map as a tree: chosen, moved and folded by hand or by keys. */
const { map, entries, contents, columns, mayWrite } = defineProps<{
  map: OpenMap;
  entries: Entries;
  contents: MapContents;
  columns: readonly string[];
  mayWrite: boolean;
}>();
const emit = defineEmits<{ open: [entry: MapEntry]; facets: []; refused: [] }>();
const library = useLibrary();
const target = shallowRef<{ index: number; where: 'before' | 'inside' | 'after' }>();
const has = (column: string): boolean => columns.includes(column);
const rowHeight = 30;
/** Rows drawn on each side of those in sight, for quick scrolling and the browser’s own search. */
const overscan = 200;
const rows = useVirtualList(entries.shown, { itemHeight: rowHeight, overscan });
const drawnChosen = (): HTMLElement | null => document.querySelector<HTMLElement>('.entry.at');
/** The chosen row, drawn and in sight. */
async function showChosen(): Promise<HTMLElement | null> {
  await nextTick();
  if (!drawnChosen() && at.value >= 0) rows.scrollTo(at.value);
  await nextTick();
  drawnChosen()?.scrollIntoView({ block: 'nearest' });
  return drawnChosen();
}
const focusChosen = (): void => void showChosen().then((row) => row?.focus());
const say = (changed: boolean): void => {
  if (!changed) emit('refused');
  focusChosen();
};
defineExpose({ focusChosen });

const at = computed(() =>
  entries.shown.value.findIndex(({ index }) => index === map.chosenIndex.value),
);
watch(map.chosen, showChosen);
function go(offset: number, how: Choosing): void {
  const shown = entries.shown.value;
  map.select(shown[Math.max(0, Math.min(shown.length - 1, at.value + offset))]?.entry.path, how);
}
function onKey(event: KeyboardEvent): void {
  const command = event.ctrlKey || event.metaKey;
  const entry = map.entries.value[map.chosenIndex.value];
  if (command && event.key === ';') {
    event.preventDefault();
    return emit('facets');
  }
  const moves: Record<string, () => boolean> = {
    ArrowUp: map.moveUp,
    ArrowDown: map.moveDown,
    ArrowRight: map.indent,
    ArrowLeft: map.outdent,
  };
  const change = moves[event.key];
  if (event.altKey && change && mayWrite) say(change());
  else if (event.key === 'ArrowUp') go(-1, event.shiftKey ? 'to' : 'alone');
  else if (event.key === 'ArrowDown') go(1, event.shiftKey ? 'to' : 'alone');
  else if (event.key === 'Home') go(-entries.shown.value.length, event.shiftKey ? 'to' : 'alone');
  else if (event.key === 'End') go(entries.shown.value.length, event.shiftKey ? 'to' : 'alone');
  else if (event.key === 'ArrowRight' && entry) entries.fold(entry, false);
  else if (event.key === 'ArrowLeft' && entry && entries.holds(map.chosenIndex.value))
    entries.fold(entry, true);
  else if (event.key === 'Enter' && entry) emit('open', entry);
  else if (event.key === 'Delete' && mayWrite) say(map.remove());
  else if (command && event.key.toLowerCase() === 'z') (event.shiftKey ? map.redo : map.undo)();
  else return;
  event.preventDefault();
  focusChosen();
}
function onClick(event: MouseEvent, entry: MapEntry): void {
  map.select(entry.path, event.shiftKey ? 'to' : event.ctrlKey || event.metaKey ? 'also' : 'alone');
}

function begin(event: DragEvent, entry: MapEntry): void {
  if (!map.isSelected(entry.path)) map.select(entry.path);
  draggedEntries.value = { paths: map.selected.value };
  event.dataTransfer?.setData('text/plain', entries.titleOf(entry));
}
function over(event: DragEvent, index: number): void {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
  const part = (event.clientY - box.top) / box.height;
  target.value = { index, where: part < 0.3 ? 'before' : part > 0.7 ? 'after' : 'inside' };
}
function drop(): void {
  const onto = target.value && map.entries.value[target.value.index];
  const where = target.value?.where;
  const from: Dragged | undefined = draggedEntries.value;
  target.value = undefined;
  draggedEntries.value = undefined;
  if (!onto || !from) return;
  if ('hrefs' in from) {
    map.select(onto.path);
    return say(map.add(from.hrefs));
  }
  const parent: Path = where === 'inside' ? onto.path : onto.path.slice(0, -1);
  say(
    map.drop(
      from.paths,
      parent,
      where === 'inside'
        ? onto.element.children.length
        : (onto.path.at(-1) ?? 0) + (where === 'after' ? 1 : 0),
    ),
  );
}
const problemsOf = (entry: MapEntry): number => {
  const { error = 0, warning = 0 } = entries.itemOf(entry)?.problems ?? {};
  return error + warning;
};
const factsOf = (entry: MapEntry): { readonly name: string; readonly value: string }[] =>
  library.agreements.facts
    .filter(({ name }) => has(factColumn(name)))
    .map(({ name, label }) => ({ name: label, value: entries.itemOf(entry)?.facts[name] ?? '' }));
const alternatesOf = (entry: MapEntry): number => entries.itemOf(entry)?.alternates ?? 0;
</script>

<template>
  <div
    v-bind="rows.containerProps"
    class="tree"
    role="tree"
    aria-label="Map"
    aria-multiselectable="true"
    @keydown="onKey"
  >
    <div v-bind="rows.wrapperProps.value" role="presentation">
      <div
        v-for="{ data: { entry, index } } in rows.list.value"
        :key="entry.path.join('.')"
        class="entry"
        role="treeitem"
        :aria-level="entry.depth + 1"
        :aria-posinset="entries.places.value[index]?.at"
        :aria-setsize="entries.places.value[index]?.of"
        :aria-selected="map.isSelected(entry.path)"
        :aria-expanded="entries.holds(index) ? !entries.isFolded(entry) : undefined"
        :tabindex="index === Math.max(0, map.chosenIndex.value) ? 0 : -1"
        :draggable="mayWrite"
        :class="[
          target?.index === index ? `drop-${target.where}` : '',
          {
            at: index === map.chosenIndex.value,
            strong: entry.depth === 0,
            unseen: entries.dropped.value[index],
          },
        ]"
        :style="{ paddingLeft: `${10 + entry.depth * 22}px` }"
        @click="onClick($event, entry)"
        @dblclick="emit('open', entry)"
        @dragstart="begin($event, entry)"
        @dragover.prevent="over($event, index)"
        @dragleave="target = undefined"
        @drop.prevent="drop"
      >
        <span
          class="fold"
          :class="{ holds: entries.holds(index), shut: entries.isFolded(entry) }"
          aria-hidden="true"
          @click.stop="entries.holds(index) && entries.fold(entry)"
          @dblclick.stop
        />
        <span v-if="has('number')" class="number" :title="contents.placeOf(entry.path)?.dropped">
          {{ contents.placeOf(entry.path)?.dropped ? '–' : contents.placeOf(entry.path)?.number }}
        </span>
        <span class="title" :class="{ 'seal-text': entries.isMissing(entry) }">
          {{ entries.titleOf(entry) }}
        </span>
        <template v-if="has('facets')">
          <FacetBadge
            v-for="tag in tagsOf(entry.element.attributes, library.facets)"
            :key="tag.label"
            :tag="tag"
          />
        </template>
        <span v-if="entries.isMissing(entry)" class="small seal-text">not in the library</span>
        <span v-if="alternatesOf(entry) > 0" class="quiet small">
          {{ alternatesOf(entry) }} {{ alternatesOf(entry) === 1 ? 'alternate' : 'alternates' }}
        </span>
        <span v-if="branchLenses(entry.element).length > 0" class="quiet small">
          once for each of {{ branchLenses(entry.element).join(', ') }}
        </span>
        <span v-if="peerScope(entry.element) !== undefined" class="quiet small">
          another publication
        </span>
        <span v-if="isOnePage(entry.element)" class="quiet small">one page</span>
        <span class="gap" />
        <span v-if="has('problems') && problemsOf(entry) > 0" class="small seal-text">
          {{ problemsOf(entry) }} {{ problemsOf(entry) === 1 ? 'problem' : 'problems' }}
        </span>
        <span
          v-for="{ name, value } in factsOf(entry)"
          :key="name"
          class="quiet small"
          :title="name"
        >
          {{ value }}
        </span>
        <span v-if="has('words')" class="quiet small">
          {{ entries.itemOf(entry)?.wordCount ?? '' }}
        </span>
        <span v-if="has('kind')" class="quiet small">
          {{ kindLabel(entries.itemOf(entry)?.type ?? '') }}
        </span>
        <span v-if="entry.element.name !== 'topicref'" class="quiet small role">
          {{ labelOf(entry.element.name) }}
        </span>
      </div>
    </div>
    <slot />
  </div>
</template>

<style scoped>
.tree {
  flex: 1;
  overflow: auto;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-bottom: 0;
  border-radius: 4px 4px 0 0;
  padding: 8px 0;
}
.entry {
  display: flex;
  align-items: center;
  gap: 10px;
  height: 30px;
  padding-right: 16px;
  cursor: default;
  position: relative;
}
.entry.strong {
  font-weight: 600;
}
.entry .quiet {
  font-weight: 400;
  white-space: nowrap;
}
.entry:hover {
  background: var(--paper);
}
.entry.unseen .title {
  color: var(--soft);
  text-decoration: line-through;
}
.entry[aria-selected='true'] {
  background: var(--wash);
}
.entry.at {
  box-shadow: inset 3px 0 var(--prussian);
}
.entry.drop-before {
  box-shadow: inset 0 2px var(--prussian);
}
.entry.drop-after {
  box-shadow: inset 0 -2px var(--prussian);
}
.entry.drop-inside {
  outline: 2px solid var(--prussian);
  outline-offset: -2px;
}
.gap {
  flex: 1;
}
.fold {
  width: 14px;
  flex: none;
  color: var(--soft);
  text-align: center;
}
.fold.holds {
  cursor: pointer;
}
.fold.holds::before {
  content: '▾';
}
.fold.shut::before {
  content: '▸';
}
.number {
  min-width: 34px;
  color: var(--prussian);
  font-weight: 400;
  font-variant-numeric: tabular-nums;
}
</style>
