<script setup lang="ts">
import type { PageField, Slots } from '@ukiyo/core/styles';
import FieldChip from './FieldChip.vue';
import { fieldChoices, newField } from './pageField.ts';

/** A head or foot: three places into which fields are dragged, or put by a list. */
const { slots, label, disabled } = defineProps<{
  slots: Slots;
  label: string;
  disabled: boolean;
}>();
const emit = defineEmits<{ change: [Slots] }>();
const parts = [
  { name: 'start', label: 'left' },
  { name: 'middle', label: 'middle' },
  { name: 'end', label: 'right' },
] as const;
type Part = (typeof parts)[number]['name'];
const carried = 'application/x-ukiyo-page-field';

const add = (part: Part, field: PageField): void =>
  emit('change', { ...slots, [part]: [...slots[part], field] });
const remove = (part: Part, at: number): void =>
  emit('change', { ...slots, [part]: slots[part].toSpliced(at, 1) });
const put = (part: Part, at: number, field: PageField): void =>
  emit('change', { ...slots, [part]: slots[part].with(at, field) });
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
    <div
      v-for="part in parts"
      :key="part.name"
      class="slot"
      @dragover.prevent
      @drop.prevent="drop($event, part.name)"
    >
      <FieldChip
        v-for="(field, at) in slots[part.name]"
        :key="at"
        class="field"
        :field="field"
        :label="`${label}, ${part.label}`"
        :disabled="disabled"
        removable
        :draggable="!disabled"
        @dragstart="drag($event, part.name, at)"
        @change="put(part.name, at, $event)"
        @remove="remove(part.name, at)"
      />
      <select
        :aria-label="`${label}, ${part.label}: put in`"
        :disabled="disabled"
        @change="
          add(part.name, newField(($event.target as HTMLSelectElement).value));
          ($event.target as HTMLSelectElement).value = '';
        "
      >
        <option value="">+</option>
        <option v-for="choice in fieldChoices" :key="choice.value" :value="choice.value">
          {{ choice.label }}
        </option>
      </select>
    </div>
  </div>
</template>

<style scoped>
.slots {
  display: grid;
  grid-template-columns: 92px repeat(3, minmax(0, 1fr));
  gap: 6px;
  align-items: start;
  padding: 3px 0;
}
.what {
  font-size: 13px;
  color: var(--soft);
  padding-top: 4px;
}
.slot {
  display: flex;
  flex-wrap: wrap;
  gap: 3px;
  min-height: 30px;
  padding: 3px;
  border: 1px dashed var(--hair);
  border-radius: 4px;
}
.field {
  cursor: grab;
}
.slot > select {
  width: 26px;
  height: 24px;
  border: 1px solid var(--hair);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--prussian);
  appearance: none;
  text-align: center;
  padding: 0 8px;
}
</style>
