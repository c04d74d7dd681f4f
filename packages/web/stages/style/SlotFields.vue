<script setup lang="ts">
import { pageFields, type PageField, type Slots } from '@ukiyo/core/styles';
import { computed } from 'vue';
import LineInput from '../../parts/LineInput.vue';

/** A head or foot: three places into which fields are dragged, or put by a list. */
const { slots, label, disabled } = defineProps<{ slots: Slots; label: string; disabled: boolean }>();
const emit = defineEmits<{ change: [Slots] }>();
const parts = [
  { name: 'start', label: 'left' },
  { name: 'middle', label: 'middle' },
  { name: 'end', label: 'right' },
] as const;
type Part = (typeof parts)[number]['name'];
const choices = computed(() => Object.entries(pageFields).map(([value, name]) => ({ value, label: name })));
const carried = 'application/x-ukiyo-page-field';

const fieldOf = (name: string): PageField => (name === 'text' ? { field: 'text', words: 'Words' } : { field: name as Exclude<PageField['field'], 'text'> });
const add = (part: Part, field: PageField): void => emit('change', { ...slots, [part]: [...slots[part], field] });
const remove = (part: Part, at: number): void => emit('change', { ...slots, [part]: slots[part].toSpliced(at, 1) });
const say = (part: Part, at: number, words: string): void => emit('change', { ...slots, [part]: slots[part].with(at, { field: 'text', words }) });
function drag(event: DragEvent, part: Part, at: number): void {
  event.dataTransfer?.setData(carried, JSON.stringify({ from: label, part, at }));
}
function drop(event: DragEvent, part: Part): void {
  const text = event.dataTransfer?.getData(carried) ?? '';
  if (text === '' || disabled) return;
  const { from, part: source, at } = JSON.parse(text) as { from: string; part: Part; at: number };
  if (from !== label) return;
  const field = slots[source]?.[at];
  if (!field) return;
  const without = { ...slots, [source]: slots[source].toSpliced(at, 1) };
  emit('change', { ...without, [part]: [...without[part], field] });
}
</script>

<template>
  <div class="slots" role="group" :aria-label="label">
    <span class="what">{{ label }}</span>
    <div v-for="part in parts" :key="part.name" class="slot" @dragover.prevent @drop.prevent="drop($event, part.name)">
      <span v-for="(field, at) in slots[part.name]" :key="at" class="field" :draggable="!disabled" @dragstart="drag($event, part.name, at)">
        <LineInput v-if="field.field === 'text'" :value="field.words" :label="`${label}, ${part.label}: words`" :disabled="disabled" @change="say(part.name, at, $event)" />
        <span v-else>{{ pageFields[field.field] }}</span>
        <button type="button" class="plain" :aria-label="`Take “${pageFields[field.field]}” out`" :disabled="disabled" @click="remove(part.name, at)">×</button>
      </span>
      <select :aria-label="`${label}, ${part.label}: put in`" :disabled="disabled" @change="add(part.name, fieldOf(($event.target as HTMLSelectElement).value)); ($event.target as HTMLSelectElement).value = ''">
        <option value="">+</option>
        <option v-for="choice in choices" :key="choice.value" :value="choice.value">{{ choice.label }}</option>
      </select>
    </div>
  </div>
</template>

<style scoped>
.slots { display: grid; grid-template-columns: 92px repeat(3, minmax(0, 1fr)); gap: 6px; align-items: start; padding: 3px 0; } .what { font-size: 13px; color: var(--soft); padding-top: 4px; } .slot { display: flex; flex-wrap: wrap; gap: 3px; min-height: 30px; padding: 3px; border: 1px dashed var(--hair); border-radius: 4px; } .field { display: inline-flex; align-items: center; gap: 2px; padding: 1px 3px 1px 7px; border-radius: 3px; background: var(--wash); font-size: 13px; cursor: grab; } .field button { min-width: 20px; min-height: 22px; color: var(--soft); } .field :deep(input) { width: 80px; padding: 1px 4px; } select { width: 26px; height: 24px; border: 1px solid var(--hair); border-radius: 3px; background: var(--sheet); color: var(--prussian); appearance: none; text-align: center; padding: 0 8px; }
</style>
