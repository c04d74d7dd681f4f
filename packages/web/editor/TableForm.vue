<script setup lang="ts">
import { usualTable, type TableShape } from '@ukiyo/core/editing';
import { onMounted, reactive, ref } from 'vue';
import PickOne from '../parts/PickOne.vue';
import PopFrame from './PopFrame.vue';
import type { PopPlace } from './popList.ts';
import CheckBox from '../parts/CheckBox.vue';

/** Asks how a new table is to be. Enter anywhere makes it. */
const { place, kind } = defineProps<{ place: PopPlace; kind: TableShape['kind'] }>();
const emit = defineEmits<{ choose: [TableShape]; close: [] }>();
const shape = reactive<{ -readonly [Key in keyof TableShape]: TableShape[Key] }>({
  ...usualTable,
  kind,
  columns: kind === 'table' ? 3 : 2,
});
const first = ref<HTMLInputElement>();
onMounted(() => first.value?.focus());
const most = 200;
const frames = [
  { value: '', label: 'as the style says' },
  { value: 'all', label: 'all around' },
  { value: 'topbot', label: 'above and below' },
  { value: 'sides', label: 'at the sides' },
  { value: 'none', label: 'none' },
];
const bounded = (value: number): number => Math.max(1, Math.min(most, Math.round(value) || 1));
</script>

<template>
  <PopFrame
    :label="kind === 'table' ? 'New table' : 'New simple table'"
    :place="place"
    @close="emit('close')"
  >
    <form
      class="shape"
      @submit.prevent="
        emit('choose', { ...shape, rows: bounded(shape.rows), columns: bounded(shape.columns) })
      "
    >
      <label>
        Rows
        <input ref="first" v-model.number="shape.rows" type="number" min="1" :max="most" />
      </label>
      <label>
        Columns
        <input v-model.number="shape.columns" type="number" min="1" :max="most" />
      </label>
      <CheckBox v-model:checked="shape.hasHead" class="check">a head</CheckBox>
      <label v-if="kind === 'table'" class="wide">
        Title
        <input v-model="shape.title" type="text" />
      </label>
      <label class="wide">
        Frame
        <PickOne v-model:chosen="shape.frame" label="Frame" :options="frames" />
      </label>
      <button type="submit" class="go">
        Put it in
        <kbd>Enter</kbd>
      </button>
    </form>
  </PopFrame>
</template>

<style scoped>
.shape {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: 8px 12px;
}
label {
  display: grid;
  gap: 3px;
  font: 400 13px var(--font-text);
  color: var(--soft);
}
.check {
  align-items: end;
  padding-bottom: 5px;
}
.wide {
  grid-column: 1 / -1;
}
input[type='number'],
input[type='text'] {
  height: 28px;
  padding: 0 8px;
  border: 1px solid var(--hair);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  font: 400 15px var(--font-text);
  min-width: 0;
}
.go {
  grid-column: 1 / -1;
  justify-self: start;
  border: 0;
  border-radius: 4px;
  padding: 5px 12px;
  background: var(--prussian);
  color: var(--on-deep);
  cursor: pointer;
}
</style>
