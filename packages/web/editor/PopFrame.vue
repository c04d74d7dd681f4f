<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { ref } from 'vue';
import type { PopPlace } from './popList.ts';

/** A small paper at the caret; goes with Escape and with a click beside it. */
const { label, place } = defineProps<{ label: string; place: PopPlace }>();
const emit = defineEmits<{ close: [] }>();
const frame = ref<HTMLElement>();
const px = (value: number | undefined): string => (value === undefined ? 'auto' : `${value}px`);
// Only what begins after it has appeared: the double click that opens it ends beside it.
useEventListener(
  document,
  'pointerdown',
  ({ target }) => target instanceof Node && !frame.value?.contains(target) && emit('close'),
  { capture: true },
);
</script>

<template>
  <div
    ref="frame"
    class="frame"
    role="dialog"
    :aria-label="label"
    :style="{ left: px(place.left), top: px(place.top), bottom: px(place.bottom) }"
    @keydown.esc.prevent.stop="emit('close')"
  >
    <h2>{{ label }}</h2>
    <slot />
  </div>
</template>

<style scoped>
.frame {
  position: fixed;
  z-index: 50;
  width: 380px;
  padding: 10px 14px 12px;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 4px;
  box-shadow: 0 8px 28px rgb(20 26 40 / 24%);
}
h2 {
  font: 400 13px var(--font-title);
  color: var(--prussian);
  margin-bottom: 8px;
}
</style>
