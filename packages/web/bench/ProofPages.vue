<script setup lang="ts">
import type { Proof } from '@ukiyo/contracts';
import type { Path } from '@ukiyo/core/problems';
import { computed, onBeforeUnmount, ref, watch } from 'vue';

/** Pages as the page engine draws them, one below the other, as wide as there is room, or larger. */
const { proof, label, busy, at } = defineProps<{ proof: Proof; label: string; busy: boolean; /** What is being written, to be shown on the page. */ at?: Path | undefined }>();
const emit = defineEmits<{ point: [Path] }>();
const zoom = ref(1);
const address = ref('');
watch(
  () => proof.svg,
  (svg) => {
    const before = address.value;
    address.value = svg === '' ? '' : URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
    // What is on the screen is let go once the next one is there.
    if (before !== '') setTimeout(() => URL.revokeObjectURL(before), 2000);
  },
  { immediate: true },
);
onBeforeUnmount(() => address.value !== '' && URL.revokeObjectURL(address.value));

/** Each page is a window onto the one image of all. */
const pages = computed(() => Array.from({ length: proof.pageCount - proof.skip }, (_, index) => ({ index, top: `${-(index + proof.skip) * 100}%` })));
const pointsHigh = computed(() => (proof.paper.height * 72) / 25.4);
/** Nearest above a point of a page: that is what stands there. */
function go(event: MouseEvent, page: number): void {
  if (!(event.currentTarget instanceof Element)) return;
  const box = event.currentTarget.getBoundingClientRect();
  const y = ((event.clientY - box.top) / box.height) * pointsHigh.value;
  const found = proof.places.findLast((place) => place.page < page + 1 || (place.page === page + 1 && place.y <= y)) ?? proof.places[0];
  if (found) emit('point', found.path);
}
/** Where what is being written, or what is nearest around it, begins. */
const mark = computed(() => {
  if (!at) return undefined;
  const around = proof.places.filter(({ path }) => path.length <= at.length && path.every((index, depth) => index === at[depth]));
  return around.toSorted((a, b) => b.path.length - a.path.length)[0];
});
const leaves = ref<HTMLElement[]>([]);
watch(mark, (one) => {
  const leaf = one && leaves.value[one.page - 1];
  const frame = leaf?.parentElement;
  if (!one || !leaf || !frame) return;
  const top = leaf.offsetTop - frame.offsetTop + (one.y / pointsHigh.value) * leaf.offsetHeight;
  if (top < frame.scrollTop || top > frame.scrollTop + frame.clientHeight - 40) frame.scrollTo({ top: top - frame.clientHeight / 3 });
}, { flush: 'post' });
</script>

<template>
  <section class="proof" :aria-label="label" :aria-busy="busy">
    <div class="acts">
      <slot />
      <span class="gap" />
      <button type="button" class="plain" aria-label="Smaller" :disabled="zoom <= 1" @click="zoom = Math.max(1, zoom - 0.5)">−</button>
      <button type="button" class="plain" aria-label="Larger" :disabled="zoom >= 3" @click="zoom = Math.min(3, zoom + 0.5)">+</button>
    </div>
    <div class="pages" tabindex="0" role="group" :aria-label="`${label}: pages`">
      <div v-for="page in pages" :key="page.index" ref="leaves" class="leaf" :class="{ leads: proof.places.length > 0 }" role="img" :aria-label="`Page ${page.index + 1} of ${pages.length}`" :style="{ width: `${zoom * 100}%`, aspectRatio: `${proof.paper.width} / ${proof.paper.height}` }" @click="go($event, page.index)"><span v-if="mark && mark.page === page.index + 1" class="mark" :style="{ top: `${(mark.y / pointsHigh) * 100}%` }" /><img :src="address" alt="" :style="{ top: page.top, height: `${proof.pageCount * 100}%` }" /></div>
    </div>
  </section>
</template>

<style scoped>
.proof { display: flex; flex-direction: column; min-height: 0; height: 100%; } .acts { display: flex; align-items: center; gap: 8px; padding: 6px 12px; font-size: 13px; color: var(--soft); } .gap { flex: 1; } .acts button { width: 28px; min-height: 28px; padding: 0; text-align: center; border: 1px solid var(--hair); border-radius: 4px; } .pages { flex: 1; overflow: auto; padding: 4px 12px 20px; background: var(--paper-deep); } .leaf { position: relative; overflow: hidden; background: #fff; margin: 8px 0; box-shadow: 0 1px 5px rgb(20 30 50 / 22%); } .leads { cursor: pointer; } .mark { position: absolute; z-index: 1; left: 0; width: 4px; height: 16px; background: var(--prussian); border-radius: 0 2px 2px 0; } img { position: absolute; left: 0; width: 100%; }
</style>
