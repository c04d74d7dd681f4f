<script setup lang="ts">
import { FrameReport, type FrameOrder } from '@ukiyo/contracts';
import { lookRules, type SiteLook } from '@ukiyo/core/styles';
import { useEventListener } from '@vueuse/core';
import { computed, ref, watch } from 'vue';

/**
 * A page of a site as readers see it on a phone, a tablet or a desk, as small as there is room for;
 * its own links and choices work.
 */
const { site, page, label, look } = defineProps<{
  /** Address of its folder, with a slash at the end. */ site: string;
  /** Path in it of the page that is shown first. */ page: string;
  label: string;
  /** Seen at once, before the site is made with it. */ look?: SiteLook | undefined;
}>();
const emit = defineEmits<{
  /** A page is there; its path in the site. */ ready: [string];
  /** A click on the element at this path. */ go: [number[]];
}>();
const widths = { phone: 390, tablet: 820, desk: 1280 } as const;
const device = defineModel<keyof typeof widths>('device', { default: 'desk' });
const room = ref<HTMLElement>();
const frame = ref<HTMLIFrameElement>();
const size = ref({ width: 600, height: 600 });
const watcher = new ResizeObserver(
  ([entry]) =>
    entry && (size.value = { width: entry.contentRect.width, height: entry.contentRect.height }),
);
watch(room, (now, before) => {
  if (before) watcher.unobserve(before);
  if (now) watcher.observe(now);
});
const share = computed(() => Math.min(1, size.value.width / widths[device.value]));
const style = computed(() => ({
  width: `${widths[device.value]}px`,
  height: `${size.value.height / share.value}px`,
  transform: `scale(${share.value})`,
}));

/**
 * The page has an origin of its own, which has no name: what is sent goes to the window in the
 * frame.
 */
const order = (message: FrameOrder): void => frame.value?.contentWindow?.postMessage(message, '*');
/** Colours and measures are other rules; the page stays where it is. */
const applyLook = (): void =>
  void (look && order({ kind: 'rules', name: 'look', css: lookRules(look) }));
watch(() => look, applyLook);
useEventListener(window, 'message', ({ source, data }: MessageEvent<unknown>) => {
  if (source !== frame.value?.contentWindow) return;
  const report = FrameReport.safeParse(data).data;
  if (report?.kind === 'go') emit('go', report.path);
  if (report?.kind === 'reloading') isReloadOwed = false;
  if (report?.kind !== 'ready') return;
  isSilent.value = false;
  hasReported = true;
  // The order can have been sent before this page listened.
  if (isReloadOwed) return order({ kind: 'reload' });
  applyLook();
  emit('ready', report.page);
});
/** Whether a reload was ordered and no page has confirmed it. */
let isReloadOwed = false;
function reload(): void {
  isReloadOwed = true;
  order({ kind: 'reload' });
}
defineExpose({ reload, order });
// Each site has a frame of its own: in one that is about to show another site, a click would lead
// on in the old one, which then stays.
watch(
  () => site,
  () => {
    isReloadOwed = false;
    hasReported = false;
  },
);

/** Whether the frame shows something else than a page of the site, such as an error. */
const isSilent = ref(false);
let hasReported = false;
function onLoad(): void {
  isSilent.value = !hasReported;
  hasReported = false;
}
function loadAgain(): void {
  isReloadOwed = false;
  if (frame.value) frame.value.src = site + page;
}
</script>

<template>
  <section class="site" :aria-label="label">
    <div class="head" role="group" aria-label="Seen on">
      <button
        v-for="(width, name) in widths"
        :key="name"
        type="button"
        :aria-pressed="device === name"
        :title="`${width} pixels wide`"
        @click="device = name"
      >
        {{ name }}
      </button>
      <slot />
    </div>
    <p v-if="isSilent" class="silent" role="alert">
      The site could not be loaded.
      <n-button size="tiny" @click="loadAgain">Load site again</n-button>
    </p>
    <div ref="room" class="room">
      <iframe
        :key="site"
        ref="frame"
        :src="site + page"
        :title="label"
        :style="style"
        @load="onLoad"
      />
    </div>
  </section>
</template>

<style scoped>
.site {
  display: flex;
  flex-direction: column;
  min-height: 0;
  height: 100%;
}
.head {
  display: flex;
  gap: 6px;
  align-items: center;
  padding: 6px 10px;
  border-bottom: 1px solid var(--hair);
}
.head > button {
  padding: 3px 10px;
  border: 1px solid var(--hair);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  font: inherit;
  font-size: 13px;
  cursor: pointer;
}
.head > button[aria-pressed='true'] {
  background: var(--wash);
  border-color: var(--prussian);
}
.silent {
  margin: 0;
  padding: 8px 12px;
}
.room {
  flex: 1;
  min-height: 0;
  overflow: hidden;
  background: var(--paper-deep);
}
iframe {
  display: block;
  border: 0;
  background: #fff;
  transform-origin: 0 0;
  margin: 0 auto;
}
</style>
