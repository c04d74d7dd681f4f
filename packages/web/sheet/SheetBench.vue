<script setup lang="ts">
import { ref } from 'vue';
import { useItems } from '../parts/items.ts';
import { useLibrary } from '../parts/library.ts';
import type { TopicSheet } from './useTopicSheet.ts';
import WriteBench from './WriteBench.vue';

/** The bench of one topic that is written. */
const { sheet } = defineProps<{ sheet: TopicSheet }>();
const items = useItems();
const library = useLibrary();
const bench = ref<{ goToName: () => Promise<void> }>();
defineExpose({ goToName: () => bench.value?.goToName() });
</script>

<template>
  <WriteBench
    ref="bench"
    :topic="sheet.id()"
    :version="items.find(sheet.id())?.version ?? 0"
    :changes="sheet.editor.drawn.value"
    :problems="sheet.editor.problems.value"
    :open="sheet.editor.open.value"
    :facets="library.facets"
    :editable="sheet.editable.value"
    :refusal="sheet.editor.refusal"
    :path-to="sheet.editor.pathTo"
    :root-of="sheet.editor.read"
    @name="sheet.live.name"
    @root="sheet.editor.changeRoot"
    @go="sheet.editor.goTo"
    @fix="sheet.fix"
    @change="sheet.editor.setAttributes"
  />
</template>
