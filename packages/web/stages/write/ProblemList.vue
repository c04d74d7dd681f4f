<script setup lang="ts">
import type { Path, Problem } from '@ukiyo/core/problems';

const { problems } = defineProps<{ problems: readonly Problem[] }>();
const emit = defineEmits<{ go: [Path] }>();
</script>

<template>
  <aside class="bench" aria-label="Problems">
    <h2>Problems <span v-if="problems.length > 0" class="seal-text">{{ problems.length }}</span></h2>
    <p v-if="problems.length === 0" class="quiet small">This topic is valid.</p>
    <ul>
      <li v-for="(problem, index) in problems" :key="index">
        <button type="button" class="plain" @click="emit('go', problem.where.path ?? [])"><span class="severity small" :class="problem.severity">{{ problem.severity }}</span>{{ problem.message }}</button>
      </li>
    </ul>
  </aside>
</template>

<style scoped>
.bench { border-left: 1px solid var(--hair); padding: 14px 16px; overflow: auto; } h2 { margin-bottom: 10px; font: 600 15px var(--font-text); } ul { list-style: none; margin: 0; padding: 0; } li { border-top: 1px solid var(--hair); } .plain { display: block; width: 100%; padding: 8px 0; } .severity { display: block; color: var(--soft); } .severity.error { color: var(--seal); } .severity.warning { color: var(--amber); }
</style>
