<script setup lang="ts">
import type { Path, Problem } from '@ukiyo/core/problems';
import { computed } from 'vue';
import { useSession } from '../parts/session.ts';
import { useFacets } from '../parts/facets.ts';

const { problems, editable } = defineProps<{ problems: readonly Problem[]; editable: boolean }>();
const session = useSession();
const { addValue } = useFacets();
/** A value that a list does not have can be meant: who keeps the lists adds it. */
const missingIn = ({ code, fix }: Problem): { facet: string; value: string } | undefined =>
  code === 'facet.unknown-value' && fix?.edit.kind === 'value' && session.may('publish')
    ? { facet: fix.edit.facet, value: fix.edit.from }
    : undefined;
function add(problem: Problem): void {
  const missing = missingIn(problem);
  if (missing) void addValue(missing.facet, { name: missing.value, label: missing.value });
}
const emit = defineEmits<{ go: [Path]; fix: [readonly Problem[]] }>();
/** By kind, each with how many of them a click puts right. */
const groups = computed(() =>
  [...new Set(problems.map(({ code }) => code))]
    .map((code) => problems.filter((one) => one.code === code))
    .map((found) => ({ code: found[0]!.code, found, fixable: found.filter(({ fix }) => fix) })),
);
</script>

<template>
  <p v-if="problems.length === 0" class="quiet small">This topic is valid.</p>
  <section v-for="group in groups" :key="group.code">
    <ul>
      <li v-for="(problem, index) in group.found" :key="index">
        <button type="button" class="plain" @click="emit('go', problem.where.path ?? [])">
          <span class="severity small" :class="problem.severity">{{ problem.severity }}</span>
          {{ problem.message }}
        </button>
        <n-button v-if="missingIn(problem)" size="tiny" @click="add(problem)">
          Add “{{ missingIn(problem)!.value }}” to the list
        </n-button>
        <n-button v-if="editable && problem.fix" size="tiny" @click="emit('fix', [problem])">
          {{ problem.fix.label }}
        </n-button>
      </li>
    </ul>
    <n-button
      v-if="editable && group.fixable.length > 1"
      size="tiny"
      class="all"
      @click="emit('fix', group.fixable)"
    >
      Do so for all {{ group.fixable.length }} of this kind
    </n-button>
  </section>
</template>

<style scoped>
.quiet {
  margin: 0;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  border-top: 1px solid var(--hair);
  padding-bottom: 8px;
}
.plain {
  display: block;
  width: 100%;
  padding: 8px 0 4px;
}
.severity {
  display: block;
  color: var(--soft);
}
.severity.error {
  color: var(--seal);
}
.severity.warning {
  color: var(--amber);
}
.all {
  margin-bottom: 10px;
}
</style>
