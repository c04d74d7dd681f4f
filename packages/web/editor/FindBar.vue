<script setup lang="ts">
import { labelOf } from '@ukiyo/core/grammar';
import type { EditorView } from 'prosemirror-view';
import { computed, onMounted, ref, toRef } from 'vue';
import { useFinding } from './useFinding.ts';

/** Finds words in the topic and puts others in their place. */
const props = defineProps<{ view: EditorView | undefined; changes: number; editable: boolean }>();
const emit = defineEmits<{ close: [] }>();
const view = computed(() => props.view);
const { query, found, current, refusal, go, replaceOne, replaceAll, close } = useFinding(
  view,
  toRef(props, 'changes'),
);
const field = ref<{ focus: () => void; select: () => void }>();
onMounted(() => {
  const { state } = props.view ?? {};
  if (state && !state.selection.empty)
    query.text = state.doc.textBetween(state.selection.from, state.selection.to, ' ').slice(0, 200);
  field.value?.focus();
});

const kinds = ['', 'title', 'p', 'li', 'cmd', 'note', 'entry', 'codeblock', 'uicontrol'].map(
  (value) => ({ value, label: value === '' ? 'everywhere' : `in ${labelOf(value)}` }),
);
const switches = [
  { name: 'matchCase', label: 'Aa', help: 'Mind capital letters' },
  { name: 'wholeWord', label: 'word', help: 'Whole words only' },
  {
    name: 'isPattern',
    label: 'a|b',
    help: 'The text is a regular expression; $1 stands for its first group',
  },
] as const;
const count = computed(() =>
  query.text === ''
    ? ''
    : found.value.length === 0
      ? 'not found'
      : `${current.value + 1} of ${found.value.length}`,
);

function end(): void {
  close();
  emit('close');
}
</script>

<template>
  <section class="find" aria-label="Find and replace" @keydown.esc.prevent="end">
    <div class="row">
      <n-input
        ref="field"
        v-model:value="query.text"
        size="small"
        placeholder="Find"
        :status="refusal === '' ? undefined : 'error'"
        :input-props="{ 'aria-label': 'Find' }"
        @keydown.enter.exact.prevent="go(1)"
        @keydown.shift.enter.prevent="go(-1)"
      />
      <n-button
        v-for="one in switches"
        :key="one.name"
        size="small"
        :type="query[one.name] ? 'primary' : 'default'"
        secondary
        :aria-pressed="query[one.name]"
        :aria-label="one.help"
        :title="one.help"
        @click="query[one.name] = !query[one.name]"
      >
        {{ one.label }}
      </n-button>
      <n-select
        v-model:value="query.within"
        size="small"
        class="within"
        :options="kinds"
        :input-props="{ 'aria-label': 'Where' }"
      />
      <span class="count small quiet" role="status">{{ count }}</span>
      <n-button size="small" quaternary aria-label="Close" @click="end">×</n-button>
    </div>
    <div v-if="editable" class="row">
      <n-input
        v-model:value="query.replacement"
        size="small"
        placeholder="Put instead"
        :input-props="{ 'aria-label': 'Put instead' }"
        @keydown.enter.prevent="replaceOne"
      />
      <n-button size="small" :disabled="found.length === 0" @click="replaceOne">Replace</n-button>
      <n-button size="small" :disabled="found.length === 0" @click="replaceAll">
        Replace all {{ found.length || '' }}
      </n-button>
    </div>
    <p v-if="refusal !== ''" class="small seal-text" role="alert">{{ refusal }}</p>
  </section>
</template>

<style scoped>
.find {
  position: sticky;
  top: 0;
  z-index: 20;
  max-width: 760px;
  margin: 0 auto 10px;
  padding: 8px 10px;
  display: grid;
  gap: 6px;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 4px;
  box-shadow: 0 4px 14px rgb(20 26 40 / 12%);
}
.row {
  display: flex;
  gap: 6px;
  align-items: center;
}
.within {
  width: 150px;
  flex: none;
}
.count {
  min-width: 74px;
  text-align: right;
  white-space: nowrap;
}
p {
  margin: 0;
}
</style>
