<script setup lang="ts">
import { computed } from 'vue';

/** One of many, found by words: the list behind it is asked of the server while it is open. */
const { none, options, nameOf } = defineProps<{
  label: string;
  /** What no choice is called; without it there has to be one. */
  none: string | undefined;
  disabled: boolean;
  options: readonly { readonly value: string; readonly label: string }[];
  isLoading: boolean;
  nameOf: (value: string) => string;
}>();
/** `''` for none. */
const chosen = defineModel<string>('chosen', { required: true });
const words = defineModel<string>('words', { required: true });
const isOpen = defineModel<boolean>('isOpen', { required: true });
/** The cross that clears the field cannot be reached by keys: no choice is in the list, too. */
const offered = computed(() => [
  ...(none?.toLowerCase().includes(words.value.trim().toLowerCase())
    ? [{ value: '', label: none }]
    : []),
  ...options,
]);
</script>

<template>
  <n-select
    size="small"
    remote
    filterable
    :consistent-menu-width="false"
    :clearable="none !== undefined"
    :disabled="disabled"
    :loading="isLoading"
    :placeholder="none ?? ''"
    :value="chosen === '' ? null : chosen"
    :options="offered"
    :fallback-option="(value: string) => ({ value, label: nameOf(value) })"
    :input-props="{ 'aria-label': label }"
    @update:show="((isOpen = $event), (words = ''))"
    @search="words = $event"
    @update:value="chosen = $event ?? ''"
  />
</template>
