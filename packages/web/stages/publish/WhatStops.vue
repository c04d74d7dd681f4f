<script setup lang="ts">
import { kindLabel, problemKinds, type ProblemKind } from '@ukiyo/core/problems';

/** Which kinds of problems keep what was built from being signed off. */
const { mayChange } = defineProps<{ mayChange: boolean }>();
const stops = defineModel<ProblemKind[]>('stops', { required: true });
const change = (kind: ProblemKind): void =>
  void (stops.value = problemKinds.filter((one) =>
    one === kind ? !stops.value.includes(one) : stops.value.includes(one),
  ));
</script>

<template>
  <details class="stops">
    <summary class="small">
      {{
        stops.length === 0
          ? 'nothing'
          : stops.length === problemKinds.length
            ? 'any problem'
            : `${stops.length} of ${problemKinds.length} kinds of problems`
      }}
    </summary>
    <label v-for="kind in problemKinds" :key="kind">
      <input
        type="checkbox"
        :checked="stops.includes(kind)"
        :disabled="!mayChange"
        @change="change(kind)"
      />
      {{ kindLabel(kind) }}
    </label>
  </details>
</template>

<style scoped>
label {
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 2px 0;
  font-size: 13px;
}
summary {
  cursor: pointer;
}
</style>
