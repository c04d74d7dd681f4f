<script setup lang="ts">
import { pageGeometry, toMillimetres, type PagePlan } from '@ukiyo/core/styles';
import { computed, ref } from 'vue';

/**
 * A left and a right page to scale; edges of the text and of the margin column are pulled, by hand
 * or by arrow keys.
 */
const { plan, disabled } = defineProps<{ plan: PagePlan; disabled: boolean }>();
const emit = defineEmits<{ change: [(plan: PagePlan) => PagePlan] }>();
type Edge = 'top' | 'bottom' | 'inner' | 'outer' | 'column';
const drawing = ref<SVGSVGElement>();
const geometry = computed(() => pageGeometry(plan));
const fold = 6;
const pages = computed(() => {
  const { width, text, column } = geometry.value;
  const page = (side: 'left' | 'right', x: number) => ({
    side,
    x,
    text: x + text[side],
    column: column && x + column[side],
  });
  return [page('left', 0), page('right', width + fold)];
});
/** The baseline grid, from the first line of the text, which hangs a little below its edge. */
const lines = computed(() => {
  const step = plan.baseline === null ? 0 : toMillimetres(plan.baseline);
  const { top, height } = geometry.value.text;
  return step < leastStep
    ? undefined
    : Array.from(
        { length: Math.max(0, Math.floor((height - firstLine) / step) + 1) },
        (_, at) => top + firstLine + at * step,
      );
});
const leastStep = 2;
const firstLine = 2.7;
const right = computed(() => pages.value[1]!);
const lengthOf = (edge: Edge): number =>
  toMillimetres(edge === 'column' ? (plan.marginColumn?.width ?? '0mm') : plan.margins[edge]);
/** Where one pulls, on the right page; and whether pulling to the right or down makes it larger. */
const handles = computed(() => {
  const { text, column, height, width } = geometry.value;
  const { x } = right.value;
  const middle = text.top + text.height / 2;
  const columnX = column && x + column.right + (column.right > text.right ? 0 : column.width);
  return [
    {
      edge: 'top' as const,
      label: 'Top margin',
      x: x + text.right + text.width / 2,
      y: text.top,
      grows: 1,
      upright: true,
    },
    {
      edge: 'bottom' as const,
      label: 'Bottom margin',
      x: x + text.right + text.width / 2,
      y: text.top + text.height,
      grows: -1,
      upright: true,
    },
    {
      edge: 'inner' as const,
      label: plan.mirrored ? 'Inner margin' : 'Left margin',
      x: x + toMillimetres(plan.margins.inner),
      y: middle,
      grows: 1,
      upright: false,
    },
    {
      edge: 'outer' as const,
      label: plan.mirrored ? 'Outer margin' : 'Right margin',
      x: x + width - toMillimetres(plan.margins.outer),
      y: middle,
      grows: -1,
      upright: false,
    },
    ...(column && columnX !== undefined
      ? [
          {
            edge: 'column' as const,
            label: 'Width of the margin column',
            x: columnX,
            y: height * 0.25,
            grows: column.right > text.right ? -1 : 1,
            upright: false,
          },
        ]
      : []),
  ];
});
function set(edge: Edge, millimetres: number): void {
  const length = `${Math.max(0, Math.round(millimetres * 2) / 2)}mm`;
  emit('change', (now) =>
    edge === 'column'
      ? { ...now, marginColumn: now.marginColumn && { ...now.marginColumn, width: length } }
      : { ...now, margins: { ...now.margins, [edge]: length } },
  );
}
function pull(down: PointerEvent, { edge, grows, upright }: (typeof handles.value)[number]): void {
  const box = drawing.value?.getBoundingClientRect();
  if (disabled || !box || !(down.currentTarget instanceof Element)) return;
  const target = down.currentTarget;
  target.setPointerCapture(down.pointerId);
  const scale = (geometry.value.width * 2 + fold) / box.width;
  const start = lengthOf(edge);
  const move = (event: Event): void => {
    const { clientX, clientY } = event as PointerEvent;
    set(edge, start + grows * scale * (upright ? clientY - down.clientY : clientX - down.clientX));
  };
  target.addEventListener('pointermove', move);
  target.addEventListener('pointerup', () => target.removeEventListener('pointermove', move), {
    once: true,
  });
}
function nudge(
  event: KeyboardEvent,
  { edge, grows, upright }: (typeof handles.value)[number],
): void {
  const direction =
    {
      ArrowRight: upright ? 0 : 1,
      ArrowLeft: upright ? 0 : -1,
      ArrowDown: upright ? 1 : 0,
      ArrowUp: upright ? -1 : 0,
    }[event.key] ?? 0;
  if (direction === 0 || disabled) return;
  event.preventDefault();
  set(edge, lengthOf(edge) + direction * grows * (event.shiftKey ? 5 : 0.5));
}
</script>

<template>
  <svg
    ref="drawing"
    class="spread"
    :viewBox="`-2 -2 ${geometry.width * 2 + fold + 4} ${geometry.height + 4}`"
    role="group"
    aria-label="The page plan, to scale"
  >
    <g v-for="page in pages" :key="page.side">
      <rect class="paper" :x="page.x" y="0" :width="geometry.width" :height="geometry.height" />
      <rect
        class="text"
        :x="page.text"
        :y="geometry.text.top"
        :width="geometry.text.width"
        :height="Math.max(0, geometry.text.height)"
      />
      <path
        v-if="lines"
        class="lines"
        :d="lines.map((y) => `M${page.text} ${y}h${geometry.text.width}`).join('')"
      />
      <rect
        v-if="geometry.column && page.column !== undefined"
        class="column"
        :x="page.column"
        :y="geometry.text.top"
        :width="geometry.column.width"
        :height="Math.max(0, geometry.text.height)"
      />
      <text class="side" :x="page.x + geometry.width / 2" :y="geometry.height - 4">
        {{ page.side === 'left' ? 'left' : 'right' }}
      </text>
    </g>
    <g
      v-for="handle in handles"
      :key="handle.edge"
      class="handle"
      :class="{ upright: handle.upright }"
      role="slider"
      :tabindex="disabled ? -1 : 0"
      :aria-label="handle.label"
      :aria-valuenow="lengthOf(handle.edge)"
      aria-valuemin="0"
      :aria-valuemax="geometry.width"
      :aria-valuetext="`${lengthOf(handle.edge)} mm`"
      @pointerdown="pull($event, handle)"
      @keydown="nudge($event, handle)"
    >
      <rect
        :x="handle.x - (handle.upright ? 14 : 3)"
        :y="handle.y - (handle.upright ? 3 : 14)"
        :width="handle.upright ? 28 : 6"
        :height="handle.upright ? 6 : 28"
        rx="3"
      />
      <title>{{ handle.label }}: {{ lengthOf(handle.edge) }} mm</title>
    </g>
  </svg>
</template>

<style scoped>
.spread {
  width: 100%;
  max-height: 260px;
  touch-action: none;
}
.paper {
  fill: #fff;
  stroke: var(--hair);
  stroke-width: 0.6;
}
.text {
  fill: var(--wash);
  stroke: var(--prussian);
  stroke-width: 0.5;
}
.lines {
  stroke: var(--prussian);
  stroke-width: 0.2;
  opacity: 0.55;
}
.column {
  fill: none;
  stroke: var(--prussian);
  stroke-width: 0.5;
  stroke-dasharray: 2 2;
}
.side {
  font: 6px var(--font-text);
  fill: var(--faint);
  text-anchor: middle;
}
.handle rect {
  fill: var(--prussian);
  opacity: 0.75;
  cursor: ew-resize;
}
.handle.upright rect {
  cursor: ns-resize;
}
.handle:hover rect,
.handle:focus-visible rect {
  opacity: 1;
}
.handle:focus-visible {
  outline: 2px solid var(--prussian);
  outline-offset: 2px;
}
</style>
