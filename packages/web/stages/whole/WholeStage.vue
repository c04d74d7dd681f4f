<script setup lang="ts">
import { Selection } from 'prosemirror-state';
import {
  computed,
  nextTick,
  onBeforeUnmount,
  onMounted,
  ref,
  shallowReactive,
  shallowRef,
  watch,
} from 'vue';
import { useRoute } from 'vue-router';
import ViewSwitch from '../../editor/ViewSwitch.vue';
import { usePageView } from '../../editor/pageView.ts';
import { useItems } from '../../parts/items.ts';
import { useLibrary } from '../../parts/library.ts';
import { usePlace } from '../../shell/place.ts';
import OpenElements from '../../sheet/OpenElements.vue';
import SheetBench from '../../sheet/SheetBench.vue';
import { usePageKeys } from '../../sheet/usePageKeys.ts';
import { useSafeLeaving } from '../../parts/safeLeaving.ts';
import type { TopicSheet } from '../../sheet/useTopicSheet.ts';
import SheetSlot from './SheetSlot.vue';
import { useWholeMap } from './useWholeMap.ts';

/** A whole map as one document: every topic can be written where it stands. */
const items = useItems();
const library = useLibrary();
const place = usePlace();
const route = useRoute();
const { places, failure, load } = useWholeMap();
const { view, marks, tags } = usePageView();
const id = computed(() => String(route.params['id']));
const desk = ref<HTMLElement | null>(null);
const bench = ref<{ goToName: () => void }>();
const active = shallowRef<TopicSheet>();
const activeKey = ref('');
const sheets = shallowReactive(new Set<TopicSheet>());
/** The place that the caret goes to next, and where in it. */
const wanted = shallowRef<{ key: string; at: 'start' | 'end' }>();
usePageKeys();
useSafeLeaving(computed(() => [...sheets].every(({ live }) => live.isSafe.value)));

function focus(key: string, sheet: TopicSheet): void {
  active.value = sheet;
  activeKey.value = key;
}
function closed(sheet: TopicSheet): void {
  sheets.delete(sheet);
  if (active.value === sheet) active.value = undefined;
}
async function goTo(key: string, at: 'start' | 'end' = 'start'): Promise<void> {
  document
    .getElementById(`place-${key}`)
    ?.scrollIntoView({ block: at === 'start' ? 'start' : 'nearest' });
  wanted.value = undefined;
  await nextTick();
  wanted.value = { key, at };
}
/** The arrow keys lead from the last line of a topic into the next one, and back. */
function onKey(event: KeyboardEvent): void {
  const editor = active.value?.editor.view.value;
  const offset = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  if (
    !editor ||
    offset === undefined ||
    event.altKey ||
    event.ctrlKey ||
    event.metaKey ||
    event.shiftKey ||
    !editor.hasFocus()
  )
    return;
  const {
    doc,
    selection: { $head },
  } = editor.state;
  if (!$head.parent.isTextblock || !editor.endOfTextblock(offset > 0 ? 'down' : 'up')) return;
  if (Selection.findFrom(doc.resolve(offset > 0 ? $head.after() : $head.before()), offset, true))
    return;
  const topics = places.value.filter((one) => one.item !== undefined);
  const next = topics[topics.findIndex(({ key }) => key === activeKey.value) + offset];
  if (!next) return;
  event.preventDefault();
  void goTo(next.key, offset > 0 ? 'start' : 'end');
}
onMounted(async () => {
  place.clear();
  await library.ensure();
  await load(id.value);
});
watch(id, load);
watch(
  [() => items.find(id.value)?.title, () => active.value && items.find(active.value.id())?.title],
  ([map, topic]) => (place.trail = [map ?? id.value, ...(topic === undefined ? [] : [topic])]),
  { immediate: true },
);
watch(
  [
    () => active.value?.live.saved.value,
    () => active.value?.editor.words.value,
    () => active.value?.editor.problems.value,
  ],
  ([saved, words, problems]) => {
    place.saved = saved ?? '';
    place.words = words;
    place.problems = problems?.length;
  },
);
watch(
  () => active.value?.live.people.value,
  (people) =>
    (place.people = (people ?? []).filter(({ client }) => client !== active.value?.live.ownName())),
);
onBeforeUnmount(() => place.clear());
</script>

<template>
  <div class="whole">
    <nav class="drawer" aria-label="Contents">
      <h1>{{ items.find(id)?.title ?? id }}</h1>
      <ul>
        <li v-for="one in places" :key="one.key">
          <button
            v-if="one.item"
            type="button"
            class="plain"
            :class="{ on: one.key === activeKey }"
            :aria-current="one.key === activeKey ? 'true' : undefined"
            :style="{ paddingLeft: `${14 + one.depth * 14}px` }"
            @click="goTo(one.key)"
          >
            {{ one.title || items.find(one.item)?.title || one.item }}
          </button>
          <span v-else class="quiet" :style="{ paddingLeft: `${14 + one.depth * 14}px` }">
            {{ one.title }}
          </span>
        </li>
      </ul>
    </nav>
    <main ref="desk" class="desk" tabindex="0" @keydown.capture="onKey">
      <ViewSwitch v-model:view="view" v-model:marks="marks" v-model:tags="tags" pages-only />
      <p v-if="failure" class="notice" role="alert">{{ failure }}</p>
      <template v-for="one in places" :key="one.key">
        <SheetSlot
          v-if="one.item"
          :id="`place-${one.key}`"
          :item="one.item"
          :is-active="one.key === activeKey"
          :enter-at="wanted?.key === one.key ? wanted.at : undefined"
          :scroller="desk"
          @opened="sheets.add($event)"
          @closed="closed"
          @focus="focus(one.key, $event)"
          @entered="wanted = undefined"
          @save="bench?.goToName()"
        />
        <h2 v-else class="heading">{{ one.title }}</h2>
      </template>
    </main>
    <SheetBench v-if="active" ref="bench" :key="activeKey" :sheet="active" />
    <aside v-else class="empty quiet" aria-label="Bench">
      Put the caret into a topic: its details, facts, problems and history stand here.
    </aside>
    <OpenElements v-if="active" :open="active.editor.open.value" @select="active.editor.select" />
  </div>
</template>

<style scoped>
.whole {
  display: grid;
  grid-template-columns: 236px minmax(0, 1fr) 280px;
  height: 100%;
}
.whole:has(> .wide) {
  grid-template-columns: 200px minmax(0, 1fr) minmax(280px, 34%);
}
.drawer {
  border-right: 1px solid var(--hair);
  padding: 14px 0;
  overflow: auto;
}
.drawer h1 {
  padding: 0 14px 8px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li > * {
  display: block;
  width: 100%;
  padding: 3px 10px 3px 14px;
  text-align: left;
  color: var(--ink);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
li > span {
  color: var(--soft);
}
li > button:hover {
  background: var(--paper-deep);
}
li > .on {
  background: var(--wash);
  box-shadow: inset 3px 0 var(--prussian);
}
.desk {
  overflow: auto;
  padding: 14px 18px 60vh;
}
.heading {
  max-width: 760px;
  margin: 26px auto 14px;
  font: 500 20px var(--font-title);
  color: var(--prussian);
}
.notice {
  max-width: 760px;
  margin: 0 auto 12px;
  padding: 10px 14px;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 4px;
}
.empty {
  border-left: 1px solid var(--hair);
  padding: 14px 16px;
}
@media (max-width: 1150px) {
  .whole,
  .whole:has(> .wide) {
    grid-template-columns: 200px minmax(0, 1fr) 220px;
  }
}
</style>
