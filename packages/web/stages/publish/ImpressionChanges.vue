<script setup lang="ts">
import type { ImpressionComparison } from '@ukiyo/contracts';
import { computed } from 'vue';

/** Which pages came, went or were changed since another impression, with the words. */
const { comparison } = defineProps<{ comparison: ImpressionComparison }>();
const words = { added: 'new', removed: 'gone', changed: 'changed' } as const;
const counts = computed(() =>
  (['added', 'removed', 'changed'] as const)
    .map((how) => ({ how, count: comparison.pages.filter((page) => page.how === how).length }))
    .filter(({ count }) => count > 0),
);
</script>

<template>
  <section class="changes" :aria-label="`Changes since number ${comparison.earlier}`">
    <h3>
      Since number {{ comparison.earlier }}:
      {{
        counts.length === 0
          ? 'no words are otherwise'
          : counts.map(({ how, count }) => `${count} ${words[how]}`).join(', ')
      }}
    </h3>
    <details v-for="page in comparison.pages" :key="page.anchor">
      <summary>
        <span class="how" :class="page.how">{{ words[page.how] }}</span>
        {{ page.title }}
      </summary>
      <p class="text">
        <component
          :is="part.kind === 'gone' ? 'del' : part.kind === 'new' ? 'ins' : 'span'"
          v-for="(part, at) in page.parts"
          :key="at"
        >
          {{ part.text }}
        </component>
      </p>
    </details>
  </section>
</template>

<style scoped>
.changes {
  margin: 6px 0 0 42px;
}
h3 {
  margin: 8px 0 4px;
  font: 600 14px var(--font-text);
}
summary {
  cursor: pointer;
  padding: 3px 0;
}
.how {
  display: inline-block;
  min-width: 64px;
  font-size: 13px;
  color: var(--soft);
}
.how.added {
  color: var(--pine);
}
.how.removed {
  color: var(--seal);
}
.text {
  max-height: 320px;
  overflow: auto;
  margin: 2px 0 8px 18px;
  max-width: 70ch;
  white-space: pre-line;
}
ins {
  color: var(--pine);
}
del {
  color: var(--seal);
}
</style>
