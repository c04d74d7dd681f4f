<script setup lang="ts">
import { outputs, type Edition, type Lens } from '@ukiyo/contracts';
import { computed, onMounted, ref } from 'vue';
import { useDesigns } from '../../parts/designs.ts';
import { useLibrary } from '../../parts/library.ts';
import PickOne from '../../parts/PickOne.vue';

/** What two editions are made with, side by side; what is the same in both is told in one line. */
const { edition, editions, lenses } = defineProps<{ edition: Edition; editions: readonly Edition[]; lenses: readonly Lens[] }>();
const library = useLibrary();
const designs = useDesigns();
onMounted(() => designs.ensure());
const chosen = ref('');
const other = computed(() => editions.find(({ id }) => id === chosen.value));
const options = computed(() => [{ value: '', label: 'another edition …' }, ...editions.filter(({ id }) => id !== edition.id).map(({ id, name }) => ({ value: id, label: name }))]);

function settingsOf(one: Edition): [label: string, value: string][] {
  const variables = Object.entries(one.variables).map(([key, value]): [string, string] => [`Variable ${key}`, value]);
  return [
    ['Output', outputs[one.output].label],
    ['Map', library.find(one.map)?.title ?? one.map],
    ['Lens', one.lens === null ? 'everything' : (lenses.find(({ id }) => id === one.lens)?.name ?? one.lens)],
    ['Style sheet', designs.list.sheets.find(({ id }) => id === one.sheet)?.content.name ?? one.sheet],
    ['Page plan', one.output === 'print' ? (designs.list.plans.find(({ id }) => id === one.plan)?.content.name ?? one.plan) : '–'],
    ['Site look', one.output === 'site' ? (designs.list.looks.find(({ id }) => id === one.look)?.content.name ?? one.look) : '–'],
    ['Bars', one.since === null ? 'none' : 'beside what changed'],
    ['Readers set', one.choices.map(({ facet, label }) => label || (library.facets.find(({ name }) => name === facet)?.label ?? facet)).join(', ') || '–'],
    ['Locale', one.locale],
    ['Address', one.address || '–'],
    ...variables,
    ...Object.entries(one.facts).map(([name, value]): [string, string] => [`Says: ${name}`, value]),
  ];
}
const rows = computed(() => {
  if (!other.value) return [];
  const [here, there] = [new Map(settingsOf(edition)), new Map(settingsOf(other.value))];
  return [...new Set([...here.keys(), ...there.keys()])].map((label) => ({ label, here: here.get(label) ?? '–', there: there.get(label) ?? '–' }));
});
const differing = computed(() => rows.value.filter(({ here, there }) => here !== there));
const same = computed(() => rows.value.filter(({ here, there }) => here === there && here !== '–').map(({ label }) => label.toLowerCase()));
</script>

<template>
  <section class="comparison" aria-label="Compared with another edition">
    <label>Compare with <PickOne v-model:chosen="chosen" label="Compare with" :options="options" /></label>
    <template v-if="other">
      <table v-if="differing.length > 0">
        <thead><tr><td /><th scope="col">{{ edition.name }}</th><th scope="col">{{ other.name }}</th></tr></thead>
        <tbody><tr v-for="row in differing" :key="row.label"><th scope="row">{{ row.label }}</th><td>{{ row.here }}</td><td>{{ row.there }}</td></tr></tbody>
      </table>
      <p class="quiet small">{{ differing.length === 0 ? 'Both are made with the same.' : `The same in both: ${same.join(', ')}.` }}</p>
    </template>
  </section>
</template>

<style scoped>
.comparison { margin-top: 18px; } label { display: inline-flex; gap: 8px; align-items: center; font-size: 14px; } table { border-collapse: collapse; margin: 10px 0 4px; } th, td { padding: 4px 24px 4px 0; text-align: start; border-bottom: 1px solid var(--hair); font-weight: 400; } thead th { font-weight: 600; } tbody th { color: var(--soft); } p { margin: 4px 0; }
</style>
