<script setup lang="ts">
import { computed, ref } from 'vue';
import { useLibrary } from '../parts/library.ts';
import PopList from './PopList.vue';
import type { PopItem, PopPlace } from './popList.ts';

/** Chooses an image of the library, or a file that becomes one. */
const { place } = defineProps<{ place: PopPlace }>();
const emit = defineEmits<{ choose: [reference: string]; file: []; close: [] }>();
const library = useLibrary();
const query = ref('');
const most = 60;
const fileKey = 'file';

const items = computed((): PopItem[] => [
  ...library.assets
    .filter(({ name, mediaType }) => mediaType.startsWith('image/') && name.toLowerCase().includes(query.value.trim().toLowerCase()))
    .slice(0, most)
    .map(({ id, name, width, height }): PopItem => ({ key: `asset:${id}`, label: name, aside: width === null || height === null ? '' : `${Math.round(width)} × ${Math.round(height)}`, image: library.assetAddress(id) })),
  { key: fileKey, label: 'A file from this computer …', aside: 'joins the library' },
]);
function choose({ key }: PopItem): void {
  if (key === fileKey) emit('file');
  else emit('choose', key);
}
</script>

<template>
  <PopList v-model:query="query" label="Which image" :items="items" :place="place" empty="No image by that name." @choose="choose" @close="emit('close')" />
</template>
