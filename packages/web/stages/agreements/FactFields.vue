<script setup lang="ts">
import type { FactField } from '@ukiyo/contracts';

/** The facts that the team wants said of every topic. */
const { facts, editable } = defineProps<{ facts: readonly FactField[]; editable: boolean }>();
const emit = defineEmits<{ change: [FactField[]] }>();
const valuesFrom = (text: string): string[] => text.split(',').map((one) => one.trim()).filter((one) => one !== '');
function set(index: number, part: Partial<FactField>): void {
  emit('change', facts.map((fact, at) => (at === index ? { ...fact, ...part } : fact)));
}
</script>

<template>
  <p v-if="facts.length === 0" class="quiet">No facts are agreed on yet. A fact is a question that every topic answers, such as its owner or its state.</p>
  <div v-for="(fact, index) in facts" :key="fact.name" class="fact">
    <n-input size="small" :default-value="fact.label" :disabled="!editable" :input-props="{ 'aria-label': `Label of ${fact.name}` }" @change="(label: string) => set(index, { label })" />
    <code class="small quiet">{{ fact.name }}</code>
    <n-input size="small" :default-value="fact.values.join(', ')" :disabled="!editable" placeholder="any words; or a list, with commas" :input-props="{ 'aria-label': `Values of ${fact.name}` }" @change="(text: string) => set(index, { values: valuesFrom(text) })" />
    <n-button v-if="editable" size="small" quaternary :aria-label="`Remove ${fact.label}`" @click="emit('change', facts.toSpliced(index, 1))">×</n-button>
  </div>
  <n-button v-if="editable" size="small" @click="emit('change', [...facts, { name: `fact-${facts.length + 1}`, label: `Fact ${facts.length + 1}`, values: [] }])">Add a fact</n-button>
</template>

<style scoped>
.fact { display: grid; grid-template-columns: 200px 110px minmax(0, 1fr) auto; gap: 8px; align-items: center; margin-bottom: 6px; }
</style>
