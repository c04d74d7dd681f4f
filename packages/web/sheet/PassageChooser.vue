<script setup lang="ts">
import { labelOf } from '@ukiyo/core/grammar';
import type { Path } from '@ukiyo/core/problems';
import { computed, nextTick, onMounted, ref, shallowRef, useId, watch } from 'vue';
import { kindLabel } from '../parts/kinds.ts';
import { useItemList } from '../parts/itemList.ts';
import { useOnceCurrent } from '../parts/onceCurrent.ts';
import { useVariables } from '../parts/variables.ts';
import type { Offered } from './useBorrowing.ts';
import CheckBox from '../parts/CheckBox.vue';

/**
 * Chooses what is borrowed: a topic on the left, and in the preview of it one passage or several
 * beside each other.
 */
const { offers } = defineProps<{ offers: (lender: string) => Promise<readonly Offered[]> }>();
const emit = defineEmits<{
  choose: [lender: string, paths: readonly Path[], key: string | undefined];
  close: [];
}>();
const id = useId();
const query = ref('');
const field = ref<HTMLInputElement>();
const preview = ref<HTMLElement>();
const at = ref(0);
/** The passages of the topic are not here yet. */
const isReading = ref(false);
const passages = shallowRef<readonly Offered[]>([]);
/** The first and the last of the run in the preview. */
const first = ref(-1);
const last = ref(-1);

const list = useItemList(() => ({ kind: 'topic', title: query.value.trim() }));
const topics = list.rows;
const once = useOnceCurrent(() => !list.isPending.value && !isReading.value);
const lender = computed(() => topics.value[at.value]);
watch(topics, () => (at.value = 0));
watch(
  () => lender.value?.id,
  async (wanted) => {
    first.value = last.value = -1;
    passages.value = [];
    isReading.value = true;
    const found = wanted === undefined ? [] : await offers(wanted);
    if (lender.value?.id !== wanted) return;
    passages.value = found;
    isReading.value = false;
  },
  { immediate: true },
);
onMounted(() => field.value?.focus());

const parentOf = ({ path }: Offered): string => path.slice(0, -1).join('.');
const siblings = computed(() =>
  passages.value[first.value]
    ? passages.value.filter((one) => parentOf(one) === parentOf(passages.value[first.value]!))
    : [],
);
const isChosen = (passage: Offered): boolean => {
  const [from, to] = [first.value, last.value]
    .map((index) => passages.value[index]?.path.at(-1) ?? -1)
    .sort((a, b) => a - b);
  return (
    siblings.value.includes(passage) &&
    (passage.path.at(-1) ?? -1) >= from! &&
    (passage.path.at(-1) ?? -1) <= to!
  );
};
function goToPreview(): void {
  preview.value?.focus();
  go(
    passages.value.findIndex(({ refusal }) => refusal === undefined),
    false,
  );
}
function onFieldKey(event: KeyboardEvent): void {
  if (once.hold(event)) return;
  const count = Math.max(1, topics.value.length);
  if (event.key === 'ArrowDown') at.value = (at.value + 1) % count;
  else if (event.key === 'ArrowUp') at.value = (at.value + count - 1) % count;
  else if (event.key === 'Enter' || (event.key === 'Tab' && !event.shiftKey)) {
    once.act(goToPreview);
  } else if (event.key === 'Escape') emit('close');
  else return;
  event.preventDefault();
  void nextTick(() =>
    document.getElementById(`${id}-t${at.value}`)?.scrollIntoView({ block: 'nearest' }),
  );
}
function go(index: number, extends_: boolean): void {
  if (!passages.value[index]) return;
  last.value = index;
  if (!extends_ || first.value < 0) first.value = index;
  void nextTick(() =>
    document.getElementById(`${id}-p${index}`)?.scrollIntoView({ block: 'nearest' }),
  );
}
/** The next passage in a direction; of a run only one beside it. */
function step(by: 1 | -1, extends_: boolean): void {
  const candidates = extends_ ? siblings.value : passages.value;
  const now = passages.value[last.value];
  const next = candidates[(now ? candidates.indexOf(now) : -1) + by];
  if (next) go(passages.value.indexOf(next), extends_);
}
function onPreviewKey(event: KeyboardEvent): void {
  if (event.key === 'ArrowDown') step(1, event.shiftKey);
  else if (event.key === 'ArrowUp') step(-1, event.shiftKey);
  else if (event.key === 'Enter') choose();
  else if (event.key === 'Escape' || (event.key === 'Tab' && event.shiftKey)) field.value?.focus();
  else return;
  event.preventDefault();
  event.stopPropagation();
}
/** The name under which maps know the lender. */
const variables = useVariables();
const key = computed(
  () => variables.list.variables.find(({ href }) => href === `topic:${lender.value?.id}`)?.key,
);
const isByKey = ref(false);
const run = computed(() => passages.value.filter(isChosen));
const refusal = computed(() => run.value.find((passage) => passage.refusal !== undefined)?.refusal);
function choose(): void {
  if (lender.value && run.value.length > 0 && refusal.value === undefined)
    emit(
      'choose',
      lender.value.id,
      run.value.map(({ path }) => path),
      isByKey.value ? key.value : undefined,
    );
}
</script>

<template>
  <div class="veil" @mousedown.self.prevent="emit('close')">
    <div
      class="sheet"
      role="dialog"
      aria-modal="true"
      aria-label="Borrow a passage"
      @keydown.esc.prevent.stop="emit('close')"
    >
      <div class="topics">
        <input
          ref="field"
          v-model="query"
          type="text"
          role="combobox"
          aria-expanded="true"
          :aria-controls="`${id}-topics`"
          :aria-activedescendant="`${id}-t${at}`"
          aria-label="From which topic"
          placeholder="From which topic"
          @keydown="onFieldKey"
        />
        <ul :id="`${id}-topics`" role="listbox" aria-label="Topics">
          <li
            v-for="(topic, index) in topics"
            :id="`${id}-t${index}`"
            :key="topic.id"
            role="option"
            :aria-selected="index === at"
            @click="at = index"
          >
            {{ topic.title || topic.id }}
            <span class="quiet small">{{ kindLabel(topic.type) }}</span>
          </li>
          <li v-if="topics.length === 0" class="quiet">No topic says that.</li>
        </ul>
      </div>
      <div class="side">
        <ul
          ref="preview"
          role="listbox"
          aria-multiselectable="true"
          tabindex="0"
          :aria-label="`What ${lender?.title ?? 'it'} has to lend`"
          :aria-activedescendant="last < 0 ? undefined : `${id}-p${last}`"
          @keydown="onPreviewKey"
          @focus="first < 0 && step(1, false)"
        >
          <li
            v-for="(passage, index) in passages"
            :id="`${id}-p${index}`"
            :key="passage.path.join('.')"
            role="option"
            :aria-selected="isChosen(passage)"
            :aria-disabled="passage.refusal !== undefined"
            :class="{ off: passage.refusal !== undefined }"
            :style="{ paddingLeft: `${14 + passage.depth * 18}px` }"
            :title="passage.refusal"
            @click="go(index, $event.shiftKey)"
            @dblclick="choose"
          >
            <span class="kind">
              {{ labelOf(passage.element.name)
              }}{{
                passage.element.attributes['type'] ? `: ${passage.element.attributes['type']}` : ''
              }}
            </span>
            <span class="words">{{ passage.words || '–' }}</span>
          </li>
          <li v-if="passages.length === 0" class="quiet">Nothing in this topic can be borrowed.</li>
        </ul>
        <footer>
          <span class="small quiet" role="status">
            {{ refusal ?? 'Shift with the arrows takes several beside each other.' }}
          </span>
          <CheckBox
            v-if="key !== undefined"
            v-model:checked="isByKey"
            class="small"
            title="Another map can let another topic lend under this key"
          >
            by the key
            <code>{{ key }}</code>
          </CheckBox>
          <n-button size="small" @click="emit('close')">Leave it</n-button>
          <n-button
            size="small"
            type="primary"
            :disabled="run.length === 0 || refusal !== undefined"
            @click="choose"
          >
            Borrow {{ run.length > 1 ? `${run.length} passages` : 'it' }}
          </n-button>
        </footer>
      </div>
    </div>
  </div>
</template>

<style scoped>
.veil {
  position: fixed;
  inset: 0;
  z-index: 60;
  display: grid;
  place-items: center;
  background: rgb(20 26 40 / 18%);
}
.sheet {
  display: grid;
  grid-template-columns: 270px minmax(0, 1fr);
  width: min(900px, 92vw);
  height: min(540px, 84vh);
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 4px;
  box-shadow: 0 8px 28px rgb(20 26 40 / 24%);
  overflow: hidden;
}
.topics {
  display: flex;
  flex-direction: column;
  min-height: 0;
  border-right: 1px solid var(--hair);
  background: var(--paper);
}
input[type='text'] {
  border: 0;
  border-bottom: 1px solid var(--hair);
  padding: 10px 14px;
  background: none;
  color: var(--ink);
  font: 400 15px var(--font-text);
}
ul {
  list-style: none;
  margin: 0;
  padding: 4px 0;
  overflow: auto;
  flex: 1;
  min-height: 0;
}
li {
  padding: 5px 14px;
  cursor: pointer;
}
.topics li {
  display: flex;
  justify-content: space-between;
  gap: 8px;
}
li[aria-selected='true'] {
  background: var(--wash);
}
.side {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.side li {
  border-left: 2px solid transparent;
}
.side li[aria-selected='true'] {
  border-left-color: var(--prussian);
}
.kind {
  display: block;
  font: 500 12px var(--font-text);
  color: var(--prussian);
}
.words {
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 3;
  overflow: hidden;
}
.off {
  cursor: default;
}
.off .kind,
.off .words {
  color: var(--soft);
}
.off .words {
  font-style: italic;
}
footer {
  display: flex;
  gap: 10px;
  align-items: center;
  padding: 8px 14px;
  border-top: 1px solid var(--hair);
}
footer span {
  flex: 1;
}
</style>
