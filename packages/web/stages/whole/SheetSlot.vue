<script setup lang="ts">
import { useElementSize, useIntersectionObserver } from '@vueuse/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { useItems } from '../../parts/items.ts';
import type { TopicSheet } from '../../sheet/useTopicSheet.ts';
import LiveSheet from './LiveSheet.vue';

/**
 * The room of one topic: its page is laid out while it is near, and kept until what was written in
 * it is safe.
 */
const { item, isActive, enterAt, scroller } = defineProps<{
  item: string;
  isActive: boolean;
  enterAt: 'start' | 'end' | undefined;
  scroller: HTMLElement | null;
}>();
const emit = defineEmits<{
  opened: [TopicSheet];
  closed: [TopicSheet];
  focus: [TopicSheet];
  entered: [];
  save: [];
}>();
const items = useItems();
const room = ref<HTMLElement>();
const sheet = shallowRef<TopicSheet>();
const isNear = ref(false);
useIntersectionObserver(
  room,
  (entries) => (isNear.value = entries.at(-1)?.isIntersecting === true),
  { root: computed(() => scroller), rootMargin: '900px 0px' },
);
const isOpen = ref(false);
watch(
  [isNear, () => isActive, () => enterAt, () => sheet.value?.live.isSafe.value],
  () => {
    if (isNear.value || enterAt !== undefined) isOpen.value = true;
    else if (!isActive && sheet.value?.live.isSafe.value !== false) isOpen.value = false;
  },
  { immediate: true },
);

const summary = computed(() => items.find(item));
/** As high as it was, or as its words will most likely make it. */
const { height } = useElementSize(room);
const known = ref(200 + (summary.value?.wordCount ?? 100) * 1.6);
watch(height, (now) => {
  if (sheet.value?.live.isOpen.value && now > 0) known.value = now;
});
const isLaidOut = computed(() => sheet.value?.live.isOpen.value === true);

function opened(made: TopicSheet): void {
  sheet.value = made;
  emit('opened', made);
}
function closed(made: TopicSheet): void {
  sheet.value = undefined;
  emit('closed', made);
}
</script>

<template>
  <section
    ref="room"
    class="room"
    :class="{ active: isActive }"
    :aria-label="summary?.title ?? item"
    :style="{ minHeight: isLaidOut ? undefined : `${known}px` }"
    @focusin="sheet && emit('focus', sheet)"
  >
    <LiveSheet
      v-if="isOpen"
      :item="item"
      :enter-at="enterAt"
      @opened="opened"
      @closed="closed"
      @entered="emit('entered')"
      @save="emit('save')"
    />
    <div v-if="!isLaidOut" class="waiting quiet">
      <b>{{ summary?.title ?? `“${item}” is not in the library` }}</b>
      <p>{{ summary?.shortDescription }}</p>
    </div>
  </section>
</template>

<style scoped>
.room {
  position: relative;
  margin-bottom: 18px;
}
.room:not(.active) :deep(.ladder) {
  display: none;
}
.room :deep(.page) {
  min-height: 0;
  padding-bottom: 36px;
  border-bottom: 1px solid var(--hair);
  border-radius: 3px;
}
.waiting {
  max-width: 760px;
  margin: 0 auto;
  padding: 30px 48px 30px 92px;
}
.waiting b {
  font: 500 29px/1.15 var(--font-title);
}
.waiting p {
  margin: 8px 0 0;
  font: italic 400 16px/1.45 var(--font-title);
}
</style>
