<script setup lang="ts">
import { useClipboard } from '@vueuse/core';

/**
 * Text that could not be saved, because another person removed the passage that it belongs to. It
 * is shown, so that it is not lost.
 */
const words = defineModel<string>('words', { required: true });
const { copy, copied } = useClipboard();
</script>

<template>
  <div v-if="words !== ''" class="lost" role="alert">
    <span>
      Another person changed the passage that you were editing. This text could not be saved:
    </span>
    <blockquote>{{ words }}</blockquote>
    <n-button size="small" type="primary" @click="copy(words)">
      {{ copied ? 'Copied' : 'Copy text' }}
    </n-button>
    <n-button size="small" @click="words = ''">Discard text</n-button>
  </div>
</template>

<style scoped>
.lost {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  max-width: 760px;
  margin: 0 auto 12px;
  padding: 10px 14px;
  background: var(--sheet);
  border: 1px solid var(--seal);
  border-radius: 4px;
}
blockquote {
  margin: 0;
  flex: 1 0 100%;
  white-space: pre-wrap;
  font: italic 400 15px var(--font-title);
  max-height: 120px;
  overflow: auto;
}
</style>
