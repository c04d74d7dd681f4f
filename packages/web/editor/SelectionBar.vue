<script setup lang="ts">
import type { Choice } from '@ukiyo/core/editing';
import type { PopPlace } from './popList.ts';

/**
 * The few choices that are wanted most, under the hand. The palette has all of them for the keys.
 */
const { label, place, choices } = defineProps<{
  label: string;
  place: PopPlace;
  choices: readonly Choice[];
}>();
const emit = defineEmits<{ choose: [Choice]; more: [] }>();
</script>

<template>
  <div
    class="selection-bar"
    role="toolbar"
    :aria-label="label"
    :style="{ left: `${place.left}px`, top: `${place.top}px` }"
  >
    <button
      v-for="choice in choices"
      :key="choice.element"
      type="button"
      :title="choice.help"
      @mousedown.prevent
      @click="emit('choose', choice)"
    >
      <span :class="`as-${choice.element}`">{{ choice.label }}</span>
    </button>
    <button
      type="button"
      title="Everything that can be done here (Ctrl Space)"
      @mousedown.prevent
      @click="emit('more')"
    >
      …
    </button>
  </div>
</template>

<style scoped>
.selection-bar {
  position: fixed;
  z-index: 45;
  display: flex;
  padding: 3px;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 4px;
  box-shadow: 0 6px 20px rgb(20 26 40 / 20%);
}
button {
  border: 0;
  background: none;
  padding: 3px 8px;
  border-radius: 3px;
  color: var(--ink);
  font: 400 13px var(--font-text);
  cursor: pointer;
  white-space: nowrap;
}
button:hover {
  background: var(--wash);
}
.as-b {
  font-weight: 700;
}
.as-i,
.as-term {
  font-style: italic;
}
.as-codeph {
  font: 400 12px var(--font-code);
}
.as-xref {
  color: var(--prussian);
  text-decoration: underline;
}
</style>
