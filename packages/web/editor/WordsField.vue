<script setup lang="ts">
import { labelOf } from '@ukiyo/core/grammar';
import { computed, onMounted, ref } from 'vue';
import type { PopPlace } from './popList.ts';

/**
 * Asks for the words of something that stands beside the line: a footnote, an index entry, a
 * comment.
 */
const { place, element, words } = defineProps<{
  place: PopPlace;
  element: string;
  words: string;
}>();
const emit = defineEmits<{ choose: [string]; close: [] }>();
const text = ref(words);
const field = ref<HTMLTextAreaElement>();
const label = computed(
  () => ({ placeholder: 'Placeholder', guidance: 'Guidance' })[element] ?? labelOf(element),
);
const help: Readonly<Record<string, string>> = {
  indexterm:
    'A sub-entry follows after ›, typed as >. Further lines (Shift Enter): see …, see also ' +
    '…, from NAME and to NAME for a range.',
  fn: 'Stands at the foot of the page.',
  guidance: 'What a writer should put here.',
  placeholder: 'What is to be written here, in a few words.',
  'draft-comment': 'For the team; never published.',
  alt: 'Said to those who do not see the image.',
};
const px = (value: number | undefined): string => (value === undefined ? 'auto' : `${value}px`);
onMounted(() => field.value?.focus());

function onKey(event: KeyboardEvent): void {
  if (event.key === 'Enter' && !event.shiftKey && text.value.trim() !== '')
    emit('choose', text.value.trim());
  else if (event.key === 'Escape') emit('close');
  else if (event.key !== 'Enter' || event.shiftKey) return;
  event.preventDefault();
}
</script>

<template>
  <div
    class="words"
    role="dialog"
    :aria-label="label"
    :style="{ left: px(place.left), top: px(place.top), bottom: px(place.bottom) }"
  >
    <label class="head">
      {{ label }}
      <textarea ref="field" v-model="text" rows="2" @keydown="onKey" @blur="emit('close')" />
    </label>
    <span class="quiet small">
      {{ help[element] }}
      <kbd>Enter</kbd>
      keeps it.
    </span>
  </div>
</template>

<style scoped>
.words {
  position: fixed;
  z-index: 50;
  width: 380px;
  padding: 8px 12px 10px;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 4px;
  box-shadow: 0 8px 28px rgb(20 26 40 / 24%);
}
.head {
  display: block;
  font: 400 13px var(--font-title);
  color: var(--prussian);
}
textarea {
  display: block;
  width: 100%;
  margin: 6px 0;
  padding: 6px 8px;
  border: 1px solid var(--hair);
  border-radius: 4px;
  background: var(--paper);
  color: var(--ink);
  font: 400 15px var(--font-text);
  resize: vertical;
}
</style>
