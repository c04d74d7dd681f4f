<script setup lang="ts">
import { computed, ref } from 'vue';
import { useItemList } from '../parts/itemList.ts';
import { kindLabel } from '../parts/kinds.ts';
import PopList from '../editor/PopList.vue';
import type { PopItem, PopPlace } from '../editor/popList.ts';

/** Chooses who lends what is shared: a topic, or a new one of the name that was typed. */
const { place, self, label } = defineProps<{ place: PopPlace; self: string; label: string }>();
const emit = defineEmits<{ choose: [lender: string | undefined, title: string]; close: [] }>();
const query = ref('');
const fresh = 'new';
const list = useItemList(() => ({ kind: 'topic', title: query.value.trim() }));
const choices = computed((): PopItem[] => {
  const title = query.value.trim();
  const topics = list.rows.value
    .filter((item) => item.id !== self)
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
    :items="choices"
    :is-loading="list.isPending.value"
    :place="place"
    empty="Type the name of a topic, or of a new one."
    @choose="choose"
    @close="emit('close')"
  />
</template>
