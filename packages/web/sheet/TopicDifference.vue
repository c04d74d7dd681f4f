<script setup lang="ts">
import { throughLens, type Lens } from '@ukiyo/core/facets';
import { differingBlocks, readItem, type BlockDifference } from '@ukiyo/core/library';
import { onMounted, shallowRef } from 'vue';
import { useLibrary } from '../parts/library.ts';
import ChangedWords from '../parts/ChangedWords.vue';
import { useFailure } from '../parts/attempts.ts';

/** What two texts say differently, block by block. */
const { label, before, after, lens } = defineProps<{
  label: string;
  before: () => Promise<string>;
  after: () => Promise<string>;
  /** As those get both who look through it. */ lens?: Lens | undefined;
}>();
const library = useLibrary();
const differences = shallowRef<readonly BlockDifference[]>();
const { failure, attempt } = useFailure();
onMounted(() =>
  attempt(async () => {
    const [one, other] = (await Promise.all([before(), after()])).map((text) => {
      const { root } = readItem('', 'topic', text);
      return root && (throughLens(root, lens, library.facets) ?? { ...root, children: [] });
    });
    differences.value = one && other ? differingBlocks(one, other) : [];
  }),
);
</script>

<template>
  <div v-if="differences" class="difference" role="region" :aria-label="label">
    <p v-if="differences.length === 0" class="quiet">It says the same.</p>
    <div v-for="(one, index) in differences" :key="index" class="block">
      <span class="quiet small">{{ one.label }}</span>
      <ChangedWords :words="one.after" :against="one.before" />
    </div>
  </div>
  <p v-else-if="failure" class="seal-text" role="alert">{{ failure }}</p>
</template>

<style scoped>
.difference {
  max-height: 300px;
  overflow: auto;
  padding: 8px 12px;
  margin: 4px 0 8px;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 4px;
}
.block {
  padding: 2px 0 6px;
}
</style>
