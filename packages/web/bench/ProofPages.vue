<script setup lang="ts">
import type { Proof } from '@ukiyo/contracts';
import { computed, onBeforeUnmount, ref, watch } from 'vue';

/** Pages as the page engine draws them, one below the other, as wide as there is room, or larger. */
const { proof, label, busy } = defineProps<{ proof: Proof; label: string; busy: boolean }>();
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
      <div v-for="page in pages" :key="page.index" class="leaf" role="img" :aria-label="`Page ${page.index + 1} of ${pages.length}`" :style="{ width: `${zoom * 100}%`, aspectRatio: `${proof.paper.width} / ${proof.paper.height}` }"><img :src="address" alt="" :style="{ top: page.top, height: `${proof.pageCount * 100}%` }" /></div>
    </div>
  </section>
</template>

<style scoped>
.proof { display: flex; flex-direction: column; min-height: 0; height: 100%; } .acts { display: flex; align-items: center; gap: 8px; padding: 6px 12px; font-size: 13px; color: var(--soft); } .gap { flex: 1; } .acts button { width: 28px; min-height: 28px; padding: 0; text-align: center; border: 1px solid var(--hair); border-radius: 4px; } .pages { flex: 1; overflow: auto; padding: 4px 12px 20px; background: var(--paper-deep); } .leaf { position: relative; overflow: hidden; background: #fff; margin: 8px 0; box-shadow: 0 1px 5px rgb(20 30 50 / 22%); } img { position: absolute; left: 0; width: 100%; }
</style>
