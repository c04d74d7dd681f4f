<script setup lang="ts">
import { labelOf } from '@ukiyo/core/grammar';
import { linkTargets, readItem, type LinkPlace } from '@ukiyo/core/library';
import { computed, ref, shallowRef } from 'vue';
import { useItemList } from '../parts/itemList.ts';
import { kindLabel } from '../parts/kinds.ts';
import { useItems } from '../parts/items.ts';
import PopList from './PopList.vue';
import type { PopItem, PopPlace } from './popList.ts';

/** Chooses where a link leads: a topic by its title, a part of it, or an address of the web. */
const { place } = defineProps<{ place: PopPlace }>();
const emit = defineEmits<{ choose: [reference: string]; close: [] }>();
const items = useItems();
const query = ref('');
/** The topic whose parts are shown. */
const inside = shallowRef<{ id: string; title: string; places: readonly LinkPlace[] }>();

const isAddress = (text: string): boolean => /^(https?:\/\/|mailto:)\S+$/iu.test(text);
const wanted = computed(() => query.value.trim().toLowerCase());
const matches = (...texts: string[]): boolean =>
  wanted.value
    .split(/\s+/u)
    .every((word) => texts.some((text) => text.toLowerCase().includes(word)));
const topics = useItemList(() =>
  inside.value ? undefined : { kind: 'topic', title: query.value.trim() },
);

const choices = computed((): PopItem[] => {
  if (inside.value) {
    const { id, title, places } = inside.value;
    return places
      .filter((part) => matches(part.title, part.id, labelOf(part.element)))
      .map((part) => ({
        key: `topic:${id}/${part.id}`,
        label: part.title || part.id,
        aside: labelOf(part.element),
        head: `In “${title}”`,
      }));
  }
  const address = query.value.trim();
  const web: PopItem[] = isAddress(address)
    ? [{ key: address, label: address, aside: 'address of the web' }]
    : [];
  const found = topics.rows.value.map((item): PopItem => ({
    key: `topic:${item.id}`,
    label: item.title || item.id,
    aside: kindLabel(item.type),
    help: item.shortDescription,
    hasMore: true,
  }));
  return [...web, ...found];
});

async function goInto({ key, label }: PopItem): Promise<void> {
  const id = key.slice('topic:'.length);
  const { text, kind } = await items.read(id);
  const { root } = readItem(id, kind, text);
  inside.value = { id, title: label, places: root ? linkTargets(root) : [] };
  query.value = '';
}
</script>

<template>
  <PopList
    v-model:query="query"
    :label="inside ? `A part of ${inside.title}` : 'Where the link leads'"
    :items="choices"
    :is-loading="!inside && topics.isPending.value"
    :place="place"
    :empty="
      inside
        ? 'No part of this topic has an id yet.'
        : 'No topic says that. An address of the web begins with https://.'
    "
    @choose="emit('choose', $event.key)"
    @into="goInto"
    @close="emit('close')"
  />
</template>
