<script setup lang="ts">
import { outlineOf, writeAreas, type Point, type Shape } from '@ukiyo/core/imagemaps';
import { childNamed, type Element } from '@ukiyo/core/markup';
import { computed, onMounted, reactive, ref } from 'vue';
import { useAssets } from '../parts/assets.ts';
import { useItems } from '../parts/items.ts';
import LinkChooser from './LinkChooser.vue';
import type { PopPlace } from './popList.ts';
import { handlesOf, moved, useAreas, type Tool } from './useAreas.ts';

/** Draws areas on an image and says where each leads. */
const { imagemap } = defineProps<{ imagemap: Element }>();
const emit = defineEmits<{ keep: [Element]; close: [] }>();
const items = useItems();
const assets = useAssets();
const assetId = (childNamed(imagemap, 'image')?.attributes['href'] ?? '').replace(/^asset:/u, '');
/** In pixels of the image; the drawing waits until they are known. */
const size = reactive({ width: 640, height: 480 });
const hasSize = ref(false);
async function measure(): Promise<void> {
  const asset = await assets.load(assetId).catch(() => undefined);
  if (asset?.width && asset.height)
    Object.assign(size, { width: asset.width, height: asset.height });
  hasSize.value = true;
}
const {
  areas,
  chosen,
  current,
  tool,
  drawing,
  overlaps,
  change,
  remove,
  addInMiddle,
  nudge,
  begin,
  draw,
  finish,
} = useAreas(imagemap, size);
const canvas = ref<SVGSVGElement>();
const dialog = ref<HTMLElement>();
const place = ref<PopPlace>();
/** The area of which is asked where it leads. */
let askedOf = -1;
onMounted(() => {
  dialog.value?.focus();
  void measure();
});

const tools: readonly { value: Tool; label: string }[] = [
  { value: 'choose', label: 'Choose' },
  { value: 'rect', label: 'Rectangle' },
  { value: 'circle', label: 'Circle' },
  { value: 'poly', label: 'Polygon' },
];
const points = (shape: Shape): string =>
  outlineOf(shape)
    .map(({ x, y }) => `${x},${y}`)
    .join(' ');
/** Handles stay as large on the screen as a hand needs, however large the image. */
const handle = computed(() => size.width / 90);
const titleOf = (target: string): string =>
  items.find(/^(?:topic|map):([^/]+)/u.exec(target)?.[1] ?? '')?.title ?? target;

function at(event: PointerEvent): Point {
  const box = canvas.value!.getBoundingClientRect();
  const inside = (value: number, most: number): number =>
    Math.round(Math.max(0, Math.min(most, value)));
  return {
    x: inside(((event.clientX - box.left) / box.width) * size.width, size.width),
    y: inside(((event.clientY - box.top) / box.height) * size.height, size.height),
  };
}
/** Follows a hand until it lets go. */
function follow(
  down: PointerEvent,
  move: (to: Point) => void,
  end: () => void = () => undefined,
): void {
  canvas.value!.setPointerCapture(down.pointerId);
  const onMove = (event: PointerEvent): void => move(at(event));
  canvas.value!.addEventListener('pointermove', onMove);
  canvas.value!.addEventListener(
    'pointerup',
    () => {
      canvas.value?.removeEventListener('pointermove', onMove);
      end();
    },
    { once: true },
  );
}
function press(event: PointerEvent): void {
  if (event.button !== 0) return;
  const start = at(event);
  const isPolygon = tool.value === 'poly';
  begin(start);
  if (drawing.value && !isPolygon) follow(event, (to) => draw(start, to), finish);
}
function grab(event: PointerEvent, index: number): void {
  if (tool.value !== 'choose') return press(event);
  chosen.value = index;
  const { shape } = areas.value[index]!;
  const start = at(event);
  follow(event, (to) => change(index, { shape: moved(shape, to.x - start.x, to.y - start.y) }));
}
function pull(event: PointerEvent, index: number): void {
  const pulled = handlesOf(current.value!.shape)[index]!;
  follow(event, (to) => change(chosen.value, { shape: pulled.pulled(to) }));
}
function onKey(event: KeyboardEvent): void {
  if (event.target instanceof HTMLInputElement) return;
  const steps: Readonly<Record<string, readonly [number, number]>> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  };
  const step = steps[event.key];
  const far = event.ctrlKey ? 10 : 2;
  if (step) nudge(step[0] * far, step[1] * far, event.shiftKey);
  else if (event.key === 'Delete' && current.value) remove(chosen.value);
  else if (event.key === 'Enter' && drawing.value) finish();
  else return;
  event.preventDefault();
}
function askTarget(event: MouseEvent): void {
  askedOf = chosen.value;
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
  place.value = {
    left: Math.min(box.left, window.innerWidth - 400),
    top: Math.min(box.bottom + 4, window.innerHeight - 400),
  };
}
function setTarget(target: string): void {
  change(askedOf, { target });
  place.value = undefined;
  dialog.value?.focus();
}
</script>

<template>
  <div class="veil">
    <div
      ref="dialog"
      class="areas"
      role="dialog"
      aria-modal="true"
      aria-label="Areas of the image"
      tabindex="-1"
      @keydown="onKey"
      @keydown.esc.stop="place ? (place = undefined) : emit('close')"
    >
      <div class="tools" role="toolbar" aria-label="Draw">
        <button
          v-for="one in tools"
          :key="one.value"
          type="button"
          :aria-pressed="tool === one.value"
          @click="tool = one.value"
          @dblclick="one.value !== 'choose' && addInMiddle(one.value)"
          @keydown.enter.prevent="
            one.value === 'choose' ? (tool = one.value) : addInMiddle(one.value)
          "
        >
          {{ one.label }}
        </button>
        <span class="quiet small">
          {{
            tool === 'poly'
              ? 'Click corner after corner; the first one, or Enter, ends it.'
              : tool === 'choose'
                ? 'Drag, or arrows; Shift and arrows change the size.'
                : 'Drag from corner to corner; Enter on the button puts one in the middle.'
          }}
        </span>
      </div>
      <div
        v-if="hasSize"
        class="picture"
        :style="{ width: `min(100%, ${Math.round((74 * size.width) / size.height)}vh)` }"
      >
        <img :src="assets.fileAddress(assetId)" alt="" />
        <svg
          ref="canvas"
          :viewBox="`0 0 ${size.width} ${size.height}`"
          preserveAspectRatio="none"
          :class="`tool-${tool}`"
          @pointerdown="press"
        >
          <polygon
            v-for="(area, index) in areas"
            :key="index"
            :points="points(area.shape)"
            :class="{ on: index === chosen, over: overlaps[index] !== undefined }"
            @pointerdown.stop="grab($event, index)"
            @dblclick="chosen = index"
          >
            <title>{{ area.tooltip || area.name }}</title>
          </polygon>
          <polygon v-if="drawing" :points="points(drawing)" class="drawing" />
          <template v-if="current && tool === 'choose'">
            <circle
              v-for="(one, index) in handlesOf(current.shape)"
              :key="index"
              :cx="one.at.x"
              :cy="one.at.y"
              :r="handle"
              class="handle"
              @pointerdown.stop="pull($event, index)"
            />
          </template>
        </svg>
      </div>
      <div class="side">
        <ul aria-label="Areas">
          <li v-for="(area, index) in areas" :key="index">
            <button
              type="button"
              class="plain one"
              :aria-current="index === chosen"
              @click="((chosen = index), (tool = 'choose'))"
            >
              <span>{{ area.name }}</span>
              <span class="quiet small">{{ titleOf(area.target) || 'leads nowhere' }}</span>
            </button>
            <span v-if="overlaps[index] !== undefined" class="small amber">
              lies over “{{ overlaps[index] }}”
            </span>
          </li>
        </ul>
        <p v-if="areas.length === 0" class="quiet small">
          No areas yet. Drag one over the part of the image that leads somewhere.
        </p>
        <div v-if="current" class="fields">
          <label class="small quiet">
            Name
            <n-input
              size="small"
              placeholder=""
              :value="current.name"
              :input-props="{ 'aria-label': 'Name of the area' }"
              @update:value="(name: string) => change(chosen, { name })"
            />
          </label>
          <label class="small quiet">
            Tooltip
            <n-input
              size="small"
              placeholder="as the name"
              :value="current.tooltip"
              :input-props="{ 'aria-label': 'Tooltip' }"
              @update:value="(tooltip: string) => change(chosen, { tooltip })"
            />
          </label>
          <span class="small quiet">Leads to</span>
          <n-button
            size="small"
            :aria-label="`Target: ${titleOf(current.target) || 'choose'}`"
            @click="askTarget"
          >
            {{ titleOf(current.target) || 'Choose …' }}
          </n-button>
          <n-checkbox
            size="small"
            :checked="current.inNewWindow"
            @update:checked="(inNewWindow: boolean) => change(chosen, { inNewWindow })"
          >
            opens in a new window
          </n-checkbox>
          <n-button size="small" @click="remove(chosen)">Remove the area</n-button>
        </div>
      </div>
      <div class="row">
        <n-button type="primary" size="small" @click="emit('keep', writeAreas(imagemap, areas))">
          Keep the areas
        </n-button>
        <n-button size="small" @click="emit('close')">Cancel</n-button>
      </div>
      <LinkChooser v-if="place" :place="place" @choose="setTarget" @close="place = undefined" />
    </div>
  </div>
</template>

<style scoped>
.veil {
  position: fixed;
  inset: 0;
  z-index: 48;
  background: rgb(20 26 40 / 30%);
  display: grid;
  place-items: center;
}
.areas {
  width: min(1080px, 94vw);
  max-height: 92vh;
  display: grid;
  grid-template: auto minmax(0, 1fr) auto / minmax(0, 1fr) 250px;
  gap: 12px 18px;
  padding: 16px 20px;
  background: var(--paper);
  border: 1px solid var(--hair);
  border-radius: 4px;
  box-shadow: 0 12px 40px rgb(20 26 40 / 28%);
  overflow: hidden;
}
.areas:focus {
  outline: none;
}
.tools {
  grid-column: 1 / -1;
  display: flex;
  gap: 4px;
  align-items: center;
}
.tools button {
  border: 0;
  background: none;
  padding: 3px 10px;
  border-radius: 3px;
  color: var(--soft);
  cursor: pointer;
}
.tools button[aria-pressed='true'] {
  background: var(--wash);
  color: var(--prussian);
}
.tools span {
  margin-left: auto;
}
.picture {
  position: relative;
  align-self: start;
  overflow: hidden;
  background: #fffdf8;
  border: 1px solid var(--hair);
  display: grid;
}
.picture img {
  grid-area: 1 / 1;
  width: 100%;
  display: block;
}
svg {
  grid-area: 1 / 1;
  width: 100%;
  height: 100%;
  touch-action: none;
  cursor: crosshair;
}
svg.tool-choose {
  cursor: default;
}
polygon {
  fill: rgb(28 69 135 / 14%);
  stroke: #1c4587;
  stroke-width: 1.5;
  vector-effect: non-scaling-stroke;
  cursor: move;
}
polygon.on {
  fill: rgb(28 69 135 / 28%);
  stroke-width: 2.5;
}
polygon.over {
  stroke: #9a5b00;
  stroke-dasharray: 5 3;
}
polygon.drawing {
  stroke-dasharray: 4 3;
  pointer-events: none;
}
.handle {
  fill: #fffdf8;
  stroke: #1c4587;
  stroke-width: 1.5;
  vector-effect: non-scaling-stroke;
  cursor: nwse-resize;
}
.side {
  display: grid;
  gap: 12px;
  align-content: start;
  overflow: auto;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  border-top: 1px solid var(--hair);
}
.one {
  display: grid;
  width: 100%;
  padding: 5px 8px;
}
.one[aria-current='true'] {
  background: var(--wash);
}
.amber {
  color: var(--amber);
  padding: 0 8px;
}
.fields {
  display: grid;
  gap: 6px;
}
.fields label {
  display: grid;
  gap: 2px;
}
.row {
  grid-column: 1 / -1;
  display: flex;
  gap: 8px;
}
</style>
