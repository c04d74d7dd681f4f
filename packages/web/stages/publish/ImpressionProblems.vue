<script setup lang="ts">
import {
  kindLabel,
  kindOf,
  problemKinds,
  type Problem,
  type ProblemKind,
} from '@ukiyo/core/problems';
import { computed, ref, useId } from 'vue';
import { useItems } from '../../parts/items.ts';
import { useProblemPlace } from '../../parts/problemPlace.ts';

/**
 * What is wrong with what was built, by what it is about; those kinds first that keep it from being
 * signed off.
 */
const { problems, stops } = defineProps<{
  problems: readonly Problem[];
  stops: readonly ProblemKind[];
  /** Whether reasons are asked for. */ asks: boolean;
}>();
/** Why problems of a kind may go out. */
const reasons = defineModel<Partial<Record<ProblemKind, string>>>('reasons', { required: true });
const items = useItems();
const placeOf = useProblemPlace();
const titleOf = (item: string): string => items.find(item)?.title ?? item;
const groups = computed(() =>
  problemKinds
    .map((kind) => ({
      kind,
      label: kindLabel(kind),
      isBlocking: stops.includes(kind),
      problems: problems.filter((found) => kindOf(found) === kind),
    }))
    .filter((group) => group.problems.length > 0)
    .toSorted((a, b) => Number(b.isBlocking) - Number(a.isBlocking)),
);
/** Of many that are alike, a few say what they are. */
const few = 6;
const id = useId();
const unfolded = ref<readonly ProblemKind[]>([]);
const hidden = (group: { kind: ProblemKind; problems: readonly Problem[] }): number =>
  unfolded.value.includes(group.kind) || group.problems.length <= few + 1
    ? 0
    : group.problems.length - few;
const unfold = (kind: ProblemKind): void =>
  void (unfolded.value = unfolded.value.includes(kind)
    ? unfolded.value.filter((other) => other !== kind)
    : [...unfolded.value, kind]);
</script>

<template>
  <div class="groups">
    <section v-for="group in groups" :key="group.kind" :aria-label="group.label">
      <h3>
        {{ group.label }}
        <span class="count">{{ group.problems.length }}</span>
        {{ ' ' }}
        <span v-if="group.isBlocking" class="seal-text small">keeps it from being signed off</span>
      </h3>
      <label v-if="asks && group.isBlocking" class="why small">
        Why it may go out all the same
        <n-input
          size="small"
          placeholder=""
          :value="reasons[group.kind] ?? ''"
          :input-props="{ 'aria-label': `${group.label}: why it may go out` }"
          @update:value="reasons = { ...reasons, [group.kind]: $event }"
        />
      </label>
      <ul :id="`${id}-${group.kind}`">
        <li
          v-for="(problem, index) in group.problems.slice(0, group.problems.length - hidden(group))"
          :key="index"
        >
          <span class="severity small" :class="problem.severity">{{ problem.severity }}</span>
          <span>
            {{ problem.message }}
            <router-link v-if="problem.where.item" :to="placeOf(problem)">
              {{ titleOf(problem.where.item) }}
            </router-link>
          </span>
        </li>
      </ul>
      <button
        v-if="group.problems.length > few + 1"
        type="button"
        class="plain more small"
        :aria-expanded="hidden(group) === 0"
        :aria-controls="`${id}-${group.kind}`"
        @click="unfold(group.kind)"
      >
        {{ hidden(group) > 0 ? `${hidden(group)} more of these` : 'Only a few of these' }}
      </button>
    </section>
  </div>
</template>

<style scoped>
.groups {
  margin: 6px 0 0 42px;
}
h3 {
  margin: 10px 0 2px;
  font: 600 14px var(--font-text);
}
.count {
  font-weight: 400;
  color: var(--soft);
  font-variant-numeric: tabular-nums;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 70px 1fr;
  gap: 8px;
  padding: 3px 0;
}
.severity {
  color: var(--soft);
}
.severity.error {
  color: var(--seal);
}
.severity.warning {
  color: var(--amber);
}
.more {
  margin-left: 78px;
  min-height: 24px;
  color: var(--prussian);
  text-decoration: underline;
}
.why {
  display: grid;
  grid-template-columns: auto minmax(0, 420px);
  justify-content: start;
  gap: 8px;
  align-items: center;
  padding: 4px 0;
}
</style>
