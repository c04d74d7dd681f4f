<script setup lang="ts">
import { useEventListener, useThrottleFn } from '@vueuse/core';
import { Selection } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { computed, ref } from 'vue';

/** A small + where one block ends and the next begins; it asks what can go there. */
const props = defineProps<{ view: EditorView | undefined }>();
const emit = defineEmits<{ open: [] }>();
const gap = ref<{ top: number; left: number; position: number }>();
const reach = 7;
const page = computed(() => props.view?.dom.closest<HTMLElement>('.page'));
/** Parts that come and go with their whole have no gaps of their own. */
const whole = 'table, .is-title, .is-cmd, .is-steps > .is-step > .is-cmd';

const look = useThrottleFn(
  (event: PointerEvent) => {
    const { view } = props;
    if (!view || !page.value || event.buttons !== 0) return;
    if (event.target instanceof Element && event.target.closest('.gap')) return;
    let block =
      event.target instanceof Element
        ? event.target.closest<HTMLElement>('.ProseMirror .el')
        : null;
    while (block && (block.matches(whole) || block.closest('table, tr, td')))
      block = block.parentElement?.closest<HTMLElement>('.ProseMirror .el') ?? null;
    const box = block?.getBoundingClientRect();
    if (
      !block ||
      !box ||
      Math.abs(box.bottom - event.clientY) > reach ||
      block.matches('.is-topic, .is-body')
    )
      return void (gap.value = undefined);
    const origin = page.value.getBoundingClientRect();
    const position = view.posAtDOM(block, 0);
    gap.value = { top: box.bottom - origin.top - 2, left: box.left - origin.left, position };
  },
  40,
  true,
);
useEventListener(page, 'pointermove', look);
useEventListener(page, 'pointerleave', () => (gap.value = undefined));

function open(): void {
  const { view } = props;
  if (!view || !gap.value) return;
  const $inside = view.state.doc.resolve(gap.value.position);
  const end = $inside.end();
  view.dispatch(view.state.tr.setSelection(Selection.near(view.state.doc.resolve(end), -1)));
  view.focus();
  gap.value = undefined;
  emit('open');
}
</script>

<template>
  <button
    v-if="gap"
    type="button"
    class="gap"
    tabindex="-1"
    aria-label="Put something in here"
    :style="{ top: `${gap.top - 9}px`, left: `${gap.left - 24}px` }"
    @mousedown.prevent
    @click="open"
  >
    +
  </button>
</template>

<style scoped>
.gap {
  position: absolute;
  z-index: 10;
  width: 18px;
  height: 18px;
  border: 1px solid var(--prussian);
  border-radius: 50%;
  padding: 0;
  background: var(--sheet);
  color: var(--prussian);
  font: 600 13px/1 var(--font-text);
  cursor: pointer;
}
.gap:hover {
  background: var(--wash);
}
</style>
