<script setup lang="ts">
import type { Proof } from '@ukiyo/contracts';
import type { Path } from '@ukiyo/core/problems';
import { computed, ref, watch } from 'vue';
import DrawnPage from './DrawnPage.vue';
import { placeAround, placeAt, type ProofPlace } from './places.ts';

/** Pages as the page engine draws them, as wide as there is room, or larger. */
const {
  proof,
  label,
  busy,
  at,
  apart = [],
} = defineProps<{
  proof: Proof;
  label: string;
  busy: boolean;
  /** What is being written, to be shown on the page. */ at?: Path | undefined;
  /** What is otherwise beside it. */ apart?: readonly ProofPlace[];
}>();
const emit = defineEmits<{ point: [Path] }>();
const zoom = ref(1);
const pages = computed(() =>
  proof.pages.map((drawn, index) => ({
    index,
    drawn,
    ratio: `${drawn.width} / ${drawn.height}`,
    points: (drawn.height * 72) / 25.4,
  })),
);
/** Nearest above a point of a page: that is what stands there. */
function go(event: MouseEvent, page: (typeof pages.value)[number]): void {
  if (!(event.currentTarget instanceof Element)) return;
  const box = event.currentTarget.getBoundingClientRect();
  const found = placeAt(
    proof.places,
    page.index + 1,
    ((event.clientY - box.top) / box.height) * page.points,
  );
  if (found) emit('point', found.path);
}
/** Where what is being written begins. */
const mark = computed(() => at && placeAround(proof.places, at));
const pointsOf = (page: number): number => pages.value[page - 1]?.points ?? 1;
/** Places that are otherwise beside it, each down to where the next one begins. */
const bands = computed(() =>
  apart.map((place) => {
    const next = proof.places.find(({ page, y }) => page === place.page && y > place.y + 1);
    return {
      page: place.page,
      top: `${(place.y / pointsOf(place.page)) * 100}%`,
      height: `${(((next?.y ?? place.y + 14) - place.y) / pointsOf(place.page)) * 100}%`,
    };
  }),
);
const leaves = ref<HTMLElement[]>([]);
watch(
  mark,
  (one) => {
    const leaf = one && leaves.value[one.page - 1];
    const frame = leaf?.parentElement;
    if (!one || !leaf || !frame) return;
    const top = leaf.offsetTop - frame.offsetTop + (one.y / pointsOf(one.page)) * leaf.offsetHeight;
    if (top < frame.scrollTop || top > frame.scrollTop + frame.clientHeight - 40)
      frame.scrollTo({ top: top - frame.clientHeight / 3 });
  },
  { flush: 'post' },
);
</script>

<template>
  <section class="proof" :aria-label="label" :aria-busy="busy">
    <div class="acts">
      <slot />
      <span class="gap" />
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
    <div class="pages" tabindex="0" role="group" :aria-label="`${label}: pages`">
      <div
        v-for="page in pages"
        :key="page.index"
        ref="leaves"
        class="leaf"
        :class="{ leads: proof.places.length > 0 }"
        role="img"
        :aria-label="`Page ${page.index + 1} of ${pages.length}`"
        :style="{ width: `${zoom * 100}%`, aspectRatio: page.ratio }"
        @click="go($event, page)"
      >
        <span
          v-for="(band, index) in bands.filter((one) => one.page === page.index + 1)"
          :key="index"
          class="apart"
          title="Said otherwise in another edition here"
          :style="{ top: band.top, height: band.height }"
        />
        <span
          v-if="mark && mark.page === page.index + 1"
          class="mark"
          :style="{ top: `${(mark.y / page.points) * 100}%` }"
        />
        <DrawnPage :page="page.drawn" :shapes="proof.shapes" />
      </div>
    </div>
  </section>
</template>

<style scoped>
.proof {
  display: flex;
  flex-direction: column;
  min-height: 0;
  height: 100%;
}
.acts {
  display: flex;
  align-items: center;
  gap: 8px;
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
.pages {
  flex: 1;
  overflow: auto;
  padding: 4px 12px 20px;
  background: var(--paper-deep);
}
.leaf {
  position: relative;
  overflow: hidden;
  background: #fff;
  margin: 8px 0;
  box-shadow: 0 1px 5px rgb(20 30 50 / 22%);
}
.leads {
  cursor: pointer;
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
.apart {
  position: absolute;
  z-index: 1;
  left: 0;
  right: 0;
  background: rgb(214 158 46 / 22%);
  border-left: 4px solid #b7791f;
}
</style>
