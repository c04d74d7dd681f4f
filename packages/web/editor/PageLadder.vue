<script setup lang="ts">
import type { EditorView } from 'prosemirror-view';
import { onUnmounted, ref, watch } from 'vue';
import type { OpenElement } from '@ukiyo/core/editing';

const { view, open, drawn } = defineProps<{ view: EditorView | undefined; open: readonly OpenElement[]; drawn: number }>();
const emit = defineEmits<{ select: [OpenElement] }>();

interface Rung {
  readonly element: OpenElement;
  readonly top: number;
  readonly height: number;
  readonly left: number;
  readonly isLast: boolean;
}
const rungs = ref<readonly Rung[]>([]);
const step = 8;

/** One rung for each open element, as high as the element is on the page, nested from left to right. */
function draw(): void {
  const page = view?.dom.closest('.page');
  if (!view || !page) return;
  const origin = page.getBoundingClientRect().top;
  let labelled = -99;
  // Named words stand in a line: they have no rung of their own.
  const blocks = open.filter(({ end }) => end === undefined);
  const next = blocks.flatMap((element, index) => {
    const dom = view.nodeDOM(element.position);
    if (!(dom instanceof HTMLElement)) return [];
    const box = dom.getBoundingClientRect();
    const top = Math.max(box.top - origin, labelled + 16);
    labelled = top;
    return [{ element, top, height: Math.max(16, box.bottom - origin - top), left: 8 + Math.min(index, 5) * step, isLast: index === blocks.length - 1 }];
  });
  if (JSON.stringify(next) !== JSON.stringify(rungs.value)) rungs.value = next;
}
let frame = 0;
/** With the frame: where things are is known then without being worked out once more. */
function drawSoon(): void {
  cancelAnimationFrame(frame);
  frame = requestAnimationFrame(draw);
}
watch(() => [open, view, drawn] as const, drawSoon, { immediate: true });
onUnmounted(() => cancelAnimationFrame(frame));
</script>

<template>
  <div class="ladder" aria-hidden="true">
    <button v-for="rung in rungs" :key="rung.element.position" type="button" tabindex="-1" class="rung" :class="{ last: rung.isLast }" :style="{ top: `${rung.top}px`, height: `${rung.height}px`, left: `${rung.left}px`, width: `${88 - rung.left}px` }" @mousedown.prevent="emit('select', rung.element)"><span>{{ rung.element.label }}</span></button>
  </div>
</template>

<style scoped>
.ladder { position: absolute; inset: 0 auto 0 0; width: 90px; pointer-events: none; }
.rung { position: absolute; border: 0; border-left: 1.5px solid var(--hair); background: none; padding: 0 0 0 4px; text-align: left; pointer-events: none; overflow: visible; } .rung span { position: absolute; top: -3px; left: 4px; max-width: calc(100% - 4px); overflow: hidden; text-overflow: ellipsis; white-space: nowrap; font: 500 12px var(--font-text); color: var(--faint); background: var(--sheet); pointer-events: auto; cursor: pointer; padding-right: 2px; } .rung.last { border-color: var(--prussian); } .rung.last span { color: var(--prussian); }
</style>
