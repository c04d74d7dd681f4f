<script setup lang="ts">
import type { Path, Problem } from '@ukiyo/core/problems';

const { problems } = defineProps<{ problems: readonly Problem[] }>();
const emit = defineEmits<{ go: [Path] }>();
</script>

<template>
  <p v-if="problems.length === 0" class="quiet small">This topic is valid.</p>
  <ul v-else>
      <li v-for="(problem, index) in problems" :key="index">
        <button type="button" class="plain" @click="emit('go', problem.where.path ?? [])"><span class="severity small" :class="problem.severity">{{ problem.severity }}</span>{{ problem.message }}</button>
      </li>
  </ul>
</template>

<style scoped>
.quiet { margin: 0; } ul { list-style: none; margin: 0; padding: 0; } li { border-top: 1px solid var(--hair); } .plain { display: block; width: 100%; padding: 8px 0; } .severity { display: block; color: var(--soft); } .severity.error { color: var(--seal); } .severity.warning { color: var(--amber); }
</style>
