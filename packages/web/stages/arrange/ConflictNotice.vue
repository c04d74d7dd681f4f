<script setup lang="ts">
import type { Item } from '@ukiyo/contracts';

/** Shown when somebody else saved what is open here: both texts are safe until one is chosen. */
const { conflict } = defineProps<{ conflict: Item | undefined }>();
const emit = defineEmits<{ mine: []; theirs: [] }>();
</script>

<template>
  <div v-if="conflict" class="conflict" role="alert">
    <span>
      {{ conflict.updatedBy }} saved this {{ conflict.kind }} after you opened it. Yours is still on
      the page.
    </span>
    <n-button size="small" type="primary" @click="emit('mine')">Save mine over it</n-button>
    <n-button size="small" @click="emit('theirs')">Show theirs</n-button>
  </div>
</template>

<style scoped>
.conflict {
  display: flex;
  gap: 10px;
  align-items: center;
  max-width: 760px;
  margin: 0 auto 12px;
  padding: 10px 14px;
  background: var(--sheet);
  border: 1px solid var(--seal);
  border-radius: 4px;
}
</style>
