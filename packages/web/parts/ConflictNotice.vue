<script setup lang="ts">
/** Another person saved the open document; both versions are kept until one is chosen. */
const emit = defineEmits<{ mine: []; theirs: [] }>();
</script>

<template>
  <div class="conflict" role="alert">
    <span><slot /></span>
    <n-button size="small" type="primary" @click="emit('mine')">Save mine over it</n-button>
    <n-button size="small" @click="emit('theirs')">Show theirs</n-button>
  </div>
</template>

<style scoped>
.conflict {
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
.conflict > span {
  flex: 1 1 260px;
}
</style>
