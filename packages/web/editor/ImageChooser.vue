<script setup lang="ts">
import { useMessage } from 'naive-ui';
import { computed, ref } from 'vue';
import { messageOf } from '../parts/api.ts';
import { useAssetList } from '../parts/assetList.ts';
import { useAssets } from '../parts/assets.ts';
import PopList from './PopList.vue';
import type { PopItem, PopPlace } from './popList.ts';
import { stockImages, fetchStockImage } from './stock.ts';

/**
 * Chooses an image of the library, or one that joins it: from a file, or from the stock collection.
 */
const { place, upload } = defineProps<{
  place: PopPlace;
  upload: (file: File) => Promise<string | undefined>;
}>();
const emit = defineEmits<{ choose: [reference: string]; file: []; close: [] }>();
const assets = useAssets();
const message = useMessage();
const query = ref('');
const fileKey = 'file';
const stockKey = 'stock:';

const list = useAssetList(() => ({ media: 'image', name: query.value.trim() }));
const fits = (name: string): boolean =>
  name.toLowerCase().includes(query.value.trim().toLowerCase());
const items = computed((): PopItem[] => [
  ...list.rows.value.map(({ id, name, width, height }): PopItem => ({
    key: `asset:${id}`,
    label: name,
    aside: width === null || height === null ? '' : `${Math.round(width)} × ${Math.round(height)}`,
    image: assets.fileAddress(id),
  })),
  { key: fileKey, label: 'A file from this computer …', aside: 'joins the library' },
  ...stockImages
    .filter(({ title }) => fits(title))
    .map(({ name, title, address }): PopItem => ({
      key: `${stockKey}${name}`,
      label: title,
      image: address,
      head: 'Stock collection (a stand-in that ships with Ukiyo)',
    })),
]);
async function choose({ key }: PopItem): Promise<void> {
  const stock = stockImages.find(({ name }) => key === `${stockKey}${name}`);
  if (stock) {
    const file = await fetchStockImage(stock).catch(
      (error: unknown) => void message.error(messageOf(error)),
    );
    const reference = file && (await upload(file));
    if (reference !== undefined) emit('choose', reference);
  } else if (key === fileKey) emit('file');
  else emit('choose', key);
}
</script>

<template>
  <PopList
    v-model:query="query"
    label="Which image"
    :items="items"
    :is-loading="list.isPending.value"
    :place="place"
    empty="No image by that name."
    @choose="choose"
    @close="emit('close')"
  />
</template>
