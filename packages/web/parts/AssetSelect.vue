<script setup lang="ts">
import { computed, ref } from 'vue';
import { useAssetList } from './assetList.ts';
import { useAssets } from './assets.ts';
import FoundSelect from './FoundSelect.vue';
import type { AssetListQuery } from './listAddress.ts';

/** One image of the library, or one that ships, found by words of its name. */
const { label, among, none, disabled, except, shipped } = defineProps<{
  label: string;
  /** What can be chosen. */
  among: Pick<AssetListQuery, 'media' | 'alternates'>;
  /** What no choice is called; without it there has to be one. */
  none?: string;
  disabled?: boolean;
  /** The ID of an image that cannot be chosen. */
  except?: string;
  /** What can be chosen besides; no value of it begins with `asset:`. */
  shipped?: readonly { readonly value: string; readonly label: string }[];
}>();
/** The value of one that ships, or `asset:` and an ID; `''` for none. */
const chosen = defineModel<string>('chosen', { required: true });
const scheme = 'asset:';
const assets = useAssets();
const words = ref('');
const isOpen = ref(false);
const list = useAssetList(() => (isOpen.value ? { ...among, name: words.value } : undefined));
const nameOf = (value: string): string =>
  (value.startsWith(scheme)
    ? assets.find(value.slice(scheme.length))?.name
    : shipped?.find((one) => one.value === value)?.label) ?? value;
const fits = ({ label: name }: { readonly label: string }): boolean =>
  name.toLowerCase().includes(words.value.trim().toLowerCase());
// What matched earlier words must not be chosen with Enter.
const options = computed(() =>
  list.isCurrent.value
    ? [
        ...(shipped ?? []).filter(fits),
        ...list.rows.value
          .filter(({ id }) => id !== except)
          .map(({ id, name }) => ({ value: scheme + id, label: name })),
      ]
    : [],
);
</script>

<template>
  <FoundSelect
    v-model:chosen="chosen"
    v-model:words="words"
    v-model:is-open="isOpen"
    :label="label"
    :none="none"
    :disabled="disabled"
    :options="options"
    :is-loading="isOpen && !list.isCurrent.value"
    :name-of="nameOf"
  />
</template>
