<script setup lang="ts">
import { useInfiniteScroll } from '@vueuse/core';
import { ref } from 'vue';
import type { useAssetList } from '../../parts/assetList.ts';
import ImageCard from './ImageCard.vue';

/** The images of a list; more of them are requested when the end comes near. */
const { list } = defineProps<{ list: ReturnType<typeof useAssetList>; libraryIsEmpty: boolean }>();
/** Requested at once, and how many pixels before the end. */
const next = 100;
const near = 600;
const grid = ref<HTMLElement>();
useInfiniteScroll(grid, () => list.show(0, list.rows.value.length + next - 1), {
  distance: near,
  canLoadMore: () => list.rows.value.length < list.total.value,
});
</script>

<template>
  <p v-if="list.isCurrent.value && list.total.value === 0" class="empty quiet">
    {{
      libraryIsEmpty
        ? 'The library has no images yet. Upload the first one.'
        : 'No image has these words in its name. Clear the filter to see all images.'
    }}
  </p>
  <ul v-else ref="grid">
    <ImageCard v-for="asset in list.rows.value" :key="asset.id" :asset="asset" />
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0 0 20px;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 16px;
  overflow: auto;
}
.empty {
  padding: 40px;
  text-align: center;
}
</style>
