<script setup lang="ts">
import type { Choice } from '@ukiyo/core/editing';
import { useStorage } from '@vueuse/core';
import { computed, nextTick, onMounted, ref, watch } from 'vue';
import { rankChoices } from './ranking.ts';

const { choices, left, top, bottom } = defineProps<{ choices: readonly Choice[]; left: number; top?: number; bottom?: number }>();
const px = (value: number | undefined): string => (value === undefined ? 'auto' : `${value}px`);
const emit = defineEmits<{ choose: [Choice]; close: [] }>();
const query = ref('');
const chosen = ref(0);
const field = ref<HTMLInputElement>();
const uses = useStorage<Record<string, number>>('ukiyo-palette-uses', {});
const headings: Record<Choice['kind'], string> = { insert: 'Put in', table: 'Table', phrase: 'Name the words', wrap: 'Put around', turn: 'Make into' };

const shown = computed(() => rankChoices(choices, query.value, uses.value));
watch(query, () => (chosen.value = 0));
onMounted(() => field.value?.focus());

function choose(choice: Choice): void {
  const key = `${choice.kind} ${choice.element}`;
  uses.value = { ...uses.value, [key]: (uses.value[key] ?? 0) + 1 };
  emit('choose', choice);
}
function onKey(event: KeyboardEvent): void {
  const count = shown.value.length;
  const choice = shown.value[chosen.value];
  if (event.key === 'ArrowDown') chosen.value = (chosen.value + 1) % Math.max(1, count);
  else if (event.key === 'ArrowUp') chosen.value = (chosen.value + count - 1) % Math.max(1, count);
  else if (event.key === 'Enter' && choice) choose(choice);
  else if (event.key === 'Escape') emit('close');
  else return;
  event.preventDefault();
  void nextTick(() => document.getElementById(`choice-${chosen.value}`)?.scrollIntoView({ block: 'nearest' }));
}
</script>

<template>
  <div class="palette" role="dialog" aria-label="What can go here" :style="{ left: px(left), top: px(top), bottom: px(bottom) }">
    <input ref="field" v-model="query" type="text" role="combobox" aria-expanded="true" aria-controls="choices" :aria-activedescendant="`choice-${chosen}`" aria-label="What can go here" placeholder="What can go here" @keydown="onKey" @blur="emit('close')" />
    <ul id="choices" role="listbox" aria-label="Elements">
      <template v-for="(choice, index) in shown" :key="`${choice.kind} ${choice.element}`">
        <li v-if="choice.kind !== shown[index - 1]?.kind" class="head" role="presentation">{{ headings[choice.kind] }}</li>
        <li :id="`choice-${index}`" role="option" :aria-label="`${headings[choice.kind]}: ${choice.label} ${choice.place}`" :aria-selected="index === chosen" @mousemove="chosen = index" @mousedown.prevent="choose(choice)">
          <span class="label">{{ choice.label }}</span><span class="quiet small">{{ choice.place }}</span><span class="quiet small help">{{ choice.help }}</span>
        </li>
      </template>
      <li v-if="shown.length === 0" class="quiet">Nothing by that name can go here.</li>
    </ul>
  </div>
</template>

<style scoped>
.palette { position: fixed; z-index: 50; width: 380px; background: var(--sheet); border: 1px solid var(--hair); border-radius: 4px; box-shadow: 0 8px 28px rgb(20 26 40 / 24%); }
input { width: 100%; border: 0; border-bottom: 1px solid var(--hair); padding: 8px 12px; background: none; color: var(--ink); font: 400 15px var(--font-text); outline: none; }
ul { list-style: none; margin: 0; padding: 4px 0; max-height: 320px; overflow: auto; } li { display: grid; grid-template-columns: 1fr auto; gap: 0 12px; padding: 5px 12px; cursor: pointer; } li[aria-selected='true'] { background: var(--wash); } .label { font-weight: 600; } .help { grid-column: 1 / -1; }
.head { padding: 8px 12px 2px; font: 400 13px var(--font-title); color: var(--prussian); cursor: default; }
</style>
