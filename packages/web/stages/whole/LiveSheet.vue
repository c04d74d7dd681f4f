<script setup lang="ts">
import { Selection } from 'prosemirror-state';
import { defineAsyncComponent, onBeforeUnmount, onMounted, watch, type Component } from 'vue';
import TopicPage from '../../sheet/TopicPage.vue';
import { useTopicSheet, type TopicSheet } from '../../sheet/useTopicSheet.ts';

const HomeEditor = defineAsyncComponent(
  () => import('../../sheet/HomeEditor.vue') as Promise<Component>,
);
/** One topic of the whole, open for writing as long as it is near. */
const { item, enterAt } = defineProps<{
  item: string;
  /** Where the caret is to go once the topic is open. */ enterAt: 'start' | 'end' | undefined;
}>();
const emit = defineEmits<{ opened: [TopicSheet]; closed: [TopicSheet]; entered: []; save: [] }>();
const sheet = useTopicSheet(() => item, { save: () => emit('save'), begin: enter });

function enter(): void {
  const view = sheet.editor.view.value;
  if (!view || enterAt === undefined) return;
  const { doc, tr } = view.state;
  view.dispatch(
    tr
      .setSelection(enterAt === 'start' ? Selection.atStart(doc) : Selection.atEnd(doc))
      .scrollIntoView(),
  );
  view.focus();
  emit('entered');
}
onMounted(() => {
  emit('opened', sheet);
  void sheet.show();
});
watch(() => enterAt, enter);
onBeforeUnmount(() => emit('closed', sheet));
</script>

<template>
  <TopicPage :sheet="sheet" />
  <HomeEditor v-if="sheet.home.value !== undefined" :from="sheet" />
</template>
