<script setup lang="ts">
import { ref, watch } from 'vue';

/**
 * One line of text that is kept when one leaves it. What is being typed belongs to the field:
 * drawing what is around it anew does not take it away.
 */
const {
  value,
  label,
  placeholder = '',
  disabled,
} = defineProps<{ value: string; label: string; placeholder?: string; disabled?: boolean }>();
const emit = defineEmits<{ change: [value: string] }>();
const text = ref(value);
watch(
  () => value,
  (next) => (text.value = next),
);
</script>

<template>
  <input
    v-model="text"
    :aria-label="label"
    :placeholder="placeholder"
    :disabled="disabled"
    @change="emit('change', text.trim())"
  />
</template>

<style scoped>
input {
  font: inherit;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 4px;
  padding: 4px 8px;
  min-width: 0;
}
</style>
