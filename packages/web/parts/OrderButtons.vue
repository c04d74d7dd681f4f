<script setup lang="ts">
import { IconArrowDown, IconArrowUp, IconTrash } from '@tabler/icons-vue';

/** Moves one of a list, or takes it out. */
const { label, at, count, removing } = defineProps<{
  label: string;
  at: number;
  count: number;
  /** How taking it out is called. */ removing: string;
}>();
const emit = defineEmits<{ move: [by: 1 | -1]; remove: [] }>();
</script>

<template>
  <span class="acts">
    <n-button
      size="small"
      quaternary
      :disabled="at === 0"
      :aria-label="`${label}: earlier`"
      @click="emit('move', -1)"
    >
      <IconArrowUp :size="15" />
    </n-button>
    <n-button
      size="small"
      quaternary
      :disabled="at === count - 1"
      :aria-label="`${label}: later`"
      @click="emit('move', 1)"
    >
      <IconArrowDown :size="15" />
    </n-button>
    <n-button size="small" quaternary :aria-label="`${label}: ${removing}`" @click="emit('remove')">
      <IconTrash :size="15" />
    </n-button>
  </span>
</template>

<style scoped>
.acts {
  display: flex;
}
</style>
