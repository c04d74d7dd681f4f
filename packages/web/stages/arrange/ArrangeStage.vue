<script setup lang="ts">
import {
  IconArrowBackUp,
  IconArrowDown,
  IconArrowForwardUp,
  IconArrowUp,
  IconIndentDecrease,
  IconIndentIncrease,
  IconTrash,
} from '@tabler/icons-vue';
import { cutOut, type MapEntry } from '@ukiyo/core/arranging';
import { valuesOn } from '@ukiyo/core/facets';
import { writeCanonical } from '@ukiyo/core/grammar';
import { useStorage } from '@vueuse/core';
import { useMessage } from 'naive-ui';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import FacetChooser from '../../editor/FacetChooser.vue';
import type { PopPlace } from '../../editor/popList.ts';
import { attempts, useAttempts } from '../../parts/attempts.ts';
import { useItems } from '../../parts/items.ts';
import { useLibrary } from '../../parts/library.ts';
import PickOne from '../../parts/PickOne.vue';
import { useSession } from '../../parts/session.ts';
import { useVariables } from '../../parts/variables.ts';
import { usePlace } from '../../shell/place.ts';
import ConflictNotice from '../../parts/ConflictNotice.vue';
import ContentsPanel from './ContentsPanel.vue';
import EntryPanel from './EntryPanel.vue';
import ProofPanel from '../../sheet/ProofPanel.vue';
import MapComparison from './MapComparison.vue';
import MapDrawer from './MapDrawer.vue';
import MapPanel from './MapPanel.vue';
import MapTree from './MapTree.vue';
import RelationGrids from './RelationGrids.vue';
import { factColumn, mapColumns } from './mapColumns.ts';
import { useContents } from './useContents.ts';
import { useEntries } from './useEntries.ts';
import { useMap } from './useMap.ts';
import CheckBox from '../../parts/CheckBox.vue';

const items = useItems();
const library = useLibrary();
const variables = useVariables();
const session = useSession();
const place = usePlace();
const route = useRoute();
const router = useRouter();
const message = useMessage();
const { attempt } = useAttempts();
const map = useMap();
const id = computed(() => (typeof route.params['id'] === 'string' ? route.params['id'] : ''));
const entries = useEntries(map, () => id.value);
const contents = useContents(
  () => id.value,
  () => map.saved.value,
);
const tree = ref<{ focusChosen: () => void }>();
const mayWrite = computed(() => session.may('write'));
const used = computed(() => new Set(map.entries.value.map((entry) => entry.href)));
const columns = useStorage<string[]>('ukiyo-arrange-columns', ['number', 'facets']);
const turnColumn = (name: string): void =>
  void (columns.value = columns.value.includes(name)
    ? columns.value.filter((one) => one !== name)
    : [...columns.value, name]);
const allColumns = computed(() => [
  ...mapColumns,
  ...library.agreements.facts.map(({ name, label }) => ({ name: factColumn(name), label })),
]);
const views = [
  { name: 'order', label: 'Order' },
  { name: 'links', label: 'Links' },
  { name: 'beside', label: 'Beside another' },
] as const;
const view = ref<(typeof views)[number]['name']>('order');
const panels = [
  { name: 'entry', label: 'Entry' },
  { name: 'map', label: 'Map' },
  { name: 'contents', label: 'Contents' },
  { name: 'proof', label: 'Proof' },
] as const;
const panel = useStorage<(typeof panels)[number]['name']>('ukiyo-arrange-panel', 'entry');
const wanted = ref('');
const { attempt: attemptOpening } = attempts((sentence) => void (map.failure.value = sentence));

async function open(): Promise<void> {
  if (id.value === '') return;
  await attemptOpening(async () => {
    place.trail = [await map.load(id.value)];
    view.value = 'order';
  });
}
onMounted(async () => {
  place.clear();
  await Promise.all([open(), library.ensure(), variables.ensure(), contents.loadEditions()]);
});
watch(id, open);
watch(map.saved, (saved) => (place.saved = saved));

const chosenEntry = computed(() => map.entries.value[map.chosenIndex.value]);
const chosenTopic = computed(() => {
  const item = chosenEntry.value && entries.itemOf(chosenEntry.value);
  return item?.kind === 'topic' ? item.id : undefined;
});
/** How often the map was saved: then its pages are others. */
const savings = ref(0);
watch(map.saved, (state) => {
  if (state === 'Saved') savings.value += 1;
});
function say(changed: boolean): void {
  if (!changed) refuse();
  tree.value?.focusChosen();
}
const refuse = (): void => void message.info('That would not be valid here.');
function openEntry(entry: MapEntry): void {
  const item = entries.itemOf(entry);
  if (item)
    void router.push({ name: item.kind === 'map' ? 'arrange' : 'write', params: { id: item.id } });
}
function find(): void {
  if (!entries.find(wanted.value)) message.info('No entry of this map is called so.');
}
/** The entries of which is asked for whom they are. */
const asked = shallowRef<PopPlace>();
function askFacets(): void {
  const row = document.querySelector('.entry.at')?.getBoundingClientRect();
  if (row && mayWrite.value)
    asked.value =
      row.bottom < window.innerHeight - 400
        ? { left: row.left + 24, top: row.bottom + 4 }
        : { left: row.left + 24, bottom: window.innerHeight - row.top + 4 };
}
function closeFacets(): void {
  asked.value = undefined;
  tree.value?.focusChosen();
}
/** The branch becomes a map, and this map takes it in. */
async function cut(): Promise<void> {
  const entry = chosenEntry.value;
  const root = map.root.value;
  if (!entry || !root) return;
  const title = entries.titleOf(entry);
  // Before a map is made that could hold nothing.
  if (!cutOut(root, entry.path, 'new', title)) return refuse();
  const folder = items.find(id.value)?.folder ?? '';
  await attempt(async () => {
    const made = await items.create({ type: 'map', title, folder });
    const parted = cutOut(map.root.value ?? root, entry.path, made.id, title);
    if (!parted) return refuse();
    await items.save(made.id, writeCanonical(parted.branch), made.version);
    map.changeRoot(() => parted.root);
    message.success(`“${title}” is a map of its own now, and stands here as before.`);
  });
}
</script>

<template>
  <div class="arrange">
    <MapDrawer
      :current="id"
      :used="used"
      :may-write="mayWrite"
      :is-open="map.root.value !== undefined"
      @add="(hrefs) => say(map.add(hrefs))"
    />
    <main class="desk">
      <div class="tools">
        <h1>{{ place.trail[0] }}</h1>
        <span class="quiet small count">{{ map.entries.value.length }} entries</span>
        <span class="gap" />
        <div class="views" role="group" aria-label="View">
          <button
            v-for="{ name, label } in views"
            :key="name"
            type="button"
            class="plain"
            :class="{ on: name === view }"
            :aria-pressed="name === view"
            @click="view = name"
          >
            {{ label }}
          </button>
        </div>
        <router-link
          v-if="id !== ''"
          class="as-one"
          :to="{ name: 'whole', params: { id } }"
          title="Every topic of the map, one under the other, to read and to write"
        >
          Write as one
        </router-link>
      </div>
      <div v-if="view === 'order'" class="tools">
        <template v-if="mayWrite">
          <n-button-group size="small">
            <n-button aria-label="Move up" title="Move up (Alt ↑)" @click="say(map.moveUp())">
              <IconArrowUp :size="18" />
            </n-button>
            <n-button aria-label="Move down" title="Move down (Alt ↓)" @click="say(map.moveDown())">
              <IconArrowDown :size="18" />
            </n-button>
            <n-button aria-label="Move out" title="Move out (Alt ←)" @click="say(map.outdent())">
              <IconIndentDecrease :size="18" />
            </n-button>
            <n-button aria-label="Move in" title="Move in (Alt →)" @click="say(map.indent())">
              <IconIndentIncrease :size="18" />
            </n-button>
          </n-button-group>
          <n-button
            size="small"
            title="For whom the entry is (Ctrl ;)"
            :disabled="!chosenEntry"
            @click="askFacets"
          >
            Only for …
          </n-button>
          <n-button
            size="small"
            aria-label="Take out of the map"
            title="Take out of the map (Delete)"
            @click="say(map.remove())"
          >
            <IconTrash :size="18" />
          </n-button>
          <n-button-group size="small">
            <n-button aria-label="Undo" :disabled="!map.canUndo.value" @click="map.undo">
              <IconArrowBackUp :size="18" />
            </n-button>
            <n-button aria-label="Redo" :disabled="!map.canRedo.value" @click="map.redo">
              <IconArrowForwardUp :size="18" />
            </n-button>
          </n-button-group>
        </template>
        <span class="gap" />
        <n-input
          v-model:value="wanted"
          size="small"
          class="find"
          clearable
          placeholder="Find"
          :input-props="{ 'aria-label': 'Find in this map' }"
          @keydown.enter="find"
        />
        <PickOne
          :chosen="''"
          label="Levels"
          :options="[
            { value: '', label: 'Levels' },
            { value: '0', label: 'only the first' },
            { value: '1', label: 'the first two' },
            { value: 'all', label: 'all' },
          ]"
          @update:chosen="
            entries.foldFrom($event === 'all' || $event === '' ? undefined : Number($event))
          "
        />
        <n-popover trigger="click" placement="bottom-end">
          <template #trigger><n-button size="small">Columns</n-button></template>
          <div class="columns">
            <CheckBox
              v-for="{ name, label } in allColumns"
              :key="name"
              :checked="columns.includes(name)"
              @update:checked="turnColumn(name)"
            >
              {{ label }}
            </CheckBox>
          </div>
        </n-popover>
      </div>
      <p v-if="map.failure.value" class="seal-text" role="alert">{{ map.failure.value }}</p>
      <ConflictNotice v-if="map.conflict.value" @mine="map.keepMine" @theirs="open">
        {{ map.conflict.value.updatedBy }} saved this map after you opened it. Yours is still on the
        page.
      </ConflictNotice>
      <MapTree
        v-if="view === 'order'"
        ref="tree"
        :map="map"
        :entries="entries"
        :contents="contents"
        :columns="columns"
        :may-write="mayWrite"
        @open="openEntry"
        @facets="askFacets"
        @refused="refuse"
      >
        <p v-if="map.entries.value.length === 0 && !map.failure.value" class="quiet">
          An empty map. Add topics from the list on the left.
        </p>
      </MapTree>
      <RelationGrids v-else-if="view === 'links'" :map="map" :editable="mayWrite" />
      <MapComparison
        v-else-if="map.root.value"
        :id="id"
        :root="map.root.value"
        :entries="entries"
      />
      <FacetChooser
        v-if="asked && chosenEntry"
        :place="asked"
        :label="entries.titleOf(chosenEntry)"
        :wider="undefined"
        :values-of="(facet) => valuesOn(chosenEntry!.element.attributes, facet)"
        :facets="library.facets"
        @toggle="map.toggleValue"
        @close="closeFacets"
      />
    </main>
    <aside class="bench" aria-label="About the map">
      <label class="small quiet">
        As the edition
        <PickOne
          v-model:chosen="contents.chosen.value"
          label="As the edition"
          :options="[
            { value: '', label: 'none' },
            ...contents.offered.value.map((edition) => ({
              value: edition.id,
              label: edition.name,
            })),
          ]"
        />
      </label>
      <div class="tabs" role="tablist" aria-label="About the map">
        <button
          v-for="{ name, label } in panels"
          :id="`tab-${name}`"
          :key="name"
          type="button"
          role="tab"
          aria-controls="map-panel"
          :aria-selected="name === panel"
          @click="panel = name"
        >
          {{ label }}
        </button>
      </div>
      <div id="map-panel" role="tabpanel" tabindex="0" :aria-labelledby="`tab-${panel}`">
        <template v-if="panel === 'entry'">
          <EntryPanel
            v-if="chosenEntry"
            :map="map"
            :entry="chosenEntry"
            :entries="entries"
            :contents="contents"
            :editable="mayWrite"
            @refused="refuse"
            @cut="cut"
            @facets="askFacets"
          />
          <p v-else class="quiet">Choose an entry.</p>
        </template>
        <MapPanel
          v-else-if="panel === 'map' && map.root.value"
          :id="id"
          :map="map"
          :editable="mayWrite"
        />
        <template v-else-if="panel === 'proof'">
          <ProofPanel
            v-if="chosenTopic"
            :topic="chosenTopic"
            :changes="savings"
            :root-of="() => undefined"
            :at="undefined"
            @go="chosenEntry && openEntry(chosenEntry)"
          />
          <p v-else class="quiet">Choose an entry with a topic: here are its pages.</p>
        </template>
        <ContentsPanel v-else-if="panel === 'contents'" :contents="contents" />
      </div>
    </aside>
  </div>
</template>

<style scoped>
.arrange {
  display: grid;
  grid-template-columns: 236px minmax(0, 1fr) 280px;
  height: 100%;
}
.desk {
  display: flex;
  flex-direction: column;
  min-height: 0;
  padding: 14px 18px 0;
}
.tools {
  display: flex;
  align-items: center;
  gap: 10px;
  padding-bottom: 10px;
}
.tools h1 {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.count {
  white-space: nowrap;
}
.gap {
  flex: 1;
}
.as-one {
  color: var(--prussian);
  white-space: nowrap;
}
.find {
  width: 120px;
}
.views {
  display: flex;
  gap: 2px;
}
.views button {
  padding: 4px 10px;
  border-radius: 4px;
  color: var(--soft);
  white-space: nowrap;
}
.views button.on {
  background: var(--wash);
  color: var(--prussian);
}
.columns {
  display: grid;
  gap: 4px;
}
.bench {
  border-left: 1px solid var(--hair);
  display: flex;
  flex-direction: column;
  min-height: 0;
  padding-top: 12px;
}
.bench > label {
  display: grid;
  gap: 3px;
  padding: 0 16px 8px;
}
.tabs {
  display: flex;
  gap: 14px;
  padding: 0 16px;
  border-bottom: 1px solid var(--hair);
}
.tabs button {
  border: 0;
  background: none;
  padding: 4px 0 8px;
  color: var(--soft);
  font: 400 14px var(--font-text);
  cursor: pointer;
}
.tabs button[aria-selected='true'] {
  color: var(--ink);
  box-shadow: inset 0 -2px var(--prussian);
}
#map-panel {
  overflow: auto;
  padding: 14px 16px 30px;
  flex: 1;
}
.quiet {
  margin: 0;
}
@media (max-width: 1150px) {
  .arrange {
    grid-template-columns: 200px minmax(0, 1fr) 230px;
  }
}
</style>
