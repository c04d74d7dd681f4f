<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core';
import type { EditorView } from 'prosemirror-view';
import { onUnmounted, ref, watch } from 'vue';
import { dropPlaces, type OpenElement } from '@ukiyo/core/editing';

const { view, open, drawn } = defineProps<{
  view: EditorView | undefined;
  open: readonly OpenElement[];
  drawn: number;
}>();
const emit = defineEmits<{ select: [OpenElement]; move: [from: number, to: number] }>();

interface Rung {
  readonly element: OpenElement;
  readonly top: number;
  readonly height: number;
  readonly left: number;
  readonly isLast: boolean;
}
const rungs = ref<readonly Rung[]>([]);
const step = 8;

/**
 * One rung for each open element, as high as the element is on the page, nested from left to right.
 */
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
    return [
      {
        element,
        top,
        height: Math.max(16, box.bottom - origin - top),
        left: 8 + Math.min(index, 5) * step,
        isLast: index === blocks.length - 1,
      },
    ];
  });
  if (JSON.stringify(next) !== JSON.stringify(rungs.value)) rungs.value = next;
}
let frame = 0;
/** With the frame: where things are is known then without being worked out once more. */
function drawSoon(): void {
  cancelAnimationFrame(frame);
  frame = requestAnimationFrame(draw);
}
/** Where what is being dragged would go: a place in the text, and how far down it lies. */
const drop = ref<{ to: number; top: number }>();
const threshold = 4;

/** How far down a place between two elements lies. */
function heightOf(editor: EditorView, to: number): number {
  const { nodeBefore, nodeAfter } = editor.state.doc.resolve(to);
  const after = nodeAfter ? editor.nodeDOM(to) : null;
  if (after instanceof HTMLElement) return after.getBoundingClientRect().top;
  const before = nodeBefore ? editor.nodeDOM(to - nodeBefore.nodeSize) : null;
  return before instanceof HTMLElement
    ? before.getBoundingClientRect().bottom
    : editor.coordsAtPos(to).top;
}
/** A rung that is pulled takes its element along; one that is only pressed is selected. */
function grab(rung: Rung, down: PointerEvent): void {
  const editor = view;
  const page = editor?.dom.closest('.page');
  if (!editor || !page || down.button !== 0) return;
  let isPulled = false;
  const move = (event: PointerEvent): void => {
    isPulled ||= Math.abs(event.clientY - down.clientY) > threshold;
    if (!isPulled || !editor.editable) return;
    const inside = editor.dom.getBoundingClientRect();
    const at = editor.posAtCoords({ left: inside.left + 40, top: event.clientY })?.pos;
    const places =
      at === undefined
        ? []
        : dropPlaces(editor.state, rung.element.position, at).map((to) => ({
            to,
            top: heightOf(editor, to),
          }));
    const nearest = places.reduce<(typeof places)[number] | undefined>(
      (best, place) =>
        best && Math.abs(best.top - event.clientY) <= Math.abs(place.top - event.clientY)
          ? best
          : place,
      undefined,
    );
    drop.value = nearest && { to: nearest.to, top: nearest.top - page.getBoundingClientRect().top };
  };
  const end = (event: PointerEvent): void => {
    window.removeEventListener('pointermove', move);
    const place = drop.value;
    drop.value = undefined;
    if (event.type === 'pointercancel') return;
    if (place) emit('move', rung.element.position, place.to);
    else if (!isPulled) emit('select', rung.element);
  };
  window.addEventListener('pointermove', move);
  window.addEventListener('pointerup', end, { once: true });
  window.addEventListener('pointercancel', end, { once: true });
}
watch(() => [open, view, drawn] as const, drawSoon, { immediate: true });
// Also when the page is shown again, or an image in it has come.
useResizeObserver(() => view?.dom, drawSoon);
onUnmounted(() => cancelAnimationFrame(frame));
</script>

<template>
  <div class="ladder" aria-hidden="true">
    <button
      v-for="rung in rungs"
      :key="rung.element.position"
      type="button"
      tabindex="-1"
      class="rung"
      :class="{ last: rung.isLast }"
      :style="{
        top: `${rung.top}px`,
        height: `${rung.height}px`,
        left: `${rung.left}px`,
        width: `${88 - rung.left}px`,
      }"
      @mousedown.prevent
      @pointerdown="grab(rung, $event)"
    >
      <span>{{ rung.element.label }}</span>
    </button>
    <div v-if="drop" class="drop" :style="{ top: `${drop.top}px` }" />
  </div>
</template>

<style scoped>
.drop {
  position: absolute;
  left: 92px;
  width: min(560px, 80vw);
  border-top: 2px solid var(--prussian);
}
.ladder {
  position: absolute;
  inset: 0 auto 0 0;
  width: 90px;
  pointer-events: none;
}
.rung {
  position: absolute;
  border: 0;
  border-left: 1.5px solid var(--hair);
  background: none;
  padding: 0 0 0 4px;
  text-align: left;
  pointer-events: none;
  overflow: visible;
}
.rung span {
  position: absolute;
  top: -3px;
  left: 4px;
  max-width: calc(100% - 4px);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font: 500 12px var(--font-text);
  color: var(--faint);
  background: var(--sheet);
  pointer-events: auto;
  cursor: pointer;
  padding-right: 2px;
}
.rung.last {
  border-color: var(--prussian);
}
.rung.last span {
  color: var(--prussian);
}
</style>
