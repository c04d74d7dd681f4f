<script setup lang="ts">
import { ref, watch } from 'vue';
import { useItemList } from '../../parts/itemList.ts';
import ItemRows from '../../parts/ItemRows.vue';
import { draggedEntries } from './mapColumns.ts';
import NewMap from './NewMap.vue';
import CheckBox from '../../parts/CheckBox.vue';

/** The maps of the project, and topics to put into the open one: one or several at once. */
const { current, used, mayWrite, isOpen } = defineProps<{
  current: string;
  used: ReadonlySet<string>;
  mayWrite: boolean;
  /** The map is there, so that something can be put into it. */ isOpen: boolean;
}>();
const emit = defineEmits<{ add: [hrefs: readonly string[]] }>();
const query = ref('');
const chosen = ref<readonly string[]>([]);
const maps = useItemList(() => ({ kind: 'map' }));
const topics = useItemList(() => ({
  kind: 'topic',
  alternates: false,
  title: query.value.trim(),
}));
const hrefsOfAll = async (): Promise<string[]> =>
  (await topics.loadAll()).map(({ id }) => hrefOf(id));
watch(query, () => (chosen.value = []));
const hrefOf = (id: string): string => `topic:${id}`;
function toggle(href: string): void {
  chosen.value = chosen.value.includes(href)
    ? chosen.value.filter((one) => one !== href)
    : [...chosen.value, href];
}
function begin(event: DragEvent, href: string): void {
  draggedEntries.value = { hrefs: chosen.value.includes(href) ? chosen.value : [href] };
  event.dataTransfer?.setData('text/plain', href);
}
function add(hrefs: readonly string[]): void {
  emit('add', hrefs);
  chosen.value = [];
}
</script>

<template>
  <aside class="drawer" aria-label="Maps and topics">
    <h1>Maps</h1>
    <ItemRows v-slot="{ item }" class="maps" :list="maps" :row-height="28" label="Maps">
      <div
        class="row"
        :draggable="mayWrite && item.id !== current"
        @dragstart="begin($event, `map:${item.id}`)"
      >
        <router-link
          :to="{ name: 'arrange', params: { id: item.id } }"
          :class="{ on: item.id === current }"
        >
          {{ item.title || item.id }}
        </router-link>
        <button
          v-if="mayWrite && item.id !== current"
          type="button"
          class="plain add"
          :disabled="!isOpen"
          :aria-label="`Add the map ${item.title || item.id}`"
          @click="add([`map:${item.id}`])"
        >
          +
        </button>
      </div>
    </ItemRows>
    <h1>Topics</h1>
    <n-input
      v-model:value="query"
      size="small"
      clearable
      placeholder="Filter topics"
      :input-props="{ 'aria-label': 'Filter topics' }"
    />
    <div v-if="mayWrite" class="acts small">
      <button
        v-if="chosen.length > 0"
        type="button"
        class="plain"
        :disabled="!isOpen"
        @click="add(chosen)"
      >
        Add the {{ chosen.length }} chosen
      </button>
      <NewMap
        v-if="query.trim() !== '' && topics.total.value > 0"
        :hrefs="hrefsOfAll"
        :label="`Make a map of these ${topics.total.value} …`"
        :title="query.trim()"
      />
    </div>
    <ItemRows v-slot="{ item }" class="topics" :list="topics" :row-height="28" label="Topics">
      <div
        class="row"
        :draggable="mayWrite"
        :class="{ on: chosen.includes(hrefOf(item.id)) }"
        @dragstart="begin($event, hrefOf(item.id))"
      >
        <CheckBox
          v-if="mayWrite"
          :checked="chosen.includes(hrefOf(item.id))"
          :aria-label="`Choose ${item.title}`"
          @update:checked="toggle(hrefOf(item.id))"
        />
        <span class="title" :class="{ quiet: used.has(hrefOf(item.id)) }" :title="item.title">
          {{ item.title }}
        </span>
        <button
          v-if="mayWrite"
          type="button"
          class="plain add"
          :disabled="!isOpen"
          :aria-label="`Add ${item.title} to the map`"
          @click="add([hrefOf(item.id)])"
        >
          +
        </button>
      </div>
    </ItemRows>
  </aside>
</template>

<style scoped>
.drawer {
  border-right: 1px solid var(--hair);
  display: flex;
  flex-direction: column;
  min-height: 0;
  padding: 14px 0 0;
}
.drawer h1 {
  padding: 0 14px 8px;
}
.drawer h1:not(:first-child) {
  padding-top: 18px;
}
.maps {
  max-height: 30%;
  overflow: auto;
  flex: none;
}
.maps .row {
  display: flex;
  align-items: center;
  height: 28px;
  padding-right: 8px;
}
.maps a {
  flex: 1;
  min-width: 0;
}
.maps a,
.title {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.drawer a {
  display: block;
  padding: 4px 14px;
  color: var(--ink);
  text-decoration: none;
}
.drawer a.on {
  background: var(--wash);
  box-shadow: inset 3px 0 var(--prussian);
}
.n-input {
  margin: 0 12px 6px;
  width: auto;
}
.acts {
  display: flex;
  gap: 10px;
  padding: 0 14px 4px;
}
.acts > button {
  color: var(--prussian);
  text-decoration: underline;
}
.topics {
  flex: 1;
  overflow: auto;
}
.topics .row {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 2px 8px 2px 14px;
  height: 28px;
  cursor: grab;
}
.topics .title {
  flex: 1;
}
.topics .row:hover {
  background: var(--paper-deep);
}
.topics .row.on {
  background: var(--wash);
}
.add {
  width: 24px;
  height: 24px;
  text-align: center;
  border-radius: 3px;
  color: var(--prussian);
  font-size: 18px;
  line-height: 1;
}
</style>
