<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { useItemList } from '../parts/itemList.ts';
import { useLens } from '../parts/lens.ts';
import { useOnceCurrent } from '../parts/onceCurrent.ts';
import { usePageView } from '../editor/pageView.ts';
import { stages } from './stages.ts';

const open = defineModel<boolean>('open', { required: true });
const emit = defineEmits<{ theme: []; signOut: []; shortcuts: [] }>();
const router = useRouter();
const looking = useLens();
const { enterAsks } = usePageView();
const query = ref('');
const chosen = ref(0);
const field = ref<HTMLInputElement>();

interface Entry {
  label: string;
  hint: string;
  act: () => void;
}

const commands = computed<Entry[]>(() => [
  ...stages.map((stage) => ({
    label: `Go to ${stage.label}`,
    hint: stage.keys,
    act: () => void router.push({ name: stage.name }),
  })),
  {
    label: 'New topic or map',
    hint: '',
    act: () => void router.push({ name: 'library', query: { new: '' } }),
  },
  {
    label: 'Go to Topics by editions: what appears where, and why not',
    hint: '',
    act: () => void router.push({ name: 'appearances' }),
  },
  {
    label: 'Go to Linked sources: files outside that are topics here',
    hint: '',
    act: () => void router.push({ name: 'sources' }),
  },
  {
    label: 'Go to Variables: what is kept in one place',
    hint: '',
    act: () => void router.push({ name: 'variables' }),
  },
  {
    label: 'Go to Copies: what is said several times',
    hint: '',
    act: () => void router.push({ name: 'copies' }),
  },
  {
    label: 'Go to Facets and lenses: by what content varies',
    hint: '',
    act: () => void router.push({ name: 'facets' }),
  },
  {
    label: 'Go to Agreements: house rules, facts, words',
    hint: '',
    act: () => void router.push({ name: 'agreements' }),
  },
  {
    label: enterAsks.value ? 'Let Enter go on with the same' : 'Let Enter ask what comes next',
    hint: '',
    act: () => (enterAsks.value = !enterAsks.value),
  },
  { label: 'Switch between light and dark', hint: '', act: () => emit('theme') },
  { label: 'Show the shortcuts of this screen', hint: '?', act: () => emit('shortcuts') },
  { label: 'Sign out', hint: '', act: () => emit('signOut') },
]);
/** What was typed, once the palette is open; without words it offers commands alone. */
const wanted = computed(() => (open.value ? query.value.trim().toLowerCase() : ''));
const asOne = 'write as one: ';
const topics = useItemList(() =>
  wanted.value === '' ? undefined : { title: wanted.value, ...looking.hiding },
);
const maps = useItemList(() => {
  const title = wanted.value.startsWith(asOne) ? wanted.value.slice(asOne.length) : wanted.value;
  return wanted.value === ''
    ? undefined
    : { kind: 'map', title: asOne.includes(title) ? '' : title };
});
const isCurrent = (): boolean =>
  wanted.value === '' || !(topics.isPending.value || maps.isPending.value);
const entries = computed<Entry[]>(() => {
  const found = topics.rows.value.slice(0, 40).map((item) => ({
    label: item.title,
    hint: looking.drops(item.conditions) ? `${item.type}, dropped by the lens` : item.type,
    act: () =>
      void router.push({
        name: item.kind === 'map' ? 'arrange' : 'write',
        params: { id: item.id },
      }),
  }));
  const wholes = maps.rows.value
    .filter(({ title }) => `${asOne}${title.toLowerCase()}`.includes(wanted.value))
    .map((item) => ({
      label: `Write as one: ${item.title}`,
      hint: 'map',
      act: () => void router.push({ name: 'whole', params: { id: item.id } }),
    }));
  return [
    ...found,
    ...wholes,
    ...commands.value.filter((command) => command.label.toLowerCase().includes(wanted.value)),
  ];
});

watch(open, async (isOpen) => {
  if (!isOpen) return;
  query.value = '';
  chosen.value = 0;
  await nextTick();
  field.value?.focus();
});
watch(query, () => (chosen.value = 0));

const once = useOnceCurrent(isCurrent);
function act(entry: Entry | undefined): void {
  open.value = false;
  entry?.act();
}
function onKey(event: KeyboardEvent): void {
  if (once.hold(event)) return;
  const count = Math.max(1, entries.value.length);
  if (event.key === 'ArrowDown') chosen.value = (chosen.value + 1) % count;
  else if (event.key === 'ArrowUp') chosen.value = (chosen.value + count - 1) % count;
  else if (event.key === 'Enter') once.act(() => act(entries.value[chosen.value]));
  else if (event.key === 'Escape') open.value = false;
  else return;
  event.preventDefault();
  void nextTick(() =>
    document.getElementById(`found-${chosen.value}`)?.scrollIntoView({ block: 'nearest' }),
  );
}
</script>

<template>
  <div v-if="open" class="veil" @mousedown.self="open = false">
    <div class="palette" role="dialog" aria-modal="true" aria-label="Find or do">
      <input
        ref="field"
        v-model="query"
        type="text"
        role="combobox"
        aria-expanded="true"
        aria-controls="found"
        :aria-activedescendant="`found-${chosen}`"
        aria-label="Find or do"
        placeholder="Find a topic, or do something"
        @keydown="onKey"
      />
      <ul id="found" role="listbox" aria-label="Found" :aria-busy="!isCurrent()">
        <li
          v-for="(entry, index) in entries"
          :id="`found-${index}`"
          :key="index"
          role="option"
          :aria-selected="index === chosen"
          @mousemove="chosen = index"
          @click="act(entry)"
        >
          <span>{{ entry.label }}</span>
          <span class="quiet small">{{ entry.hint }}</span>
        </li>
      </ul>
    </div>
  </div>
</template>

<style scoped>
.veil {
  position: fixed;
  inset: 0;
  z-index: 2000;
  background: rgb(20 26 40 / 22%);
  display: grid;
  justify-items: center;
  align-items: start;
  padding-top: 12vh;
}
.palette {
  width: min(600px, 92vw);
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 4px;
  box-shadow: 0 12px 40px rgb(20 26 40 / 28%);
  overflow: hidden;
}
input {
  width: 100%;
  border: 0;
  border-bottom: 1px solid var(--hair);
  padding: 12px 16px;
  background: none;
  color: var(--ink);
  font: 400 15px var(--font-text);
  outline: none;
}
ul {
  list-style: none;
  margin: 0;
  padding: 4px 0;
  max-height: 50vh;
  overflow: auto;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 16px;
  padding: 6px 16px;
  cursor: pointer;
}
li[aria-selected='true'] {
  background: var(--wash);
}
</style>
