<script setup lang="ts">
import { computed, onMounted } from 'vue';
import { useSources } from '../../parts/sources.ts';

/** Above the page of a topic that comes from a linked source: from which file. */
const { topic } = defineProps<{ topic: string }>();
const sources = useSources();
const file = computed(() => sources.fileOf(topic));
// Without an answer nothing is said of it.
onMounted(() => sources.ensure().catch(() => undefined));
</script>

<template>
  <p v-if="file" class="outside small">
    Written outside, in
    <code>{{ file.path }}</code>
    of
    <router-link :to="{ name: 'sources', params: { id: file.folder } }">
      {{ file.folder }}
    </router-link>
    · What you change here stays; the next change outside then waits for somebody to say which
    holds.
  </p>
</template>

<style scoped>
.outside {
  max-width: 656px;
  margin: 0 auto 8px;
  padding: 6px 10px;
  color: var(--soft);
  background: var(--sheet);
  border-left: 3px solid var(--hair);
}
</style>
