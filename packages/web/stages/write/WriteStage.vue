<script setup lang="ts">
import {
  computed,
  defineAsyncComponent,
  onBeforeUnmount,
  onMounted,
  ref,
  watch,
  type Component,
} from 'vue';
import { useRoute } from 'vue-router';
import type { SourceLanguage } from '../../editor/sourceLanguage.ts';
import { useMessage } from 'naive-ui';
import ViewSwitch from '../../editor/ViewSwitch.vue';
import { usePageView } from '../../editor/pageView.ts';
import { useItems } from '../../parts/items.ts';
import { useLibrary } from '../../parts/library.ts';
import { useSession } from '../../parts/session.ts';
import { usePlace } from '../../shell/place.ts';
import AlternatesStrip from './AlternatesStrip.vue';
import OpenElements from '../../sheet/OpenElements.vue';
import SourceStrip from './SourceStrip.vue';
import SheetBench from '../../sheet/SheetBench.vue';
import TopicList from './TopicList.vue';
import TopicPage from '../../sheet/TopicPage.vue';
import { usePageKeys } from '../../sheet/usePageKeys.ts';
import { useSafeLeaving } from '../../parts/safeLeaving.ts';
import { useSource } from './useSource.ts';
import { useTopicSheet } from '../../sheet/useTopicSheet.ts';

const HomeEditor = defineAsyncComponent(
  () => import('../../sheet/HomeEditor.vue') as Promise<Component>,
);
const SourcePane = defineAsyncComponent(
  () => import('../../editor/SourcePane.vue') as Promise<Component>,
);
const items = useItems();
const library = useLibrary();
const place = usePlace();
const session = useSession();
const route = useRoute();
const message = useMessage();
const { view, marks, tags } = usePageView();
const bench = ref<{ goToName: () => void }>();
const id = computed(() => (typeof route.params['id'] === 'string' ? route.params['id'] : ''));

const sheet = useTopicSheet(() => id.value, {
  changed: (maps) => source.follow(maps),
  save: () => bench.value?.goToName(),
  begin,
});
const { editor, live, editable } = sheet;
const source = useSource({
  view: editor.view,
  read: editor.read,
  name: () => `ukiyo-text ${session.base} ${id.value}`,
  agreed: () => ({ facets: library.facets, rules: library.agreements.rules }),
  refuse: (reason) => void message.warning(reason, { duration: 8000 }),
});
useSafeLeaving(computed(() => live.isSafe.value && !source.isHeld.value));
/** The text comes first, and what lies beside it once it is drawn, or cannot be. */
const showsBeside = computed(
  () => id.value === '' || sheet.isDrawn.value || sheet.failure.value !== '' || !!live.ended.value,
);
/** The page, or one of its texts: the same key leads there and back. */
const switchTo = (language: SourceLanguage): void =>
  void (source.language.value === language ? source.leave() : source.open(language));
usePageKeys(
  { 6: () => switchTo('source'), 7: () => switchTo('markdown') },
  () => source.language.value === undefined || source.leave(),
);

/** What an earlier visit left, and the place that a problem elsewhere leads to. */
function begin(): void {
  source.lookForLeft();
  const { path } = route.query;
  if (typeof path === 'string') editor.goTo(path.split('.').map(Number));
  // Who comes by keys goes on by keys; what holds the focus keeps it.
  else if (document.activeElement === document.body) editor.enter();
}
async function show(): Promise<void> {
  source.close();
  await sheet.show();
}
place.clear();
onMounted(show);
watch(id, show);
watch(
  [() => items.find(id.value)?.title, id],
  ([title]) => (place.trail = id.value === '' ? [] : [title ?? id.value]),
  { immediate: true },
);
watch(
  live.people,
  (people) => (place.people = people.filter(({ client }) => client !== live.ownName())),
);
watch([live.saved, source.isHeld, editor.words, editor.problems], () => {
  place.saved = source.isHeld.value ? 'Not saved yet' : live.saved.value;
  place.words = editor.words.value;
  place.problems = editor.problems.value.length;
});
onBeforeUnmount(() => place.clear());
</script>

<template>
  <div class="write">
    <TopicList v-if="showsBeside" :current="id" />
    <div v-else />
    <main class="desk" tabindex="0">
      <div v-if="id === ''" class="notice quiet">
        Choose a topic on the left, or make one in the Library.
      </div>
      <ViewSwitch
        v-if="id !== ''"
        v-model:view="view"
        v-model:marks="marks"
        v-model:tags="tags"
        :language="source.language.value"
        @page="source.leave"
        @language="switchTo"
      />
      <AlternatesStrip v-if="id !== ''" :topic="id" :editable="editable" />
      <SourceStrip v-if="id !== ''" :topic="id" />
      <p v-if="source.left.value && !source.language.value" class="notice" role="alert">
        This browser has text for this topic that is not saved yet.
        <n-button size="tiny" type="primary" @click="source.reopenLeft">Open text</n-button>
        <n-button size="tiny" @click="source.discardLeft">Discard text</n-button>
      </p>
      <template v-if="source.language.value">
        <p v-if="source.isHeld.value" class="notice held" role="status">
          Not in the topic yet{{
            source.problems.value[0] ? `: ${source.problems.value[0].message}` : ' …'
          }}
          <n-button size="tiny" @click="source.refresh">Discard changes</n-button>
        </p>
        <SourcePane
          :key="source.language.value"
          v-model:text="source.text.value"
          :language="source.language.value"
          :problems="source.problems.value"
          :editable="editable"
        />
      </template>
      <TopicPage :sheet="sheet" :is-hidden="source.language.value !== undefined" />
    </main>
    <SheetBench v-if="showsBeside" ref="bench" :sheet="sheet" />
    <HomeEditor v-if="sheet.home.value !== undefined" :from="sheet" />
    <OpenElements v-if="showsBeside" :open="editor.open.value" @select="editor.select" />
  </div>
</template>

<style scoped>
.write {
  display: grid;
  grid-template-columns: 236px minmax(0, 1fr) 280px;
  height: 100%;
}
.write:has(> .wide) {
  grid-template-columns: 200px minmax(0, 1fr) minmax(280px, 34%);
}
.desk {
  overflow: auto;
  padding: 14px 18px 0;
}
.notice {
  max-width: 760px;
  margin: 0 auto 12px;
  padding: 10px 14px;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 4px;
}
.notice .n-button {
  margin-inline-start: 6px;
}
/* Stays in sight above a long text. */
.held {
  position: sticky;
  top: 0;
  z-index: 2;
}
@media (max-width: 1150px) {
  .write,
  .write:has(> .wide) {
    grid-template-columns: 200px minmax(0, 1fr) 220px;
  }
}
</style>
