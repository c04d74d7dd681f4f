<script setup lang="ts">
import { NewItem } from '@ukiyo/contracts';
import { moveElementTo } from '@ukiyo/core/editing';
import { writeCanonical } from '@ukiyo/core/grammar';
import { titleOf, type Reference } from '@ukiyo/core/library';
import type { Problem } from '@ukiyo/core/problems';
import { applyFixes } from '@ukiyo/core/rules';
import { useEventListener } from '@vueuse/core';
import { useMessage } from 'naive-ui';
import { computed, defineAsyncComponent, nextTick, onBeforeUnmount, onMounted, ref, watch, type Component } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import CharacterChooser from '../../editor/CharacterChooser.vue';
import SpellingChooser from '../../editor/SpellingChooser.vue';
import FindBar from '../../editor/FindBar.vue';
import GapButton from '../../editor/GapButton.vue';
import SelectionBar from '../../editor/SelectionBar.vue';
import InsertPalette from '../../editor/InsertPalette.vue';
import ImageChooser from '../../editor/ImageChooser.vue';
import LinkChooser from '../../editor/LinkChooser.vue';
import type { SourceLanguage } from '../../editor/sourceLanguage.ts';
import PageLadder from '../../editor/PageLadder.vue';
import TableForm from '../../editor/TableForm.vue';
import ViewSwitch from '../../editor/ViewSwitch.vue';
import WordsField from '../../editor/WordsField.vue';
import '../../editor/page.css';
import { pageViews, usePageView } from '../../editor/pageView.ts';
import { useEditor } from '../../editor/useEditor.ts';
import { useLive, type Opening } from '../../editor/useLive.ts';
import { messageOf } from '../../parts/api.ts';
import { isTemplate, useLibrary } from '../../parts/library.ts';
import { useSession } from '../../parts/session.ts';
import { usePlace } from '../../shell/place.ts';
import LostWords from './LostWords.vue';
import TopicList from './TopicList.vue';
import { useAsking } from './useAsking.ts';
import { useSpelling } from './useSpelling.ts';
import { useSelected } from './useSelected.ts';
import { useSource } from './useSource.ts';
import { useSafeLeaving } from './useSafeLeaving.ts';
import WriteBench from './WriteBench.vue';

const AreaEditor = defineAsyncComponent(() => import('../../editor/AreaEditor.vue') as Promise<Component>);
const SourcePane = defineAsyncComponent(() => import('../../editor/SourcePane.vue') as Promise<Component>);
const library = useLibrary();
const session = useSession();
const place = usePlace();
const route = useRoute();
const router = useRouter();
const message = useMessage();
const mount = ref<HTMLElement>();
const failure = ref('');
const finding = ref(false);
const bench = ref<{ goToName: () => Promise<void> }>();
const pageView = usePageView();
const editor = useEditor({
  imageAddress: library.assetAddress,
  read: library.read,
  links: { titleOf: (topic) => library.find(topic)?.title, choose: (from) => asking.askForTarget(from), follow },
  ids: () => [...library.items, ...library.assets].map((one) => one.id),
  facets: () => library.facets,
  rules: () => library.agreements.rules,
  isTemplate: () => isTemplate(library.find(id.value)),
  signs: () => pageView.signs.value,
  changed: (maps) => {
    live.push();
    source.follow(maps);
    selected.look();
  },
  moved: () => {
    void live.moveCaret();
    selected.look();
  },
  save: () => void bench.value?.goToName(),
  find: () => (finding.value = true),
  words: (words) => spelling.check(words),
  askSpelling: () => asking.askSpelling(spelling.suggest),
  hasDictionary: () => spelling.hasDictionary.value,
  reword: (position) => asking.reword(position),
  files: (files) => void asking.takeFiles(files),
  upload,
  tell: (text) => void message.info(text, { duration: 6000 }),
  openPalette: () => asking.openPalette(),
  enterAsks: () => pageView.enterAsks.value,
});
const asking = useAsking({ view: editor.view, choices: editor.choices, apply: editor.apply, upload });
const spelling = useSpelling(editor.view, () => session.project?.locale ?? 'en');
const selected = useSelected({ view: editor.view, choices: editor.choices });
const live = useLive({ view: editor.view, lay, written });
const source = useSource({ view: editor.view, read: editor.read, agreed: () => ({ facets: library.facets, rules: library.agreements.rules }), refuse: (reason) => void message.warning(reason, { duration: 8000 }) });
useSafeLeaving(computed(() => live.isSafe.value && !source.isHeld.value));
/** The page, or one of its texts: the same key leads there and back. */
const switchTo = (language: SourceLanguage): void => void (source.language.value === language ? source.leave() : source.open(language));
const id = computed(() => (typeof route.params['id'] === 'string' ? route.params['id'] : ''));
/** What others begin as is for administrators. */
const editable = computed(() => session.may(isTemplate(library.find(id.value)) ? 'administer' : 'write'));

function follow(reference: Reference): void {
  if (reference.kind === 'item') void router.push({ name: library.find(reference.id)?.kind === 'map' ? 'arrange' : 'write', params: { id: reference.id } });
  else if (reference.kind === 'external') window.open(reference.href, '_blank', 'noopener');
}
async function upload(file: File): Promise<string | undefined> {
  try {
    return `asset:${(await library.upload(file)).id}`;
  } catch (error) {
    message.error(`${file.name}: ${messageOf(error)}`);
    return undefined;
  }
}

/** Puts problems right that have a fix, as one step back; one whose place has changed meanwhile is left. */
function fix(problems: readonly Problem[]): void {
  let count = 0;
  editor.changeRoot((root) => {
    const fixed = applyFixes(root, problems);
    count = fixed.count;
    return fixed.root;
  });
  message.info(count === problems.length ? `${count} put right.` : `${count} of ${problems.length} put right; the others have changed.`);
}

/** The place that a problem elsewhere leads to is gone to once. */
let isNew = true;
function lay(opening: Opening): void {
  if (!mount.value) return;
  editor.show(mount.value, id.value, opening, editable.value);
  const { path } = route.query;
  // The page is shown with the next frame; before, nothing on it can be focused.
  if (isNew && typeof path === 'string') void nextTick(() => editor.goTo(path.split('.').map(Number)));
  isNew = false;
}
function written(version: number, title: string): void {
  const known = library.find(id.value);
  if (known) library.keep({ ...known, version, title });
}
async function show(): Promise<void> {
  failure.value = '';
  isNew = true;
  source.close();
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
  const number = /^Digit([1-7])$/u.exec(event.code)?.[1];
  if (number === undefined) return;
  event.preventDefault();
  if (number === '6') return switchTo('source');
  if (number === '7') return switchTo('markdown');
  if (source.language.value && !source.leave()) return;
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
      <ViewSwitch v-if="id !== ''" v-model:view="pageView.view.value" v-model:marks="pageView.marks.value" :language="source.language.value" @page="source.leave" @language="switchTo" />
      <template v-if="source.language.value">
        <p v-if="source.isHeld.value" class="notice held" role="status">Not in the topic yet{{ source.problems.value[0] ? `: ${source.problems.value[0].message}` : ' …' }} <n-button size="tiny" @click="source.refresh(source.language.value)">Back to what the topic says</n-button></p>
        <SourcePane :key="source.language.value" v-model:text="source.text.value" :language="source.language.value" :problems="source.problems.value" :editable="editable" />
      </template>
      <FindBar v-if="finding && live.isOpen.value" :view="editor.view.value" :changes="editor.drawn.value" :editable="editable" @close="finding = false" />
      <div v-show="live.isOpen.value && !failure && !source.language.value" class="page" :class="`view-${pageView.view.value}`">
        <PageLadder v-if="pageView.view.value !== 'plain'" :view="editor.view.value" :open="editor.open.value" :drawn="editor.drawn.value" @select="editor.select" @move="(from, to) => editor.apply((state) => moveElementTo(state, from, to) ?? state.tr)" />
        <GapButton v-if="editable" :view="editor.view.value" @open="asking.openPalette" />
        <div ref="mount" />
      </div>
    </main>
    <WriteBench ref="bench" :topic="id" :version="library.find(id)?.version ?? 0" :problems="editor.problems.value" :open="editor.open.value" :facets="library.facets" :editable="editable" :refusal="editor.refusal" :root-of="editor.read" @name="live.name" @root="editor.changeRoot" @go="editor.goTo" @fix="fix" @change="editor.setAttributes" />
    <SelectionBar v-if="selected.bar.value && !asking.question.value" v-bind="selected.bar.value" @choose="asking.choose" @more="asking.openPalette" />
    <template v-if="asking.question.value">
      <InsertPalette v-if="asking.question.value.asks === 'choice'" v-bind="asking.question.value" @choose="asking.choose" @close="asking.close('choice')" />
      <WordsField v-else-if="asking.question.value.asks === 'words'" v-bind="asking.question.value" @choose="asking.answer" @close="asking.close('words')" />
      <LinkChooser v-else-if="asking.question.value.asks === 'target'" :place="asking.question.value.place" @choose="asking.answer" @close="asking.close('target')" />
      <TableForm v-else-if="asking.question.value.asks === 'table'" v-bind="asking.question.value" @choose="asking.answer" @close="asking.close('table')" />
      <AreaEditor v-else-if="asking.question.value.asks === 'areas'" :imagemap="asking.question.value.imagemap" @keep="asking.keepAreas" @close="asking.close('areas')" />
      <SpellingChooser v-else-if="asking.question.value.asks === 'spelling'" v-bind="asking.question.value" @choose="asking.answer" @allow="(void spelling.allow(asking.question.value.word), asking.close('spelling'))" @close="asking.close('spelling')" />
      <CharacterChooser v-else-if="asking.question.value.asks === 'character'" :place="asking.question.value.place" @choose="asking.answer" @close="asking.close('character')" />
      <ImageChooser v-else :place="asking.question.value.place" @choose="asking.answer" @file="asking.chooseFile" @close="asking.close('image')" />
    </template>
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
