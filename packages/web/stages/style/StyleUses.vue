<script setup lang="ts">
import type { StyleUses } from '@ukiyo/contracts';
import { roleOf } from '@ukiyo/core/styles';
import { computed } from 'vue';
import { useItems } from '../../parts/items.ts';

/** Where a style is used: how often, and in which topics. */
const { id, uses } = defineProps<{ id: string; uses: StyleUses | undefined }>();
const items = useItems();
const found = computed(() => uses?.uses[id]);
const topics = computed(() =>
  Object.entries(found.value?.items ?? {})
    .sort(([, a], [, b]) => b - a)
    .map(([item, count]) => ({ item, count, title: items.find(item)?.title ?? item })),
);
const summary = computed(() => {
  const uses = found.value?.count === 1 ? '1 use' : `${found.value?.count} uses`;
  const where = topics.value.length === 1 ? '1 topic' : `${topics.value.length} topics`;
  return `${uses} in ${where}`;
});
/** What maps and manuals give styles whatever they have of it. */
const general = computed(() => {
  const group = roleOf(id)?.group;
  if (group === 'Headings' && id !== 'block-heading')
    return 'Used for the chapters and sections of every map.';
  if (group === 'Front' || group === 'Contents' || group === 'Index' || group === 'Page')
    return 'Used for the parts that every manual generates.';
  return undefined;
});
</script>

<template>
  <p v-if="general" class="small quiet">{{ general }}</p>
  <p v-else-if="uses && !found" class="small quiet">No topic uses this style.</p>
  <details v-else-if="found" class="small">
    <summary>{{ summary }}</summary>
    <ul>
      <li v-for="one in topics" :key="one.item">
        <router-link :to="{ name: 'write', params: { id: one.item } }">{{ one.title }}</router-link>
        {{ ' ' }}
        <span class="quiet">{{ one.count }}</span>
      </li>
    </ul>
  </details>
</template>

<style scoped>
p {
  margin: 0 0 6px;
}
details {
  margin-bottom: 6px;
}
summary {
  cursor: pointer;
  color: var(--prussian);
}
ul {
  columns: 2;
  margin: 4px 0;
  padding-left: 18px;
  max-height: 180px;
  overflow: auto;
}
</style>
