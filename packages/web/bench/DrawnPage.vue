<script setup lang="ts">
import type { Proof } from '@ukiyo/contracts';
import { ref, watch } from 'vue';
import { drawPage } from './drawnPage.ts';

/** One page as the page engine draws it; of the next one only what is new is drawn again. */
const { page, shapes } = defineProps<{ page: Proof['pages'][number]; shapes: Proof['shapes'] }>();
const drawing = ref<SVGSVGElement>();
watch([() => page, drawing], () => drawing.value && drawPage(drawing.value, page.pieces, shapes), {
  flush: 'post',
});
const points = (millimetres: number): number => (millimetres * 72) / 25.4;
</script>

<template>
  <svg
    ref="drawing"
    class="drawn"
    :viewBox="`0 0 ${points(page.width)} ${points(page.height)}`"
    aria-hidden="true"
  />
</template>

<style scoped>
.drawn {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  contain: strict;
}
</style>
