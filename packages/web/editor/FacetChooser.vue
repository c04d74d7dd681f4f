<script setup lang="ts">
import { allValues, type Facet } from '@ukiyo/core/facets';
import { computed, ref } from 'vue';
import PopList from './PopList.vue';
import type { PopItem, PopPlace } from './popList.ts';

/** For whom something is: values are set and taken away one after the other, until Esc. */
const { place, label, wider, valuesOf, facets } = defineProps<{
  place: PopPlace;
  label: string;
  /** What is around it, which can be asked for instead. */ wider?: string | undefined;
  valuesOf: (facet: string) => readonly string[];
  facets: readonly Facet[];
}>();
const emit = defineEmits<{ toggle: [facet: string, value: string]; wider: []; close: [] }>();
const query = ref('');
const items = computed((): PopItem[] => {
  const wanted = query.value.trim().toLowerCase();
  const values = facets.flatMap((facet) => {
    const set = valuesOf(facet.name);
    return allValues(facet.values)
      .filter(({ name, retired }) => retired !== true || set.includes(name))
      .filter((value) => `${facet.label} ${value.label}`.toLowerCase().includes(wanted))
      .map(({ name, label: words, description }): PopItem => ({
        key: JSON.stringify([facet.name, name]),
        head: facet.label,
        label: words,
        aside: set.includes(name) ? 'set' : '',
        ...(description === undefined ? {} : { help: description }),
      }));
  });
  return wider === undefined || wanted !== ''
    ? values
    : [...values, { key: around, label: wider, aside: 'Ctrl ;', head: 'Something around it' }];
});
const around = 'wider';
function toggle({ key }: PopItem): void {
  if (key === around) return emit('wider');
  const [facet, value] = JSON.parse(key) as [string, string];
  emit('toggle', facet, value);
}
</script>

<template>
  <div @keydown.ctrl="$event.key === ';' && ($event.preventDefault(), emit('wider'))">
    <PopList
      v-model:query="query"
      :label="`${label}: only for`"
      :items="items"
      :place="place"
      :empty="facets.length === 0 ? 'The project has no facets yet.' : 'No value by that name.'"
      keeps-place
      @choose="toggle"
      @close="emit('close')"
    />
  </div>
</template>
