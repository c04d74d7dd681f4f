<script setup lang="ts">
import type { FactField } from '@ukiyo/contracts';
import CheckBox from '../../parts/CheckBox.vue';

/** The facts that the team wants said of every topic. */
const { facts, editable } = defineProps<{ facts: readonly FactField[]; editable: boolean }>();
const emit = defineEmits<{ change: [FactField[]] }>();
const valuesFrom = (text: string): string[] =>
  text
    .split(',')
    .map((one) => one.trim())
    .filter((one) => one !== '');
function set(index: number, part: Partial<FactField>): void {
  emit(
    'change',
    facts.map((fact, at) => (at === index ? { ...fact, ...part } : fact)),
  );
}
/** A value that is gone lets no topic out. */
const setValues = (index: number, values: string[]): void =>
  set(index, { values, ready: facts[index]!.ready.filter((one) => values.includes(one)) });
function turn(index: number, value: string): void {
  const { values, ready } = facts[index]!;
  set(index, { ready: values.filter((one) => ready.includes(one) !== (one === value)) });
}
</script>

<template>
  <p v-if="facts.length === 0" class="quiet">
    No facts are agreed on yet. A fact is a question that every topic answers, such as its owner or
    its state.
  </p>
  <div v-for="(fact, index) in facts" :key="fact.name" class="fact">
    <n-input
      size="small"
      :default-value="fact.label"
      :disabled="!editable"
      :input-props="{ 'aria-label': `Label of ${fact.name}` }"
      @change="(label: string) => set(index, { label })"
    />
    <code class="small quiet">{{ fact.name }}</code>
    <n-input
      size="small"
      :default-value="fact.values.join(', ')"
      :disabled="!editable"
      placeholder="any words; or a list, with commas"
      :input-props="{ 'aria-label': `Values of ${fact.name}` }"
      @change="(text: string) => setValues(index, valuesFrom(text))"
    />
    <n-button
      v-if="editable"
      size="small"
      quaternary
      :aria-label="`Remove ${fact.label}`"
      @click="emit('change', facts.toSpliced(index, 1))"
    >
      ×
    </n-button>
    <fieldset v-if="fact.values.length > 0" class="small ready">
      <legend>A topic goes out with</legend>
      <CheckBox
        v-for="value in fact.values"
        :key="value"
        :checked="fact.ready.includes(value)"
        :disabled="!editable"
        @update:checked="turn(index, value)"
      >
        {{ value }}
      </CheckBox>
      <span v-if="fact.ready.length === 0" class="quiet">any of them, or none</span>
    </fieldset>
  </div>
  <n-button
    v-if="editable"
    size="small"
    @click="
      emit('change', [
        ...facts,
        {
          name: `fact-${facts.length + 1}`,
          label: `Fact ${facts.length + 1}`,
          values: [],
          ready: [],
        },
      ])
    "
  >
    Add a fact
  </n-button>
</template>

<style scoped>
.fact {
  display: grid;
  grid-template-columns: 200px 110px minmax(0, 1fr) auto;
  gap: 8px;
  align-items: center;
  margin-bottom: 6px;
}
.ready {
  grid-column: 3;
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  border: 0;
  margin: 0;
  padding: 0 2px 6px;
}
.ready legend {
  float: left;
  padding: 0;
  margin-inline-end: 4px;
}
</style>
