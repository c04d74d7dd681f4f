<script setup lang="ts">
import { computed } from 'vue';
import PickOne from '../parts/PickOne.vue';
import type { SourceLanguage } from './sourceLanguage.ts';
import { pageViews, type PageView } from './pageView.ts';
import { usePageSheet } from './pageSheet.ts';

const view = defineModel<PageView>('view', { required: true });
const marks = defineModel<boolean>('marks', { required: true });
const tags = defineModel<boolean>('tags', { required: true });
/** Several topics together are shown as pages only. */
const { language, pagesOnly } = defineProps<{
  language?: SourceLanguage | undefined;
  pagesOnly?: boolean;
}>();
const emit = defineEmits<{ page: []; language: [SourceLanguage] }>();
const { sheet, options } = usePageSheet();
const languages = [
  { value: 'source', label: 'Source', help: 'The topic as XML (Alt 6)' },
  {
    value: 'markdown',
    label: 'Markdown',
    help: 'The topic as Markdown, where that loses nothing (Alt 7)',
  },
] as const;
const offered = computed(() => (pagesOnly ? [] : languages));
function look(at: PageView): void {
  emit('page');
  view.value = at;
}
</script>

<template>
  <div class="views" role="group" aria-label="View of the page">
    <label class="sheet" title="How the page looks: as a style sheet says for screens, or plain">
      looks
      <PickOne v-model:chosen="sheet" label="The page looks" :options="options" />
    </label>
    <button
      v-for="one in pageViews"
      :key="one.value"
      type="button"
      :aria-pressed="language === undefined && view === one.value"
      :title="`${one.help} (${one.keys})`"
      @mousedown.prevent
      @click="look(one.value)"
    >
      {{ one.label }}
    </button>
    <button
      v-for="one in offered"
      :key="one.value"
      type="button"
      :aria-pressed="language === one.value"
      :title="one.help"
      @mousedown.prevent
      @click="emit('language', one.value)"
    >
      {{ one.label }}
    </button>
    <button
      type="button"
      class="marks"
      :aria-pressed="tags"
      title="For whom content is, beside it (Alt 8)"
      @mousedown.prevent
      @click="tags = !tags"
    >
      Facets
    </button>
    <button
      type="button"
      :aria-pressed="marks"
      title="Spaces, breaks and paragraph ends (Alt 5)"
      aria-label="Spaces, breaks and paragraph ends"
      @mousedown.prevent
      @click="marks = !marks"
    >
      ¶
    </button>
  </div>
</template>

<style scoped>
.views {
  display: flex;
  justify-content: flex-end;
  gap: 2px;
  max-width: 760px;
  margin: 0 auto 6px;
}
button {
  border: 0;
  background: none;
  padding: 2px 8px;
  border-radius: 3px;
  color: var(--soft);
  font: 400 13px var(--font-text);
  cursor: pointer;
}
button:hover {
  background: var(--paper-deep);
}
button[aria-pressed='true'] {
  background: var(--wash);
  color: var(--prussian);
}
.marks {
  margin-left: 10px;
}
.sheet {
  display: inline-flex;
  align-items: center;
  gap: 4px;
  margin-right: auto;
  font-size: 13px;
  color: var(--soft);
}
.sheet :deep(select) {
  height: 24px;
  max-width: 110px;
}
</style>
