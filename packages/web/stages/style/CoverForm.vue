<script setup lang="ts">
import {
  coverGrid,
  pageFields,
  paperSize,
  styleRoles,
  type CoverPart,
  type PagePlan,
  type StyleSheet,
} from '@ukiyo/core/styles';
import { computed, ref } from 'vue';
import PickOne from '../../parts/PickOne.vue';
import FieldChip from './FieldChip.vue';
import { fieldChoices, newField } from './pageField.ts';
import { coverParts, type CoverSide } from './useCoverParts.ts';

/** A cover on a grid, to scale: its parts are pulled where they go, or put there by figures. */
const { plan, side, sheet, disabled } = defineProps<{
  plan: PagePlan;
  side: CoverSide;
  sheet: StyleSheet | undefined;
  disabled: boolean;
}>();
const emit = defineEmits<{ change: [(plan: PagePlan) => PagePlan] }>();
const does = computed(() => coverParts(side));
const parts = computed(() => plan.coverParts[side]);
const paper = computed(() => paperSize(plan));
const unit = computed(() => ({
  x: paper.value.width / coverGrid,
  y: paper.value.height / coverGrid,
}));
const lines = Array.from({ length: coverGrid - 1 }, (_, at) => at + 1);
const drawing = ref<SVGSVGElement>();
const chosen = ref(0);
const describe = (part: CoverPart): string =>
  `${nameOf(part)}: column ${part.column + 1}, row ${part.row + 1}, ` +
  `${part.columns} wide, ${part.rows} high`;
const nameOf = ({ shows }: CoverPart): string =>
  shows.field === 'ground'
    ? 'Ground'
    : shows.field === 'text'
      ? shows.words
      : shows.field === 'variable'
        ? shows.key || 'Variable'
        : pageFields[shows.field];
const colours = computed(() =>
  Object.keys(sheet?.colours ?? {}).map((name) => ({ value: name, label: name })),
);
/** Of letters; that of their style where none is chosen. */
const letterColours = computed(() => [
  { value: '', label: 'its colour' },
  { value: 'paper', label: 'paper' },
  ...colours.value,
]);
const fillOf = ({ shows }: CoverPart): string =>
  shows.field === 'ground' ? (sheet?.colours[shows.colour] ?? '#ffffff') : 'none';
const styles = styleRoles
  .filter(({ family }) => family === 'block')
  .map(({ id, label }) => ({ value: id, label }));
const stands = [
  { value: 'start', label: 'left' },
  { value: 'centre', label: 'middle' },
  { value: 'end', label: 'right' },
];
const figures = ['column', 'row', 'columns', 'rows'] as const;
const choices = [
  { value: '', label: 'Put on …' },
  { value: 'ground', label: 'A ground' },
  ...fieldChoices,
];
function add(name: string): void {
  if (name === '') return;
  chosen.value = parts.value.length;
  emit(
    'change',
    does.value.add(name === 'ground' ? { field: 'ground', colour: 'accent' } : newField(name)),
  );
}
/** Pulls a part, or the corner by which it grows, from square to square. */
function pull(down: PointerEvent, at: number, grows: boolean): void {
  const box = drawing.value?.getBoundingClientRect();
  const part = parts.value[at];
  chosen.value = at;
  if (disabled || !box || !part || !(down.currentTarget instanceof Element)) return;
  const target = down.currentTarget;
  target.setPointerCapture(down.pointerId);
  const move = (event: Event): void => {
    const { clientX, clientY } = event as PointerEvent;
    const x = Math.round(((clientX - down.clientX) / box.width) * coverGrid);
    const y = Math.round(((clientY - down.clientY) / box.height) * coverGrid);
    emit(
      'change',
      does.value.set(
        at,
        grows
          ? { columns: part.columns + x, rows: part.rows + y }
          : { column: part.column + x, row: part.row + y },
      ),
    );
  };
  target.addEventListener('pointermove', move);
  target.addEventListener('pointerup', () => target.removeEventListener('pointermove', move), {
    once: true,
  });
}
function nudge(event: KeyboardEvent, at: number): void {
  const [x, y] = (
    { ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowDown: [0, 1], ArrowUp: [0, -1] } as const
  )[event.key] ?? [0, 0];
  const part = parts.value[at];
  if (disabled || !part || (x === 0 && y === 0)) return;
  event.preventDefault();
  emit(
    'change',
    does.value.set(
      at,
      event.shiftKey
        ? { columns: part.columns + x, rows: part.rows + y }
        : { column: part.column + x, row: part.row + y },
    ),
  );
}
</script>

<template>
  <div class="cover">
    <svg
      ref="drawing"
      :viewBox="`0 0 ${paper.width} ${paper.height}`"
      role="group"
      :aria-label="side === 'front' ? 'The cover, to scale' : 'The back, to scale'"
    >
      <rect class="paper" :width="paper.width" :height="paper.height" />
      <path
        class="grid"
        :d="
          lines
            .map((at) => `M${at * unit.x} 0V${paper.height}M0 ${at * unit.y}H${paper.width}`)
            .join('')
        "
      />
      <g
        v-for="(part, at) in parts"
        :key="at"
        class="part"
        :class="{ on: at === chosen }"
        :tabindex="disabled ? -1 : 0"
        role="button"
        :aria-label="describe(part)"
        @pointerdown="pull($event, at, false)"
        @focus="chosen = at"
        @keydown="nudge($event, at)"
      >
        <rect
          :x="part.column * unit.x"
          :y="part.row * unit.y"
          :width="part.columns * unit.x"
          :height="part.rows * unit.y"
          :fill="fillOf(part)"
        />
        <text
          v-if="part.shows.field !== 'ground'"
          :x="
            part.column * unit.x +
            (part.stands === 'start'
              ? 3
              : part.stands === 'end'
                ? part.columns * unit.x - 3
                : (part.columns * unit.x) / 2)
          "
          :y="part.row * unit.y + 10"
          :text-anchor="
            part.stands === 'start' ? 'start' : part.stands === 'end' ? 'end' : 'middle'
          "
        >
          {{ nameOf(part) }}
        </text>
        <circle
          v-if="at === chosen && !disabled"
          class="corner"
          :cx="(part.column + part.columns) * unit.x"
          :cy="(part.row + part.rows) * unit.y"
          r="5"
          @pointerdown.stop="pull($event, at, true)"
        />
      </g>
    </svg>
    <div class="list">
      <select
        class="add"
        :aria-label="side === 'front' ? 'Put on the cover' : 'Put on the back'"
        :disabled="disabled"
        @change="
          add(($event.target as HTMLSelectElement).value);
          ($event.target as HTMLSelectElement).value = '';
        "
      >
        <option v-for="choice in choices" :key="choice.value" :value="choice.value">
          {{ choice.label }}
        </option>
      </select>
      <div
        v-for="(part, at) in parts"
        :key="at"
        class="one"
        :class="{ on: at === chosen }"
        @focusin="chosen = at"
      >
        <div class="row">
          <template v-if="part.shows.field === 'ground'">
            <span>Ground</span>
            <PickOne
              :chosen="part.shows.colour"
              label="Colour of the ground"
              :options="colours"
              :disabled="disabled"
              @update:chosen="
                (colour) => emit('change', does.set(at, { shows: { field: 'ground', colour } }))
              "
            />
          </template>
          <FieldChip
            v-else
            :field="part.shows"
            :label="`Part ${at + 1}`"
            :disabled="disabled"
            @change="emit('change', does.set(at, { shows: $event }))"
          />
          <span class="gap" />
          <button
            type="button"
            class="plain"
            :aria-label="`Put part ${at + 1} further down`"
            :disabled="disabled || at === 0"
            @click="emit('change', does.move(at, -1))"
          >
            ↓
          </button>
          <button
            type="button"
            class="plain"
            :aria-label="`Put part ${at + 1} further up`"
            :disabled="disabled || at === parts.length - 1"
            @click="emit('change', does.move(at, 1))"
          >
            ↑
          </button>
          <button
            type="button"
            class="plain"
            :aria-label="`Take part ${at + 1} off`"
            :disabled="disabled"
            @click="emit('change', does.remove(at))"
          >
            ×
          </button>
        </div>
        <div class="row tight">
          <template v-if="part.shows.field !== 'ground'">
            <PickOne
              :chosen="part.style"
              :label="`Part ${at + 1}: style`"
              :options="styles"
              :disabled="disabled"
              @update:chosen="(style) => emit('change', does.set(at, { style }))"
            />
            <PickOne
              :chosen="part.stands"
              :label="`Part ${at + 1}: stands`"
              :options="stands"
              :disabled="disabled"
              @update:chosen="
                (one) => emit('change', does.set(at, { stands: one as CoverPart['stands'] }))
              "
            />
            <PickOne
              :chosen="part.colour"
              :label="`Part ${at + 1}: colour`"
              :options="letterColours"
              :disabled="disabled"
              @update:chosen="(colour) => emit('change', does.set(at, { colour }))"
            />
          </template>
          <label v-for="figure in figures" :key="figure" class="figure">
            {{ { column: 'from', row: 'down', columns: 'wide', rows: 'high' }[figure] }}
            <input
              type="number"
              :min="figure === 'column' || figure === 'row' ? 0 : 1"
              :max="coverGrid"
              :value="part[figure]"
              :disabled="disabled"
              @change="
                emit(
                  'change',
                  does.set(at, { [figure]: Number(($event.target as HTMLInputElement).value) }),
                )
              "
            />
          </label>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.cover {
  display: grid;
  grid-template-columns: 170px minmax(0, 1fr);
  gap: 14px;
  align-items: start;
}
svg {
  width: 100%;
  touch-action: none;
  overflow: visible;
}
.paper {
  fill: #fff;
  stroke: var(--hair);
}
.grid {
  stroke: var(--hair);
  stroke-width: 0.4;
  opacity: 0.7;
  fill: none;
}
.part {
  cursor: move;
  outline: none;
}
.part rect {
  stroke: var(--prussian);
  stroke-width: 0.6;
  pointer-events: all;
}
.part.on rect,
.part:focus-visible rect {
  stroke-width: 1.8;
}
.part text {
  font: 9px var(--font-text);
  fill: var(--prussian);
  pointer-events: none;
  stroke: #fff;
  stroke-width: 1.6px;
  paint-order: stroke;
}
.corner {
  fill: var(--prussian);
  cursor: nwse-resize;
}
.list {
  display: grid;
  gap: 6px;
  justify-items: start;
}
.one {
  display: grid;
  gap: 4px;
  width: 100%;
  padding: 5px 6px;
  border-left: 3px solid transparent;
}
.one.on {
  border-left-color: var(--prussian);
  background: var(--paper-deep);
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}
.tight :deep(select) {
  max-width: 150px;
}
.gap {
  flex: 1;
}
.row button {
  min-width: 24px;
  min-height: 24px;
}
.figure {
  display: inline-flex;
  gap: 3px;
  align-items: center;
  font-size: 12px;
  color: var(--soft);
}
.figure input {
  width: 36px;
  padding: 0 2px;
  height: 24px;
  border: 1px solid var(--hair);
  border-radius: 3px;
  background: var(--sheet);
  color: var(--ink);
}
.add {
  height: 28px;
  border: 1px solid var(--hair);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  font: 400 13px var(--font-text);
}
</style>
