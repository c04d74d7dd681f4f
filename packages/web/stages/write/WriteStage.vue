<script setup lang="ts">
import type { Choice } from '@ukiyo/core/editing';
import { readItem } from '@ukiyo/core/library';
import { useEventListener } from '@vueuse/core';
import { computed, nextTick, onMounted, ref, shallowRef, watch } from 'vue';
import { onBeforeRouteLeave, useRoute } from 'vue-router';
import InsertPalette from '../../editor/InsertPalette.vue';
import PageLadder from '../../editor/PageLadder.vue';
import ViewSwitch from '../../editor/ViewSwitch.vue';
import '../../editor/page.css';
import { pageViews, usePageView } from '../../editor/pageView.ts';
import { useEditor } from '../../editor/useEditor.ts';
import { messageOf } from '../../parts/api.ts';
import { useLibrary } from '../../parts/library.ts';
import { useSession } from '../../parts/session.ts';
import ConflictNotice from '../../parts/ConflictNotice.vue';
import { useStoredText } from '../../parts/storedText.ts';
import { usePlace } from '../../shell/place.ts';
import TopicList from './TopicList.vue';
import WriteBench from './WriteBench.vue';

const library = useLibrary();
const session = useSession();
const place = usePlace();
const route = useRoute();
const mount = ref<HTMLElement>();
const failure = ref('');
const unreadable = ref('');
// Not deep: the editor compares node types by identity.
const palette = shallowRef<{ choices: Choice[]; left: number; top?: number; bottom?: number }>();

const pageView = usePageView();
const topic = useStoredText(() => editor.read());
const editor = useEditor({
  imageAddress: library.assetAddress,
  read: library.read,
  facets: () => library.facets,
  signs: () => pageView.signs.value,
  changed: topic.changed,
  save: () => void topic.save(),
  openPalette,
});
const id = computed(() => (typeof route.params['id'] === 'string' ? route.params['id'] : ''));

function openPalette(): void {
  const view = editor.view.value;
  if (!view?.editable) return;
  const box = view.coordsAtPos(view.state.selection.from);
  // Above the line where there is more room: the words that it is about stay in sight.
  const vertical = window.innerHeight - box.bottom > 400 ? { top: box.bottom + 6 } : { bottom: window.innerHeight - box.top + 6 };
  palette.value = { choices: editor.choices(), left: Math.min(box.left, window.innerWidth - 400), ...vertical };
}
function choose(choice: Choice): void {
  palette.value = undefined;
  editor.apply(choice);
}
function closePalette(): void {
  palette.value = undefined;
  editor.view.value?.focus();
}

async function show(): Promise<void> {
  failure.value = '';
  unreadable.value = '';
  if (id.value === '') return;
  try {
    const item = await topic.load(id.value);
    const { root, problems } = readItem(item.id, item.kind, item.text);
    place.trail = [item.title || item.id];
    await nextTick();
    if (root && mount.value) {
      editor.show(mount.value, item.id, root, session.may('write'));
      const { path } = route.query;
      if (typeof path === 'string') editor.goTo(path.split('.').map(Number));
    } else unreadable.value = problems[0]?.message ?? 'This topic cannot be read.';
  } catch (error) {
    failure.value = messageOf(error);
  }
}

onMounted(async () => {
  place.clear();
  await library.ensure();
  await show();
});
watch(id, show);
watch(pageView.signs, (signs) => editor.sign(signs));
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (!event.altKey || event.ctrlKey || event.metaKey || event.shiftKey) return;
  const number = /^Digit([1-5])$/u.exec(event.code)?.[1];
  if (number === undefined) return;
  event.preventDefault();
  const chosen = pageViews[Number(number) - 1];
  if (chosen) pageView.view.value = chosen.value;
  else pageView.marks.value = !pageView.marks.value;
});
watch([topic.state, editor.words, editor.problems], () => {
  place.saved = topic.state.value;
  place.words = editor.words.value;
  place.problems = editor.problems.value.length;
});
onBeforeRouteLeave(() => place.clear());
</script>

<template>
  <div class="write">
    <TopicList :current="id" />
    <main class="desk" tabindex="0">
      <p v-if="failure" class="seal-text notice" role="alert">{{ failure }}</p>
      <p v-if="unreadable" class="notice" role="alert">{{ unreadable }} The text is kept as it is: <code>{{ topic.item.value?.text.slice(0, 400) }}</code></p>
      <ConflictNotice :conflict="topic.conflict.value" @mine="topic.keepMine" @theirs="show" />
      <div v-if="id === ''" class="notice quiet">Choose a topic on the left, or make one in the Library.</div>
      <ViewSwitch v-if="id !== ''" v-model:view="pageView.view.value" v-model:marks="pageView.marks.value" />
      <div v-show="id !== '' && !failure && !unreadable" class="page" :class="`view-${pageView.view.value}`">
        <PageLadder v-if="pageView.view.value !== 'plain'" :view="editor.view.value" :open="editor.open.value" @select="editor.select" />
        <div ref="mount" />
      </div>
    </main>
    <WriteBench :problems="editor.problems.value" :open="editor.open.value" :facets="library.facets" :editable="session.may('write')" :refusal="editor.refusal" @go="editor.goTo" @change="editor.setAttributes" />
    <InsertPalette v-if="palette" v-bind="palette" @choose="choose" @close="closePalette" />
    <Teleport defer to="#foot-path">
      <template v-for="(element, index) in editor.open.value" :key="`${element.position} ${element.element}`"><span v-if="index > 0" class="quiet" aria-hidden="true"> / </span><button type="button" class="plain" @click="editor.select(element)">{{ element.label }}</button></template>
    </Teleport>
  </div>
</template>

<style scoped>
.write { display: grid; grid-template-columns: 236px minmax(0, 1fr) 280px; height: 100%; }
.desk { overflow: auto; padding: 14px 18px 0; } .notice { max-width: 760px; margin: 0 auto 12px; padding: 10px 14px; background: var(--sheet); border: 1px solid var(--hair); border-radius: 4px; }
@media (max-width: 1150px) { .write { grid-template-columns: 200px minmax(0, 1fr) 220px; } }
</style>
