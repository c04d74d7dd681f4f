<script setup lang="ts">
import { computed, ref } from 'vue';
import FoundSelect from './FoundSelect.vue';
import { useItemList } from './itemList.ts';
import type { ListQuery } from './listAddress.ts';
import { useItems } from './items.ts';

/** One topic or map of the library, found by words of its title. */
const { label, among, none, disabled, except } = defineProps<{
  label: string;
  /** What can be chosen. */
  among: Pick<ListQuery, 'kind'>;
  /** What no choice is called; without it there has to be one. */
  none?: string;
  disabled?: boolean;
  /** The ID of an item that cannot be chosen. */
  except?: string;
}>();
/** Its ID; `''` for none. */
const chosen = defineModel<string>('chosen', { required: true });
const items = useItems();
const words = ref('');
const isOpen = ref(false);
const list = useItemList(() => (isOpen.value ? { ...among, title: words.value } : undefined));
const nameOf = (id: string): string => items.find(id)?.title || id;
// What matched earlier words must not be chosen with Enter.
const options = computed(() =>
  list.isCurrent.value
    ? list.rows.value
        .filter(({ id }) => id !== except)
        .map(({ id, title }) => ({ value: id, label: title || id }))
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
