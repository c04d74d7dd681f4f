<script setup lang="ts">
import { computed, ref } from 'vue';
import { kindLabel } from '../parts/kinds.ts';
import { useLibrary } from '../parts/library.ts';
import PopList from '../editor/PopList.vue';
import type { PopItem, PopPlace } from '../editor/popList.ts';

/** Chooses who lends what is shared: a topic, or a new one of the name that was typed. */
const { place, self, label } = defineProps<{ place: PopPlace; self: string; label: string }>();
const emit = defineEmits<{ choose: [lender: string | undefined, title: string]; close: [] }>();
const library = useLibrary();
const query = ref('');
const most = 60;
const fresh = 'new';
const items = computed((): PopItem[] => {
  const title = query.value.trim();
  const words = title.toLowerCase().split(/\s+/u);
  const topics = library.items
    .filter(
      (item) =>
        item.kind === 'topic' &&
        item.id !== self &&
        words.every((word) => `${item.title} ${item.id}`.toLowerCase().includes(word)),
    )
    .slice(0, most)
    .map((item): PopItem => ({
      key: `topic:${item.id}`,
      label: item.title || item.id,
      aside: kindLabel(item.type),
      head: 'A topic that there is',
    }));
  return [
    ...topics,
    ...(title === ''
      ? []
      : [{ key: fresh, label: title, aside: 'new topic', head: 'A topic of its own' }]),
  ];
});
function choose({ key, label: title }: PopItem): void {
  emit('choose', key === fresh ? undefined : key.slice('topic:'.length), title);
}
</script>

<template>
  <PopList
    v-model:query="query"
    :label="`Who lends it: ${label}`"
    :items="items"
    :place="place"
    empty="Type the name of a topic, or of a new one."
    @choose="choose"
    @close="emit('close')"
  />
</template>
