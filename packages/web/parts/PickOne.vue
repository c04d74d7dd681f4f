<script setup lang="ts">
/**
 * One of a short list, as the browser's own control: it speaks, and every key does what people
 * know.
 */
const { label, options, disabled } = defineProps<{
  label: string;
  options: readonly { readonly value: string; readonly label: string }[];
  disabled?: boolean;
}>();
const chosen = defineModel<string>('chosen', { required: true });
</script>

<template>
  <select v-model="chosen" :aria-label="label" :disabled="disabled">
    <option v-for="option in options" :key="option.value" :value="option.value">
      {{ option.label }}
    </option>
  </select>
</template>

<style scoped>
select {
  height: 28px;
  min-width: 0;
  max-width: 100%;
  padding: 0 6px;
  border: 1px solid var(--hair);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  font: 400 13px var(--font-text);
}
</style>
