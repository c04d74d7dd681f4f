<script setup lang="ts">
import type { Choice } from '@ukiyo/core/editing';
import { computed, nextTick, onMounted, ref, watch } from 'vue';

const { choices, left, top } = defineProps<{ choices: readonly Choice[]; left: number; top: number }>();
const emit = defineEmits<{ choose: [Choice]; close: [] }>();
const query = ref('');
const chosen = ref(0);
const field = ref<HTMLInputElement>();

const shown = computed(() => {
  const wanted = query.value.trim().toLowerCase();
  const rank = (choice: Choice): number => (choice.label.toLowerCase().startsWith(wanted) ? 0 : choice.label.toLowerCase().includes(wanted) ? 1 : choice.element.includes(wanted) ? 2 : choice.help.toLowerCase().includes(wanted) ? 3 : 9);
  return wanted === '' ? choices : choices.filter((choice) => rank(choice) < 9).sort((a, b) => rank(a) - rank(b));
});
watch(query, () => (chosen.value = 0));
onMounted(() => field.value?.focus());

function onKey(event: KeyboardEvent): void {
  const count = shown.value.length;
  const choice = shown.value[chosen.value];
  if (event.key === 'ArrowDown') chosen.value = (chosen.value + 1) % Math.max(1, count);
  else if (event.key === 'ArrowUp') chosen.value = (chosen.value + count - 1) % Math.max(1, count);
  else if (event.key === 'Enter' && choice) emit('choose', choice);
  else if (event.key === 'Escape') emit('close');
  else return;
  event.preventDefault();
  void nextTick(() => document.getElementById(`choice-${chosen.value}`)?.scrollIntoView({ block: 'nearest' }));
}
</script>

<template>
  <div class="palette" role="dialog" aria-label="What can go here" :style="{ left: `${left}px`, top: `${top}px` }">
    <input ref="field" v-model="query" type="text" role="combobox" aria-expanded="true" aria-controls="choices" :aria-activedescendant="`choice-${chosen}`" aria-label="What can go here" placeholder="What can go here" @keydown="onKey" @blur="emit('close')" />
    <ul id="choices" role="listbox" aria-label="Elements">
      <li v-for="(choice, index) in shown" :id="`choice-${index}`" :key="choice.element" role="option" :aria-selected="index === chosen" @mousemove="chosen = index" @mousedown.prevent="emit('choose', choice)">
        <span class="label">{{ choice.label }}</span><span class="quiet small">into {{ choice.into }}</span><span class="quiet small help">{{ choice.help }}</span>
      </li>
      <li v-if="shown.length === 0" class="quiet">Nothing by that name can go here.</li>
    </ul>
  </div>
</template>

<style scoped>
.palette { position: fixed; z-index: 50; width: 380px; background: var(--sheet); border: 1px solid var(--hair); border-radius: 4px; box-shadow: 0 8px 28px rgb(20 26 40 / 24%); }
input { width: 100%; border: 0; border-bottom: 1px solid var(--hair); padding: 8px 12px; background: none; color: var(--ink); font: 400 15px var(--font-text); outline: none; }
ul { list-style: none; margin: 0; padding: 4px 0; max-height: 300px; overflow: auto; } li { display: grid; grid-template-columns: 1fr auto; gap: 0 12px; padding: 5px 12px; cursor: pointer; } li[aria-selected='true'] { background: var(--wash); } .label { font-weight: 600; } .help { grid-column: 1 / -1; }
</style>
