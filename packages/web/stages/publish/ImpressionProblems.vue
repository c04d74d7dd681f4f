<script setup lang="ts">
import { kindLabel, kindOf, problemKinds, type Problem, type ProblemKind } from '@ukiyo/core/problems';
import { computed } from 'vue';
import { useLibrary } from '../../parts/library.ts';
import { useProblemPlace } from '../../parts/problemPlace.ts';

/** What is wrong with what was built, by what it is about; those kinds first that keep it from being signed off. */
const { problems, stops } = defineProps<{ problems: readonly Problem[]; stops: readonly ProblemKind[]; /** Whether reasons are asked for. */ asks: boolean }>();
/** Why problems of a kind may go out. */
const reasons = defineModel<Partial<Record<ProblemKind, string>>>('reasons', { required: true });
const library = useLibrary();
const placeOf = useProblemPlace();
const titleOf = (item: string): string => library.find(item)?.title ?? item;
const groups = computed(() =>
  problemKinds
    .map((kind) => ({ kind, label: kindLabel(kind), isBlocking: stops.includes(kind), problems: problems.filter((found) => kindOf(found) === kind) }))
    .filter((group) => group.problems.length > 0)
    .toSorted((a, b) => Number(b.isBlocking) - Number(a.isBlocking)),
);
</script>

<template>
  <div class="groups">
    <section v-for="group in groups" :key="group.kind" :aria-label="group.label">
      <h3>{{ group.label }} <span class="count">{{ group.problems.length }}</span><span v-if="group.isBlocking" class="seal-text small"> keeps it from being signed off</span></h3>
      <label v-if="asks && group.isBlocking" class="why small">Why it may go out all the same <input :value="reasons[group.kind] ?? ''" :aria-label="`${group.label}: why it may go out`" @input="reasons = { ...reasons, [group.kind]: ($event.target as HTMLInputElement).value }" /></label>
      <ul>
        <li v-for="(problem, index) in group.problems" :key="index">
          <span class="severity small" :class="problem.severity">{{ problem.severity }}</span>
          <span>{{ problem.message }} <router-link v-if="problem.where.item" :to="placeOf(problem)">{{ titleOf(problem.where.item) }}</router-link></span>
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.groups { margin: 6px 0 0 42px; } h3 { margin: 10px 0 2px; font: 600 14px var(--font-text); } .count { font-weight: 400; color: var(--soft); font-variant-numeric: tabular-nums; } ul { list-style: none; margin: 0; padding: 0; } li { display: grid; grid-template-columns: 70px 1fr; gap: 8px; padding: 3px 0; } .severity { color: var(--soft); } .severity.error { color: var(--seal); } .severity.warning { color: var(--amber); }
.why { display: grid; grid-template-columns: auto minmax(0, 420px); gap: 8px; align-items: center; padding: 4px 0; } .why input { font: inherit; color: var(--ink); background: var(--sheet); border: 1px solid var(--hair); border-radius: 4px; padding: 4px 8px; }
</style>
