<script setup lang="ts">
import type { Edition, Lens } from '@ukiyo/contracts';
import { computed, ref } from 'vue';
import PickOne from '../../parts/PickOne.vue';
import { settingsOf } from './settings.ts';
import { useNames } from './useNames.ts';

/** The settings of two editions side by side; equal settings are listed in one line. */
const { edition, editions, lenses } = defineProps<{
  edition: Edition;
  editions: readonly Edition[];
  lenses: readonly Lens[];
}>();
const names = useNames(
  () => editions,
  () => lenses,
);
const chosen = ref('');
const other = computed(() => editions.find(({ id }) => id === chosen.value));
const options = computed(() => [
  { value: '', label: 'another edition …' },
  ...editions
    .filter(({ id }) => id !== edition.id)
    .map(({ id, name }) => ({ value: id, label: name })),
]);
const settingsByLabel = (one: Edition): Map<string, string> =>
  new Map(
    settingsOf(one, names)
      .filter(({ name }) => name !== 'name')
      .map(({ label, value }) => [label, value]),
  );
const rows = computed(() => {
  if (!other.value) return [];
  const [here, there] = [settingsByLabel(edition), settingsByLabel(other.value)];
  return [...new Set([...here.keys(), ...there.keys()])].map((label) => ({
    label,
    here: here.get(label) ?? '–',
    there: there.get(label) ?? '–',
  }));
});
const differing = computed(() => rows.value.filter(({ here, there }) => here !== there));
const same = computed(() =>
  rows.value
    .filter(({ here, there }) => here === there && here !== '–')
    .map(({ label }) => label.toLowerCase()),
);
</script>

<template>
  <section class="comparison" aria-label="Compared with another edition">
    <label>
      Compare with
      <PickOne v-model:chosen="chosen" label="Compare with" :options="options" />
    </label>
    <template v-if="other">
      <table v-if="differing.length > 0">
        <thead>
          <tr>
            <td />
            <th scope="col">{{ edition.name }}</th>
            <th scope="col">{{ other.name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in differing" :key="row.label">
            <th scope="row">{{ row.label }}</th>
            <td>{{ row.here }}</td>
            <td>{{ row.there }}</td>
          </tr>
        </tbody>
      </table>
      <p class="quiet small">
        {{
          differing.length === 0
            ? 'Both are made with the same.'
            : `The same in both: ${same.join(', ')}.`
        }}
      </p>
    </template>
  </section>
</template>

<style scoped>
.comparison {
  margin-top: 18px;
}
label {
  display: inline-flex;
  gap: 8px;
  align-items: center;
  font-size: 14px;
}
table {
  border-collapse: collapse;
  margin: 10px 0 4px;
}
th,
td {
  padding: 4px 24px 4px 0;
  text-align: start;
  border-bottom: 1px solid var(--hair);
  font-weight: 400;
}
thead th {
  font-weight: 600;
}
tbody th {
  color: var(--soft);
}
p {
  margin: 4px 0;
}
</style>
