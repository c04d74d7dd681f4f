<script setup lang="ts">
import { answeredVariable, editorSchema, phraseDocument, phraseOf } from '@ukiyo/core/editing';
import { labelOf } from '@ukiyo/core/grammar';
import { markupOf, markupNodes } from '@ukiyo/core/library';
import { toggleMark } from 'prosemirror-commands';
import { history, redo, undo } from 'prosemirror-history';
import { keymap } from 'prosemirror-keymap';
import { EditorState } from 'prosemirror-state';
import { EditorView } from 'prosemirror-view';
import { onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue';
import { useVariables } from '../parts/variables.ts';
import { dressSchema } from './dom.ts';
import './page.css';
import { placeAtCaret, type PopPlace } from './popList.ts';
import VariableChooser from './VariableChooser.vue';
import { showVariables, variableMarks } from './variables.ts';

/** One line of words with their markup, as a field of a form; other variables may stand in it. */
const { label } = defineProps<{ label: string }>();
const emit = defineEmits<{ enter: [] }>();
const markup = defineModel<string>('markup', { required: true });
const variables = useVariables();
const mount = ref<HTMLElement>();
const view = shallowRef<EditorView>();
const asked = shallowRef<{ place: PopPlace; from: number }>();
const names = ['b', 'i', 'sup', 'sub', 'uicontrol'] as const;
const toggle = (name: (typeof names)[number]) => toggleMark(editorSchema.marks[name]!);

function ask(from: number): void {
  if (view.value) asked.value = { place: placeAtCaret(view.value), from };
}
function answer(chosen: string): void {
  const from = asked.value?.from;
  asked.value = undefined;
  if (view.value) view.value.dispatch(answeredVariable(view.value.state, chosen, from));
  view.value?.focus();
}
function close(): void {
  asked.value = undefined;
  view.value?.focus();
}
function act(name: (typeof names)[number]): void {
  if (view.value) toggle(name)(view.value.state, view.value.dispatch);
  view.value?.focus();
}
onMounted(() => {
  void variables.ensure();
  dressSchema();
  const enter = (): boolean => {
    emit('enter');
    return true;
  };
  const find = (key: string) => {
    const shown = variables.shown(key);
    return shown && { kind: 'text' as const, words: variables.wordsOf(shown), tooltip: key };
  };
  const made: EditorView = new EditorView(mount.value!, {
    state: EditorState.create({
      doc: phraseDocument(markupNodes(markup.value) ?? []),
      plugins: [
        history(),
        keymap({
          Enter: enter,
          'Mod-z': undo,
          'Mod-y': redo,
          'Mod-b': toggle('b'),
          'Mod-i': toggle('i'),
        }),
        variableMarks({ find, choose: ask }),
      ],
    }),
    attributes: { 'aria-label': label, role: 'textbox' },
    dispatchTransaction(transaction) {
      made.updateState(made.state.apply(transaction));
      if (transaction.docChanged) markup.value = markupOf(phraseOf(made.state.doc));
    },
  });
  view.value = made;
});
watch(
  () => variables.list,
  () => view.value?.dispatch(showVariables(view.value.state)),
);
onBeforeUnmount(() => view.value?.destroy());
</script>

<template>
  <div class="phrase-field">
    <div ref="mount" class="words" />
    <div class="acts" role="toolbar" :aria-label="`Markup of ${label}`">
      <button
        v-for="name in names"
        :key="name"
        type="button"
        class="plain small"
        @mousedown.prevent
        @click="act(name)"
      >
        {{ labelOf(name) }}
      </button>
      <button
        type="button"
        class="plain small"
        @mousedown.prevent
        @click="ask(view?.state.selection.from ?? 0)"
      >
        Another variable
      </button>
    </div>
    <VariableChooser v-if="asked" :place="asked.place" @choose="answer" @close="close" />
  </div>
</template>

<style scoped>
.phrase-field {
  border: 1px solid var(--hair);
  border-radius: 4px;
  background: var(--sheet);
}
.words :deep(.ProseMirror) {
  min-height: 28px;
  padding: 4px 8px;
  outline: none;
  font: 400 15px/20px var(--font-text);
  color: var(--ink);
  white-space: pre-wrap;
}
.phrase-field:focus-within {
  border-color: var(--prussian);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px;
  padding: 2px 4px;
  border-top: 1px solid var(--hair);
}
.acts button {
  min-height: 24px;
  padding: 2px 6px;
  border-radius: 3px;
  color: var(--soft);
}
.acts button:hover {
  background: var(--paper-deep);
  color: var(--ink);
}
</style>
