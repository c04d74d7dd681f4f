<script setup lang="ts">
import type { Path } from '@ukiyo/core/problems';
import { computed, nextTick, ref, watch } from 'vue';
import { placeAround, placeAt } from './places.ts';
import type { WholeManual } from './useWholeManual.ts';
import NumberInput from '../parts/NumberInput.vue';

/**
 * A whole manual as it is printed: the page one is at between its neighbours, to turn pages and to
 * be led back to the text.
 */
const { manual, label, at } = defineProps<{
  manual: WholeManual;
  label: string;
  at?: Path | undefined;
}>();
const emit = defineEmits<{ point: [Path] }>();
const page = ref(manual.proof.first);
const zoom = ref(1);
const count = computed(() => manual.proof.sheets.length);
/** The page and those beside it. */
const shown = computed(() =>
  [page.value - 1, page.value, page.value + 1].filter((one) => one >= 1 && one <= count.value),
);
const turn = (to: number): void => void (page.value = Math.min(count.value, Math.max(1, to)));
watch(
  () => manual.proof,
  (proof, before) => {
    // A place that was chosen by hand stays in sight.
    if (page.value >= before.first && page.value <= before.last)
      turn(proof.first + Math.min(page.value - before.first, proof.last - proof.first));
    else turn(page.value);
  },
);
const mark = computed(() => at && placeAround(manual.proof.places, at));
watch(mark, (one) => one && turn(one.page));
const isOfTopic = (one: number): boolean =>
  manual.proof.places.length > 0 && one >= manual.proof.first && one <= manual.proof.last;
const pointsHigh = (one: number): number =>
  ((manual.proof.sheets[one - 1]?.height ?? 1) * 72) / 25.4;
function ratioOf(one: number): string {
  const { width, height } = manual.proof.sheets[one - 1]!;
  return `${width} / ${height}`;
}
const nameOf = (one: number): string => manual.proof.shown[one - 1] || String(one);

/** By the numbers of their pages. */
const canvases = new Map<number, HTMLCanvasElement>();
function keep(one: number, canvas: unknown): void {
  if (canvas instanceof HTMLCanvasElement) canvases.set(one, canvas);
  else canvases.delete(one);
}
const frame = ref<HTMLElement>();
watch(
  [shown, () => manual.file, zoom],
  async () => {
    await nextTick();
    await Promise.all([...canvases].map(([one, canvas]) => manual.file.draw(one, canvas)));
    const current = canvases.get(page.value)?.parentElement;
    if (current && frame.value && !isPlaced)
      frame.value.scrollTo({ top: current.offsetTop - frame.value.offsetTop - 24 });
    isPlaced = true;
  },
  { immediate: true },
);
let isPlaced = false;
watch(page, () => (isPlaced = false), { flush: 'sync' });
function go(event: MouseEvent, one: number): void {
  if (!(event.currentTarget instanceof Element)) return;
  const box = event.currentTarget.getBoundingClientRect();
  const found =
    isOfTopic(one) &&
    placeAt(manual.proof.places, one, ((event.clientY - box.top) / box.height) * pointsHigh(one));
  if (found) emit('point', found.path);
  else turn(one);
}
function key(event: KeyboardEvent): void {
  const by = { PageDown: 1, PageUp: -1 }[event.key];
  const to = by !== undefined ? page.value + by : { Home: 1, End: count.value }[event.key];
  if (to === undefined) return;
  event.preventDefault();
  turn(to);
}
</script>

<template>
  <section class="whole" :aria-label="`${label}: the whole manual`">
    <div class="acts">
      <slot />
      <span class="gap" />
      <button
        type="button"
        class="plain"
        aria-label="Page before"
        :disabled="page <= 1"
        @click="turn(page - 1)"
      >
        ‹
      </button>
      <label class="of">
        <NumberInput label="Page" :value="page" :min="1" :max="count" @change="turn" />
        of {{ count }}
      </label>
      <button
        type="button"
        class="plain"
        aria-label="Page after"
        :disabled="page >= count"
        @click="turn(page + 1)"
      >
        ›
      </button>
      <button
        v-if="manual.proof.places.length > 0"
        type="button"
        class="plain wide"
        :disabled="isOfTopic(page)"
        @click="turn(manual.proof.first)"
      >
        to the topic
      </button>
      <button
        type="button"
        class="plain"
        aria-label="Smaller"
        :disabled="zoom <= 1"
        @click="zoom = Math.max(1, zoom - 0.5)"
      >
        −
      </button>
      <button
        type="button"
        class="plain"
        aria-label="Larger"
        :disabled="zoom >= 3"
        @click="zoom = Math.min(3, zoom + 0.5)"
      >
        +
      </button>
    </div>
    <div
      ref="frame"
      class="pages"
      tabindex="0"
      role="group"
      :aria-label="`${label}: pages`"
      @keydown="key"
    >
      <div
        v-for="one in shown"
        :key="one"
        class="leaf"
        :class="{ beside: one !== page, leads: isOfTopic(one) }"
        role="img"
        :aria-label="`Page ${nameOf(one)}, ${one} of ${count}`"
        :style="{
          width: `${zoom * 100}%`,
          aspectRatio: ratioOf(one),
        }"
        @click="go($event, one)"
      >
        <span
          v-if="mark && mark.page === one"
          class="mark"
          :style="{ top: `${(mark.y / pointsHigh(one)) * 100}%` }"
        />
        <canvas :ref="(canvas) => keep(one, canvas)" />
      </div>
    </div>
  </section>
</template>

<style scoped>
.whole {
  display: flex;
  flex-direction: column;
  min-height: 0;
  height: 100%;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 5px;
  padding: 6px 12px;
  font-size: 13px;
  color: var(--soft);
}
.gap {
  flex: 1;
}
.acts button {
  width: 28px;
  min-height: 28px;
  padding: 0;
  text-align: center;
  border: 1px solid var(--hair);
  border-radius: 4px;
}
.acts .wide {
  width: auto;
  padding: 0 8px;
}
.of .n-input-number {
  width: 52px;
}
.pages {
  flex: 1;
  overflow: auto;
  padding: 4px 12px 20px;
  background: var(--paper-deep);
}
.leaf {
  position: relative;
  background: #fff;
  margin: 8px 0;
  box-shadow: 0 1px 5px rgb(20 30 50 / 22%);
  cursor: pointer;
}
.beside {
  opacity: 0.62;
}
.mark {
  position: absolute;
  z-index: 1;
  left: 0;
  width: 4px;
  height: 16px;
  background: var(--prussian);
  border-radius: 0 2px 2px 0;
}
canvas {
  width: 100%;
  height: 100%;
  display: block;
}
</style>
