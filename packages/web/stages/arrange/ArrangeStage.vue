<script setup lang="ts">
import { IconArrowBackUp, IconArrowDown, IconArrowForwardUp, IconArrowUp, IconIndentDecrease, IconIndentIncrease, IconTrash } from '@tabler/icons-vue';
import { droppedEntries, type MapEntry } from '@ukiyo/core/arranging';
import { tagsOf, valuesOn } from '@ukiyo/core/facets';
import { readReference } from '@ukiyo/core/library';
import { labelOf } from '@ukiyo/core/grammar';
import type { Path } from '@ukiyo/core/problems';
import { useMessage } from 'naive-ui';
import { computed, nextTick, onMounted, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { messageOf } from '../../parts/api.ts';
import ConflictNotice from './ConflictNotice.vue';
import FacetChooser from '../../editor/FacetChooser.vue';
import type { PopPlace } from '../../editor/popList.ts';
import FacetBadge from '../../parts/FacetBadge.vue';
import { useLens } from '../../parts/lens.ts';
import { useLibrary } from '../../parts/library.ts';
import { useSession } from '../../parts/session.ts';
import { usePlace } from '../../shell/place.ts';
import { useMap } from './useMap.ts';

const library = useLibrary();
const session = useSession();
const place = usePlace();
const route = useRoute();
const router = useRouter();
const message = useMessage();
const map = useMap();
const query = ref('');
const dragged = shallowRef<{ path: Path } | { href: string }>();
const target = shallowRef<{ index: number; where: 'before' | 'inside' | 'after' }>();
const mayWrite = computed(() => session.may('write'));

const maps = computed(() => library.items.filter((item) => item.kind === 'map'));
const id = computed(() => (typeof route.params['id'] === 'string' ? route.params['id'] : ''));
const used = computed(() => new Set(map.entries.value.map((entry) => entry.href)));
const topics = computed(() => library.items.filter((item) => item.kind === 'topic' && item.title.toLowerCase().includes(query.value.trim().toLowerCase())));

async function open(): Promise<void> {
  if (id.value === '') {
    const first = maps.value.find((item) => item.type === 'bookmap') ?? maps.value[0];
    if (first) await router.replace({ name: 'arrange', params: { id: first.id } });
    return;
  }
  try {
    place.trail = [await map.load(id.value)];
  } catch (error) {
    map.failure.value = messageOf(error);
  }
}
onMounted(async () => {
  place.clear();
  await library.ensure();
  await open();
});
watch(id, open);
watch(map.saved, (saved) => (place.saved = saved));

const targetOf = (entry: MapEntry): string => {
  const reference = entry.href === '' ? undefined : readReference(entry.href, id.value);
  return reference?.kind === 'item' ? reference.id : '';
};
const titleOf = (entry: MapEntry): string => entry.title || library.find(targetOf(entry))?.title || entry.href || labelOf(entry.element.name);
/** The entries with what the lens leaves of them. */
const looking = useLens();
const dropped = computed(() => {
  const byEntry = droppedEntries(map.entries.value, ({ attributes }) => looking.drops(attributes));
  // A topic that varies as a whole goes alone: what stands under it stays.
  return map.entries.value.map((entry, index) => byEntry[index] === true || looking.drops(library.find(targetOf(entry))?.conditions ?? {}));
});
const isHidden = (index: number): boolean => looking.hides && dropped.value[index] === true;

/** The entry of which is asked for whom it is. */
const asked = shallowRef<PopPlace>();
const chosenEntry = computed(() => map.entries.value[map.chosenIndex.value]);
function askFacets(): void {
  const row = document.querySelector('.entry[aria-selected="true"]')?.getBoundingClientRect();
  if (row && mayWrite.value) asked.value = row.bottom < window.innerHeight - 400 ? { left: row.left + 24, top: row.bottom + 4 } : { left: row.left + 24, bottom: window.innerHeight - row.top + 4 };
}
function closeFacets(): void {
  asked.value = undefined;
  say(true);
}
const isMissing = (entry: MapEntry): boolean => entry.href !== '' && !library.find(targetOf(entry));

function say(changed: boolean): void {
  if (!changed) message.info('That would not be valid here.');
  void nextTick(() => document.querySelector<HTMLElement>('.entry[aria-selected="true"]')?.focus());
}
function openEntry(entry: MapEntry | undefined): void {
  const item = entry && library.find(targetOf(entry));
  if (item) void router.push({ name: item.kind === 'map' ? 'arrange' : 'write', params: { id: item.id } });
}
function onKey(event: KeyboardEvent): void {
  const command = event.ctrlKey || event.metaKey;
  if (command && event.key === ';') {
    event.preventDefault();
    return askFacets();
  }
  const moves: Record<string, () => boolean> = { ArrowUp: map.moveUp, ArrowDown: map.moveDown, ArrowRight: map.indent, ArrowLeft: map.outdent };
  const change = moves[event.key];
  if (event.altKey && change && mayWrite.value) say(change());
  else if (event.key === 'ArrowUp') map.choose(-1);
  else if (event.key === 'ArrowDown') map.choose(1);
  else if (event.key === 'Enter') openEntry(map.entries.value[map.chosenIndex.value]);
  else if (event.key === 'Delete' && mayWrite.value) say(map.remove());
  else if (command && event.key.toLowerCase() === 'z') (event.shiftKey ? map.redo : map.undo)();
  else return;
  event.preventDefault();
  void nextTick(() => document.querySelector<HTMLElement>('.entry[aria-selected="true"]')?.focus());
}

function over(event: DragEvent, index: number): void {
  const row = event.currentTarget as HTMLElement;
  const box = row.getBoundingClientRect();
  const part = (event.clientY - box.top) / box.height;
  target.value = { index, where: part < 0.3 ? 'before' : part > 0.7 ? 'after' : 'inside' };
}
function drop(): void {
  const entry = target.value && map.entries.value[target.value.index];
  const from = dragged.value;
  const where = target.value?.where;
  target.value = undefined;
  dragged.value = undefined;
  if (!entry || !from) return;
  if ('href' in from) {
    map.chosen.value = entry.path;
    say(map.add(from.href));
    return;
  }
  const parent = where === 'inside' ? entry.path : entry.path.slice(0, -1);
  const index = where === 'inside' ? entry.element.children.length : (entry.path.at(-1) ?? 0) + (where === 'after' ? 1 : 0);
  say(map.drop(from.path, parent, index));
}
</script>

<template>
  <div class="arrange">
    <aside class="drawer" aria-label="Maps and topics">
      <h1>Maps</h1>
      <ul>
        <li v-for="item in maps" :key="item.id"><router-link :to="{ name: 'arrange', params: { id: item.id } }" :class="{ on: item.id === id }">{{ item.title || item.id }}</router-link></li>
      </ul>
      <h1>Topics</h1>
      <n-input v-model:value="query" size="small" clearable placeholder="Filter topics" :input-props="{ 'aria-label': 'Filter topics' }" />
      <ul class="topics" tabindex="0" aria-label="Topics">
        <li v-for="item in topics" :key="item.id" :draggable="mayWrite" @dragstart="dragged = { href: `topic:${item.id}` }">
          <span :class="{ quiet: used.has(`topic:${item.id}`) }">{{ item.title }}</span>
          <button v-if="mayWrite" type="button" class="plain add" :aria-label="`Add ${item.title} to the map`" @click="say(map.add(`topic:${item.id}`))">+</button>
        </li>
      </ul>
    </aside>
    <main class="desk">
      <div class="tools">
        <h1>{{ place.trail[0] }}</h1>
        <span class="quiet small">{{ map.entries.value.length }} entries</span>
        <span class="gap" />
        <router-link v-if="id !== ''" class="as-one" :to="{ name: 'whole', params: { id } }" title="Every topic of the map, one under the other, to read and to write">Write as one</router-link>
        <template v-if="mayWrite">
          <n-button-group size="small">
            <n-button aria-label="Move up" title="Move up (Alt ↑)" @click="say(map.moveUp())"><IconArrowUp :size="18" /></n-button>
            <n-button aria-label="Move down" title="Move down (Alt ↓)" @click="say(map.moveDown())"><IconArrowDown :size="18" /></n-button>
            <n-button aria-label="Move out" title="Move out (Alt ←)" @click="say(map.outdent())"><IconIndentDecrease :size="18" /></n-button>
            <n-button aria-label="Move in" title="Move in (Alt →)" @click="say(map.indent())"><IconIndentIncrease :size="18" /></n-button>
          </n-button-group>
          <n-button size="small" title="For whom the entry is (Ctrl ;)" :disabled="!chosenEntry" @click="askFacets">Only for …</n-button>
          <n-button size="small" aria-label="Take out of the map" title="Take out of the map (Delete)" @click="say(map.remove())"><IconTrash :size="18" /></n-button>
          <n-button-group size="small">
            <n-button aria-label="Undo" :disabled="!map.canUndo.value" @click="map.undo"><IconArrowBackUp :size="18" /></n-button>
            <n-button aria-label="Redo" :disabled="!map.canRedo.value" @click="map.redo"><IconArrowForwardUp :size="18" /></n-button>
          </n-button-group>
        </template>
      </div>
      <p v-if="map.failure.value" class="seal-text" role="alert">{{ map.failure.value }}</p>
      <ConflictNotice :conflict="map.conflict.value" @mine="map.keepMine" @theirs="open" />
      <div class="tree" role="tree" aria-label="Map" @keydown="onKey">
        <div
          v-for="(entry, index) in map.entries.value"
          v-show="!isHidden(index)"
          :key="entry.path.join('.')"
          class="entry"
          role="treeitem"
          :aria-level="entry.depth + 1"
          :aria-selected="index === map.chosenIndex.value"
          :tabindex="index === Math.max(0, map.chosenIndex.value) ? 0 : -1"
          :draggable="mayWrite"
          :class="[target?.index === index ? `drop-${target.where}` : '', { strong: entry.depth === 0, unseen: dropped[index] }]"
          :style="{ paddingLeft: `${12 + entry.depth * 24}px` }"
          @click="map.chosen.value = entry.path"
          @dblclick="openEntry(entry)"
          @dragstart="dragged = { path: entry.path }"
          @dragover.prevent="over($event, index)"
          @dragleave="target = undefined"
          @drop.prevent="drop"
        >
          <span class="title" :class="{ 'seal-text': isMissing(entry) }">{{ titleOf(entry) }}</span>
          <FacetBadge v-for="tag in tagsOf(entry.element.attributes, library.facets)" :key="tag.label" :tag="tag" />
          <span v-if="isMissing(entry)" class="small seal-text">not in the library</span>
          <span v-if="entry.element.name !== 'topicref'" class="quiet small">{{ labelOf(entry.element.name) }}</span>
        </div>
        <p v-if="map.entries.value.length === 0 && !map.failure.value" class="quiet">An empty map. Add topics from the list on the left.</p>
      </div>
      <FacetChooser v-if="asked && chosenEntry" :place="asked" :label="titleOf(chosenEntry)" :values-of="(facet) => valuesOn(chosenEntry!.element.attributes, facet)" :facets="library.facets" @toggle="map.toggleValue" @close="closeFacets" />
    </main>
  </div>
</template>

<style scoped>
.arrange { display: grid; grid-template-columns: 260px minmax(0, 1fr); height: 100%; }
.drawer { border-right: 1px solid var(--hair); display: flex; flex-direction: column; min-height: 0; padding: 14px 0 0; } .drawer h1 { padding: 0 14px 8px; } .drawer h1:not(:first-child) { padding-top: 18px; } ul { list-style: none; margin: 0; padding: 0; } .drawer a { display: block; padding: 4px 14px; color: var(--ink); text-decoration: none; } .drawer a.on { background: var(--wash); box-shadow: inset 3px 0 var(--prussian); } .n-input { margin: 0 12px 8px; width: auto; }
.topics { flex: 1; overflow: auto; } .topics li { display: flex; justify-content: space-between; align-items: center; padding: 2px 8px 2px 14px; min-height: 28px; cursor: grab; } .topics li:hover { background: var(--paper-deep); } .add { width: 24px; height: 24px; text-align: center; border-radius: 3px; color: var(--prussian); font-size: 18px; line-height: 1; }
.desk { display: flex; flex-direction: column; min-height: 0; padding: 14px 20px 0; } .tools { display: flex; align-items: center; gap: 10px; padding-bottom: 12px; } .gap { flex: 1; } .as-one { color: var(--prussian); white-space: nowrap; }
.tree { flex: 1; overflow: auto; background: var(--sheet); border: 1px solid var(--hair); border-bottom: 0; border-radius: 4px 4px 0 0; padding: 8px 0; } .entry { display: flex; align-items: center; gap: 12px; min-height: 30px; padding-right: 16px; cursor: default; position: relative; } .entry.strong { font-weight: 600; } .entry .quiet { margin-left: auto; font-weight: 400; } .entry:hover { background: var(--paper); } .entry.unseen .title { color: var(--soft); text-decoration: line-through; } .entry[aria-selected='true'] { background: var(--wash); box-shadow: inset 3px 0 var(--prussian); } .entry.drop-before { box-shadow: inset 0 2px var(--prussian); } .entry.drop-after { box-shadow: inset 0 -2px var(--prussian); } .entry.drop-inside { outline: 2px solid var(--prussian); outline-offset: -2px; } .tree > p { padding: 24px; }
</style>
