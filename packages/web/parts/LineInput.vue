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
  <n-input
    v-model:value="text"
    size="small"
    :placeholder="placeholder"
    :disabled="disabled"
    :input-props="{ 'aria-label': label }"
    @change="emit('change', text.trim())"
  />
</template>
