<script setup lang="ts">
import type { useDesignActs } from './useDesignActs.ts';

/** Undo, and what is done with the whole of what is being changed. */
const { acts, canUndo, mayChange } = defineProps<{
  acts: ReturnType<typeof useDesignActs>;
  canUndo: boolean;
  mayChange: boolean;
}>();
const emit = defineEmits<{ undo: [] }>();
</script>

<template>
  <div v-if="acts.kept.value" class="acts">
    <n-button size="small" :disabled="!canUndo" @click="emit('undo')">Undo</n-button>
    <n-button v-if="mayChange" size="small" @click="acts.copy">Copy</n-button>
    <n-button size="small" @click="acts.give">Save as file</n-button>
    <label v-if="mayChange" class="file">
      <input type="file" accept="application/json,.json" @change="acts.take" />
      From a file …
    </label>
    <n-button v-if="mayChange && acts.kept.value.version > 0" size="small" @click="acts.reset">
      {{ acts.kept.value.ships ? 'As it ships' : 'Remove' }}
    </n-button>
  </div>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-bottom: 12px;
  align-items: center;
}
.file {
  display: inline-flex;
  align-items: center;
  height: 28px;
  padding: 0 10px;
  border: 1px solid var(--hair);
  border-radius: 4px;
  font-size: 14px;
  cursor: pointer;
}
.file:focus-within {
  outline: 2px solid var(--prussian);
}
.file input {
  position: absolute;
  opacity: 0;
  width: 1px;
  height: 1px;
}
</style>
