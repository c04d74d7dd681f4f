<script setup lang="ts">
import { computed } from 'vue';
import PickOne from '../../parts/PickOne.vue';

/** One of the colours of the sheet, none, or one of its own. */
const { value, label, colours, disabled } = defineProps<{
  value: string;
  label: string;
  colours: Readonly<Record<string, string>>;
  disabled: boolean;
}>();
const emit = defineEmits<{ change: [string] }>();
const options = computed(() => [
  ...(value === '' ? [{ value: '', label: '–' }] : []),
  ...['none', ...Object.keys(colours), ...(value.startsWith('#') ? [value] : [])].map((name) => ({
    value: name,
    label: name,
  })),
]);
const shown = computed(() => colours[value] ?? (value.startsWith('#') ? value : '#ffffff'));
</script>

<template>
  <span class="colour">
    <input
      type="color"
      :value="shown"
      :aria-label="`${label}: a colour of its own`"
      :disabled="disabled"
      :class="{ none: value === '' || value === 'none' }"
      @change="emit('change', ($event.target as HTMLInputElement).value)"
    />
    <PickOne
      :chosen="value"
      :label="label"
      :options="options"
      :disabled="disabled"
      @update:chosen="(one) => one !== '' && emit('change', one)"
    />
  </span>
</template>

<style scoped>
.colour {
  display: flex;
  gap: 4px;
  align-items: center;
  min-width: 0;
  flex: 1;
}
input {
  width: 26px;
  height: 26px;
  padding: 1px;
  border: 1px solid var(--hair);
  border-radius: 4px;
  background: var(--sheet);
  flex: none;
}
.none {
  opacity: 0.35;
}
.colour :deep(select) {
  flex: 1;
}
</style>
