<script setup lang="ts">
import { NewItem } from '@ukiyo/contracts';
import { linkAttributes, linkTo, type Choice } from '@ukiyo/core/editing';
import { writeCanonical } from '@ukiyo/core/grammar';
import { titleOf, type Reference } from '@ukiyo/core/library';
import type { EditorState, Transaction } from 'prosemirror-state';
import { useEventListener } from '@vueuse/core';
import { computed, nextTick, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import InsertPalette from '../../editor/InsertPalette.vue';
import LinkChooser from '../../editor/LinkChooser.vue';
import PageLadder from '../../editor/PageLadder.vue';
import ViewSwitch from '../../editor/ViewSwitch.vue';
import '../../editor/page.css';
import { pageViews, usePageView } from '../../editor/pageView.ts';
import { placeAtCaret, type PopPlace } from '../../editor/popList.ts';
import { useEditor } from '../../editor/useEditor.ts';
import { useLive, type Opening } from '../../editor/useLive.ts';
import { messageOf } from '../../parts/api.ts';
import { useLibrary } from '../../parts/library.ts';
import { useSession } from '../../parts/session.ts';
import { usePlace } from '../../shell/place.ts';
import LostWords from './LostWords.vue';
import TopicList from './TopicList.vue';
import { useSafeLeaving } from './useSafeLeaving.ts';
import WriteBench from './WriteBench.vue';

const library = useLibrary();
const session = useSession();
const place = usePlace();
const route = useRoute();
const router = useRouter();
const mount = ref<HTMLElement>();
const failure = ref('');
// Not deep: the editor compares node types by identity.
const palette = shallowRef<{ choices: Choice[]; place: PopPlace }>();
/** What waits for the target of a link. */
const linking = shallowRef<{ place: PopPlace; apply: (state: EditorState, reference: string) => Transaction }>();

const pageView = usePageView();
const editor = useEditor({
  imageAddress: library.assetAddress,
  read: library.read,
  links: { titleOf: (topic) => library.find(topic)?.title, choose: chooseLink, follow },
  ids: () => [...library.items, ...library.assets].map((one) => one.id),
  facets: () => library.facets,
  signs: () => pageView.signs.value,
  changed: () => live.push(),
  moved: () => void live.moveCaret(),
  save: () => undefined,
  openPalette,
});
const live = useLive({ view: editor.view, lay, written });
useSafeLeaving(live.isSafe);
const id = computed(() => (typeof route.params['id'] === 'string' ? route.params['id'] : ''));

function openPalette(): void {
  const view = editor.view.value;
  if (view?.editable) palette.value = { choices: editor.choices(), place: placeAtCaret(view) };
}
function choose(choice: Choice): void {
  palette.value = undefined;
  const view = editor.view.value;
  if (choice.asks === 'target' && view) linking.value = { place: placeAtCaret(view), apply: choice.apply };
  else editor.apply((state) => choice.apply(state));
}
/** What was typed to ask for a link, from a place on, is replaced by it. */
function chooseLink(from: number): void {
  const view = editor.view.value;
  if (view) linking.value = { place: placeAtCaret(view), apply: (state, reference) => linkTo(state, linkAttributes(reference) ?? {}, from) };
}
function link(reference: string): void {
  const waiting = linking.value;
  linking.value = undefined;
  if (waiting) editor.apply((state) => waiting.apply(state, reference));
}
function follow(reference: Reference): void {
  if (reference.kind === 'item') void router.push({ name: library.find(reference.id)?.kind === 'map' ? 'arrange' : 'write', params: { id: reference.id } });
  else if (reference.kind === 'external') window.open(reference.href, '_blank', 'noopener');
}
function closePalette(): void {
  if (palette.value) editor.view.value?.focus();
  palette.value = undefined;
}
function closeLinking(): void {
  if (linking.value) editor.view.value?.focus();
  linking.value = undefined;
}

/** The place that a problem elsewhere leads to is gone to once. */
let isNew = true;
function lay(opening: Opening): void {
  if (!mount.value) return;
  editor.show(mount.value, id.value, opening, session.may('write'));
  const { path } = route.query;
  if (isNew && typeof path === 'string') editor.goTo(path.split('.').map(Number));
  isNew = false;
}
function written(version: number, title: string): void {
  const known = library.find(id.value);
  if (known) library.keep({ ...known, version, title });
}
async function show(): Promise<void> {
  failure.value = '';
  isNew = true;
  editor.clear();
  live.close();
  if (id.value === '') return;
  try {
    await nextTick();
    await live.open(id.value);
  } catch (error) {
    failure.value = messageOf(error);
  }
}
/** What is on the page of a topic that was removed becomes a topic again. */
async function putBack(): Promise<void> {
  const root = editor.read();
  const type = root && NewItem.shape.type.safeParse(root.name).data;
  if (!root || !type) return;
  try {
    const made = await library.create({ type, title: titleOf(root) || id.value, folder: library.find(id.value)?.folder ?? '' });
    await library.save(made.id, writeCanonical({ ...root, attributes: { ...root.attributes, id: made.id } }), made.version);
    if (made.id === id.value) await show();
    else await router.push({ name: 'write', params: { id: made.id } });
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
watch([() => library.find(id.value)?.title, id], ([title]) => (place.trail = id.value === '' ? [] : [title ?? id.value]));
watch(live.people, (people) => (place.people = people.filter(({ client }) => client !== live.client())));
watch([live.saved, editor.words, editor.problems], () => {
  place.saved = live.saved.value;
  place.words = editor.words.value;
  place.problems = editor.problems.value.length;
});
onBeforeUnmount(() => place.clear());
</script>

<template>
  <div class="write">
    <TopicList :current="id" />
    <main class="desk" tabindex="0">
      <p v-if="failure" class="seal-text notice" role="alert">{{ failure }}</p>
      <p v-if="live.ended.value?.code === 'live.gone'" class="notice" role="alert">{{ live.ended.value.message }} Your page is still here. <n-button size="small" @click="putBack">Make it a topic again</n-button></p>
      <p v-else-if="live.ended.value" class="notice" role="alert">{{ live.ended.value.message }}</p>
      <LostWords v-model:words="live.lost.value" />
      <div v-if="id === ''" class="notice quiet">Choose a topic on the left, or make one in the Library.</div>
      <ViewSwitch v-if="id !== ''" v-model:view="pageView.view.value" v-model:marks="pageView.marks.value" />
      <div v-show="live.isOpen.value && !failure" class="page" :class="`view-${pageView.view.value}`">
        <PageLadder v-if="pageView.view.value !== 'plain'" :view="editor.view.value" :open="editor.open.value" :drawn="editor.drawn.value" @select="editor.select" />
        <div ref="mount" />
      </div>
    </main>
    <WriteBench :problems="editor.problems.value" :open="editor.open.value" :facets="library.facets" :editable="session.may('write')" :refusal="editor.refusal" @go="editor.goTo" @change="editor.setAttributes" />
    <InsertPalette v-if="palette" v-bind="palette" @choose="choose" @close="closePalette" />
    <LinkChooser v-if="linking" :place="linking.place" @choose="link" @close="closeLinking" />
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
