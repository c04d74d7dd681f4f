<script setup lang="ts">
import { elementDefinitions, isMap } from '@ukiyo/core/grammar';

/** Chooses an element by its plain name. `first` is an answer before all elements. */
const { label, first } = defineProps<{ label: string; first?: { value: string; label: string } }>();
const element = defineModel<string>('element', { required: true });
const options = [
  ...(first ? [first] : []),
  ...elementDefinitions
    .filter(({ name }) => !isMap(name))
    .map(({ name, label: words }) => ({
      value: name,
      label: words === name ? words : `${words} (${name})`,
    })),
];
</script>

<template>
  <n-select
    v-model:value="element"
    size="small"
    filterable
    class="element"
    :options="options"
    :input-props="{ 'aria-label': label }"
  />
</template>

<style scoped>
.element {
  width: 210px;
  display: inline-block;
}
</style>
