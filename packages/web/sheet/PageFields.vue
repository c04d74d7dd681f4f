<script setup lang="ts">
import { headOf } from '@ukiyo/core/editing';
import {
  readTopicFacts,
  withShortDescription,
  writeFacts,
  type TopicFacts,
} from '@ukiyo/core/library';
import { childNamed, type Element } from '@ukiyo/core/markup';
import type { EditorView } from 'prosemirror-view';
import { computed } from 'vue';
import PickOne from '../parts/PickOne.vue';
import { useLibrary } from '../parts/library.ts';

/**
 * The parts of a topic that are data rather than prose, as fields on the page itself: dates, what
 * is chosen from a list, a short description that is not there yet.
 */
const props = defineProps<{ view: EditorView | undefined; drawn: number; editable: boolean }>();
const emit = defineEmits<{ change: [(root: Element) => Element] }>();
const library = useLibrary();
const root = computed(() =>
  props.drawn >= 0 && props.view ? headOf(props.view.state.doc) : undefined,
);
interface Head {
  readonly facts: TopicFacts;
  readonly hasNoWords: boolean;
}
/** Drawn again only when what it shows is another. */
const head = computed<Head | undefined>((before) => {
  if (!root.value) return undefined;
  const { name } = root.value;
  const now = {
    facts: readTopicFacts(root.value),
    hasNoWords: name !== 'glossentry' && !childNamed(root.value, 'shortdesc', 'abstract'),
  };
  return JSON.stringify(before) === JSON.stringify(now) ? before : now;
});
const lists = computed(() => library.agreements.facts.filter(({ values }) => values.length > 0));
const contentOf = (name: string): string =>
  head.value?.facts.own.find((own) => own.name === name)?.content ?? '';

const set = (change: (facts: TopicFacts) => Partial<TopicFacts>): void =>
  emit('change', (now) => {
    const facts = readTopicFacts(now);
    return writeFacts(now, { ...facts, ...change(facts) });
  });
const setOwn = (name: string, content: string): void =>
  set(({ own }) => ({
    own: [
      ...own.filter((one) => one.name !== name),
      ...(content === '' ? [] : [{ name, content }]),
    ],
  }));
const valueOf = (event: Event): string => (event.target as HTMLInputElement).value.trim();
</script>

<template>
  <div v-if="head" class="page-fields" role="group" aria-label="Fields of the topic">
    <label v-for="field in lists" :key="field.name">
      {{ field.label }}
      <PickOne
        :label="field.label"
        :disabled="!editable"
        :chosen="contentOf(field.name)"
        :options="[
          { value: '', label: '–' },
          ...field.values.map((value) => ({ value, label: value })),
        ]"
        @update:chosen="setOwn(field.name, $event)"
      />
    </label>
    <label>
      Made on
      <input
        type="date"
        :disabled="!editable"
        :value="head.facts.created"
        @change="set(() => ({ created: valueOf($event) }))"
      />
    </label>
    <label>
      Changed on
      <input
        type="date"
        :disabled="!editable"
        :value="head.facts.revised.at(-1) ?? ''"
        @change="
          set(({ revised }) => ({
            revised: [
              ...revised.slice(0, -1),
              ...(valueOf($event) === '' ? [] : [valueOf($event)]),
            ],
          }))
        "
      />
    </label>
    <label v-if="head.hasNoWords && editable" class="wide">
      Short description
      <input
        type="text"
        placeholder="What search results and page descriptions say of it"
        @change="emit('change', (now) => withShortDescription(now, valueOf($event)))"
      />
    </label>
  </div>
</template>

<style scoped>
.page-fields {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  margin: -14px 0 14px;
}
label {
  display: flex;
  align-items: center;
  gap: 6px;
  font: 400 13px var(--font-text);
  color: var(--faint);
}
.wide {
  flex: 1 0 100%;
}
.wide input {
  flex: 1;
}
input,
label :deep(select) {
  height: 24px;
  min-width: 0;
  border: 0;
  border-bottom: 1px dotted var(--hair);
  border-radius: 0;
  background: none;
  color: var(--soft);
  font: 400 13px var(--font-text);
}
input:hover,
label :deep(select:hover) {
  border-bottom-color: var(--prussian);
}
</style>
