<script setup lang="ts">
import {
  plainShortDescription,
  readTopicFacts,
  withShortDescription,
  writeFacts,
  type TopicFacts,
} from '@ukiyo/core/library';
import type { Element } from '@ukiyo/core/markup';
import { computed, reactive } from 'vue';
import { useLibrary } from '../parts/library.ts';
import PickOne from '../parts/PickOne.vue';

/** What is said about the topic, as a form. */
const { root, editable } = defineProps<{ root: Element; editable: boolean }>();
const emit = defineEmits<{ change: [(root: Element) => Element] }>();
const facts = computed(() => readTopicFacts(root));

const lists = [
  { name: 'authors', label: 'Authors', help: 'Who wrote it.' },
  { name: 'audience', label: 'Readers', help: 'Types of readers it is for.' },
  { name: 'keywords', label: 'Keywords', help: 'Words by which readers look for it.' },
  {
    name: 'indexEntries',
    label: 'Index',
    help: 'Entries that lead to the topic; a sub-entry follows after ›.',
  },
  { name: 'contextIds', label: 'Help ids', help: 'Ids by which a program opens this topic.' },
] as const;
const shortDescription = computed(() => plainShortDescription(root));
/** Applied to the topic as it is by then: what is shown here can be a moment old. */
function set(change: Partial<TopicFacts>): void {
  emit('change', (now) => writeFacts(now, { ...readTopicFacts(now), ...change }));
}
const library = useLibrary();
const isAgreed = (name: string): boolean =>
  library.agreements.facts.some((field) => field.name === name);
const contentOf = (name: string): string =>
  facts.value.own.find((own) => own.name === name)?.content ?? '';
/** Only what is said stays: an empty fact goes. */
function setOwn(name: string, content: string): void {
  const others = facts.value.own.filter((own) => own.name !== name);
  set({ own: content === '' ? others : [...others, { name, content }] });
}
/** What is being typed, until one leaves the field. */
const typed = reactive<Partial<Record<(typeof lists)[number]['name'], string>>>({});
function keep(name: (typeof lists)[number]['name']): void {
  const text = typed[name];
  delete typed[name];
  if (text !== undefined) set({ [name]: tidy(text.split('\n')) });
}
/** What can be typed on every keyboard stands for the sign between an entry and its sub-entry. */
const tidy = (values: readonly string[]): string[] =>
  values
    .filter((value) => value.trim() !== '')
    .map((value) => value.trim().replace(/\s*>\s*/gu, ' › '));
</script>

<template>
  <section class="facts" aria-label="Facts">
    <div v-if="root.name !== 'glossentry'" class="field">
      <span class="small quiet" title="Shown by search and in descriptions of pages.">
        In short
      </span>
      <n-input
        v-if="shortDescription !== undefined"
        type="textarea"
        size="small"
        :autosize="{ minRows: 2, maxRows: 6 }"
        placeholder="Short description"
        :disabled="!editable"
        :default-value="shortDescription"
        :input-props="{ 'aria-label': 'Short description' }"
        @change="
          (words: string) =>
            emit('change', (now) => withShortDescription(now, words.replace(/\s+/gu, ' ').trim()))
        "
      />
      <span v-else class="small quiet">Has marked words: it is written on the page.</span>
    </div>
    <div v-for="list in lists" :key="list.name" class="field">
      <span class="small quiet" :title="list.help">{{ list.label }}</span>
      <n-input
        type="textarea"
        size="small"
        :autosize="{ minRows: 1, maxRows: 6 }"
        placeholder="one a line"
        :disabled="!editable"
        :value="typed[list.name] ?? facts[list.name].join('\n')"
        :input-props="{ 'aria-label': list.label }"
        @update:value="typed[list.name] = $event"
        @blur="keep(list.name)"
      />
    </div>
    <div class="field">
      <span class="small quiet">Made on</span>
      <n-input
        size="small"
        :value="facts.created"
        :disabled="!editable"
        :input-props="{ type: 'date', 'aria-label': 'Made on' }"
        @update:value="(created: string) => set({ created })"
      />
    </div>
    <div class="field">
      <span class="small quiet">Changed on</span>
      <n-input
        size="small"
        :value="facts.revised.at(-1) ?? ''"
        :disabled="!editable"
        :input-props="{ type: 'date', 'aria-label': 'Changed on' }"
        @update:value="
          (date: string) =>
            set({ revised: [...facts.revised.slice(0, -1), ...(date === '' ? [] : [date])] })
        "
      />
    </div>
    <div v-for="field in library.agreements.facts" :key="field.name" class="field">
      <span class="small quiet">{{ field.label }}</span>
      <PickOne
        v-if="field.values.length > 0"
        :disabled="!editable"
        :label="field.label"
        :chosen="contentOf(field.name)"
        :options="[
          { value: '', label: '–' },
          ...field.values.map((value) => ({ value, label: value })),
        ]"
        @update:chosen="setOwn(field.name, $event)"
      />
      <n-input
        v-else
        size="small"
        :default-value="contentOf(field.name)"
        :disabled="!editable"
        :input-props="{ 'aria-label': field.label }"
        @change="(value: string) => setOwn(field.name, value)"
      />
    </div>
    <h3>Own facts</h3>
    <div
      v-for="(own, index) in facts.own"
      v-show="!isAgreed(own.name)"
      :key="`${index} ${own.name} ${own.content}`"
      class="pair"
    >
      <n-input
        size="small"
        :default-value="own.name"
        :disabled="!editable"
        :input-props="{ 'aria-label': `Name of own fact ${index + 1}` }"
        @change="(name: string) => set({ own: facts.own.with(index, { ...own, name }) })"
      />
      <n-input
        size="small"
        :default-value="own.content"
        :disabled="!editable"
        :input-props="{ 'aria-label': `Value of ${own.name}` }"
        @change="(content: string) => set({ own: facts.own.with(index, { ...own, content }) })"
      />
      <n-button
        v-if="editable"
        size="small"
        quaternary
        :aria-label="`Remove ${own.name}`"
        @click="set({ own: facts.own.toSpliced(index, 1) })"
      >
        ×
      </n-button>
    </div>
    <n-button
      v-if="editable"
      size="small"
      @click="set({ own: [...facts.own, { name: `fact-${facts.own.length + 1}`, content: '' }] })"
    >
      Add a fact
    </n-button>
  </section>
</template>

<style scoped>
.facts {
  display: grid;
  gap: 8px;
}
.field {
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr);
  align-items: baseline;
  gap: 8px;
}
.pair {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr) auto;
  gap: 4px;
}
h3 {
  margin: 10px 0 0;
  font: 400 15px var(--font-title);
  color: var(--prussian);
}
</style>
