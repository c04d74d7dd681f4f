<script setup lang="ts">
import { kindLabel, problemKinds, type ProblemKind } from '@ukiyo/core/problems';
import CheckBox from '../../parts/CheckBox.vue';

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
    <CheckBox
      v-for="kind in problemKinds"
      :key="kind"
      :checked="stops.includes(kind)"
      :disabled="!mayChange"
      @update:checked="change(kind)"
    >
      {{ kindLabel(kind) }}
    </CheckBox>
  </details>
</template>

<style scoped>
.n-checkbox {
  display: flex;
  padding: 2px 0;
}
summary {
  cursor: pointer;
}
</style>
