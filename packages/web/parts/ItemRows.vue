<script setup lang="ts">
import { useVirtualList } from '@vueuse/core';
import { watch } from 'vue';
import type { ItemList } from './itemList.ts';
import { useItems } from './items.ts';

/** The rows of a list of items that are in sight; the others are neither drawn nor asked for. */
const { list, rowHeight, label } = defineProps<{
  list: ItemList;
  /** Pixels. */
  rowHeight: number;
  label: string;
}>();
const items = useItems();
const {
  list: rows,
  containerProps,
  wrapperProps,
} = useVirtualList(list.ids, { itemHeight: rowHeight, overscan: 16 });
watch(rows, (now) => {
  if (now.length > 0) list.show(now[0]!.index, now.at(-1)!.index);
});
</script>

<template>
  <div v-bind="containerProps" tabindex="-1">
    <ul v-bind="wrapperProps" :aria-label="label" :aria-busy="!list.isCurrent.value">
      <li
        v-for="{ data: id, index } in rows"
        :key="id ?? index"
        :style="{ height: `${rowHeight}px` }"
        :aria-setsize="list.total.value"
        :aria-posinset="index + 1"
      >
        <slot v-if="id !== undefined && items.find(id)" :item="items.find(id)!" />
      </li>
    </ul>
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
</style>
