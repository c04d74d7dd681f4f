<script setup lang="ts">
import { tagsOf, valuesOn, withValues } from '@ukiyo/core/facets';
import type { Attributes } from '@ukiyo/core/markup';
import { shallowRef } from 'vue';
import FacetChooser from '../editor/FacetChooser.vue';
import type { PopPlace } from '../editor/popList.ts';
import FacetBadge from './FacetBadge.vue';
import { useLibrary } from './library.ts';

/** For whom something is: its facet values, and a way to choose others. */
const { label, words = 'Only for …' } = defineProps<{
  /** What the facet values are set on. */ label: string;
  words?: string;
  disabled?: boolean;
}>();
const conditions = defineModel<Attributes>('conditions', { required: true });
const library = useLibrary();
const asked = shallowRef<PopPlace>();
/** As wide and as high as the list is at most. */
const room = 400;
function ask(event: MouseEvent): void {
  const { left, top, bottom } = (event.currentTarget as HTMLElement).getBoundingClientRect();
  const vertical =
    window.innerHeight - bottom > room
      ? { top: bottom + 4 }
      : { bottom: window.innerHeight - top + 4 };
  asked.value = { left: Math.min(left, window.innerWidth - room), ...vertical };
}
function toggle(facet: string, value: string): void {
  const set = valuesOn(conditions.value, facet);
  conditions.value = {
    ...withValues(
      conditions.value,
      facet,
      set.includes(value) ? set.filter((one) => one !== value) : [...set, value],
    ),
  };
}
</script>

<template>
  <span class="only-for">
    <FacetBadge
      v-for="tag in tagsOf(conditions, library.facets)"
      :key="`${tag.facet} ${tag.value}`"
      :tag="tag"
    />
    <n-button size="tiny" :disabled="disabled" @click="ask">{{ words }}</n-button>
    <FacetChooser
      v-if="asked"
      :place="asked"
      :label="label"
      :wider="undefined"
      :values-of="(facet) => valuesOn(conditions, facet)"
      :facets="library.facets"
      @toggle="toggle"
      @close="asked = undefined"
    />
  </span>
</template>

<style scoped>
.only-for {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  flex-wrap: wrap;
}
</style>
