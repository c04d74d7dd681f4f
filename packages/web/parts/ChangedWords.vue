<script setup lang="ts">
import { diffWords } from 'diff';
import { computed } from 'vue';

/** Words with what is other in them than in those that they are held against. */
const { words, against } = defineProps<{ words: string; against: string }>();
const parts = computed(() => diffWords(against, words));
</script>

<template>
  <p>
    <template v-for="(part, index) in parts" :key="index">
      <ins v-if="part.added">{{ part.value }}</ins>
      <del v-else-if="part.removed">{{ part.value }}</del>
      <template v-else>{{ part.value }}</template>
    </template>
  </p>
</template>

<style scoped>
p {
  margin: 6px 0 0;
}
ins {
  background: color-mix(in srgb, var(--pine) 16%, transparent);
  text-decoration: underline;
  text-decoration-thickness: 1px;
}
del {
  background: color-mix(in srgb, var(--seal) 12%, transparent);
  color: var(--soft);
}
</style>
