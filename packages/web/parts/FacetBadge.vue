<script setup lang="ts">
import type { FacetTag } from '@ukiyo/core/facets';

/** A facet value by its letters, in its colour. */
const { tag } = defineProps<{ tag: FacetTag }>();
</script>

<template>
  <span class="facet-badge" :style="{ '--pigment': `var(--${tag.pigment})` }" :title="tag.label">
    {{ tag.letters }}
  </span>
</template>

<style scoped>
.facet-badge {
  display: inline-block;
  min-width: 26px;
  padding: 0 5px;
  border: 1px solid var(--pigment);
  border-radius: 3px;
  text-align: center;
  font: 600 12px/18px var(--font-text);
  color: var(--pigment);
  background: color-mix(in srgb, var(--pigment) 10%, transparent);
}
</style>
