<script setup lang="ts">
import type { MapContents } from './useContents.ts';

/** The contents as an edition numbers them. */
const { contents } = defineProps<{ contents: MapContents }>();
const { contents: found, failure } = contents;
</script>

<template>
  <section aria-label="Contents as numbered">
    <p v-if="failure" class="seal-text small" role="alert">{{ failure }}</p>
    <p v-else-if="contents.chosen.value === ''" class="quiet small">
      No edition is made of this map. Choose one above to see how it is numbered.
    </p>
    <p v-else-if="!found" class="quiet small" role="status">Composing …</p>
    <ol v-else>
      <li
        v-for="(place, index) in found.places.filter(({ inContents }) => inContents)"
        :key="index"
        :style="{ paddingLeft: `${Math.max(0, place.level - 1) * 14}px` }"
        :class="{ top: place.level <= 1 }"
      >
        <span class="number">{{ place.number ?? '' }}</span>
        <router-link v-if="place.item" :to="{ name: 'write', params: { id: place.item } }">
          {{ place.label }}
        </router-link>
        <span v-else>{{ place.label }}</span>
      </li>
    </ol>
  </section>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 44px minmax(0, 1fr);
  padding: 2px 0;
  font-size: 14px;
}
.top {
  font-weight: 600;
  padding-top: 6px;
}
.number {
  color: var(--prussian);
  font-weight: 400;
  font-variant-numeric: tabular-nums;
}
a {
  color: var(--ink);
  text-decoration: none;
}
a:hover {
  text-decoration: underline;
}
</style>
