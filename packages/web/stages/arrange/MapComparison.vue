<script setup lang="ts">
import { compareMaps, type ComparedEntry, type MapEntry } from '@ukiyo/core/arranging';
import { readItem } from '@ukiyo/core/library';
import type { Element } from '@ukiyo/core/markup';
import { computed, ref, shallowRef, watch } from 'vue';
import ItemSelect from '../../parts/ItemSelect.vue';
import { useItems } from '../../parts/items.ts';
import type { Entries } from './useEntries.ts';
import { useFailure } from '../../parts/attempts.ts';

/** The open map beside another one. */
const { root, id, entries } = defineProps<{ root: Element; id: string; entries: Entries }>();
const items = useItems();
const against = ref('');
const other = shallowRef<Element>();
const { failure, attempt } = useFailure();
const onlyDifferent = ref(false);
watch(against, async (wanted) => {
  other.value = undefined;
  if (wanted === '') return;
  await attempt(async () => {
    const item = await items.read(wanted);
    other.value = readItem(wanted, 'map', item.text).root;
  });
});
const rows = computed(() =>
  other.value
    ? compareMaps(root, other.value).filter(({ how }) => !onlyDifferent.value || how !== 'same')
    : [],
);
const words: Readonly<Record<ComparedEntry['how'], string>> = {
  same: '',
  'only-one': 'only here',
  'only-other': 'only there',
  moved: 'stands elsewhere',
  changed: 'is other here',
};
const inset = (entry: MapEntry | undefined): string => `${10 + (entry?.depth ?? 0) * 18}px`;
</script>

<template>
  <section class="comparison" aria-label="Beside another map">
    <div class="row">
      <ItemSelect
        v-model:chosen="against"
        class="other"
        label="The other map"
        none="Choose a map"
        :among="{ kind: 'map' }"
        :except="id"
      />
      <n-checkbox v-model:checked="onlyDifferent" class="only" size="small">
        only what differs
      </n-checkbox>
      <span v-if="other" class="quiet small" role="status">
        {{ rows.filter(({ how }) => how !== 'same').length }} differences
      </span>
    </div>
    <p v-if="failure" class="seal-text" role="alert">{{ failure }}</p>
    <table v-if="other" aria-label="Two maps">
      <thead>
        <tr>
          <th scope="col">This map</th>
          <th scope="col"></th>
          <th scope="col">{{ items.find(against)?.title }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="({ one, other: there, how }, index) in rows" :key="index" :class="how">
          <td :style="{ paddingLeft: inset(one) }">{{ one ? entries.titleOf(one) : '' }}</td>
          <td class="small quiet">{{ words[how] }}</td>
          <td :style="{ paddingLeft: inset(there) }">{{ there ? entries.titleOf(there) : '' }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.other {
  width: 320px;
}
.only {
  white-space: nowrap;
}
.comparison {
  flex: 1;
  overflow: auto;
  padding-bottom: 40px;
}
.row {
  display: flex;
  gap: 14px;
  align-items: center;
  padding-bottom: 10px;
}
table {
  width: 100%;
  border-collapse: collapse;
  background: var(--sheet);
}
th,
td {
  padding: 4px 10px;
  border-bottom: 1px solid var(--hair);
  text-align: left;
  font-weight: 400;
}
th {
  color: var(--soft);
  font-size: 13px;
}
.only-one td:first-child,
.only-other td:last-child {
  background: color-mix(in srgb, var(--pine) 12%, transparent);
}
.moved td:first-child,
.moved td:last-child,
.changed td:first-child,
.changed td:last-child {
  background: color-mix(in srgb, var(--amber) 12%, transparent);
}
</style>
