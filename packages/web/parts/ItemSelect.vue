<script setup lang="ts">
import { computed, ref } from 'vue';
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
const options = computed(() => {
  if (isOpen.value)
    // What matched earlier words must not be chosen with Enter.
    return list.isCurrent.value
      ? list.rows.value
          .filter(({ id }) => id !== except)
          .map(({ id, title }) => ({ value: id, label: title || id }))
      : [];
  const { value } = chosen;
  return value === '' ? [] : [{ value, label: items.find(value)?.title || value }];
});
</script>

<template>
  <n-select
    size="small"
    remote
    filterable
    :clearable="none !== undefined"
    :disabled="disabled"
    :loading="isOpen && !list.isCurrent.value"
    :placeholder="none ?? ''"
    :value="chosen === '' ? null : chosen"
    :options="options"
    :fallback-option="(value: string) => ({ value, label: items.find(value)?.title || value })"
    :input-props="{ 'aria-label': label }"
    @update:show="((isOpen = $event), (words = ''))"
    @search="words = $event"
    @update:value="chosen = $event ?? ''"
  />
</template>
