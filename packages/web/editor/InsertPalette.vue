<script setup lang="ts">
import type { Choice } from '@ukiyo/core/editing';
import { useStorage } from '@vueuse/core';
import { computed, ref } from 'vue';
import PopList from './PopList.vue';
import type { PopItem, PopPlace } from './popList.ts';
import { rankChoices } from './ranking.ts';

const { choices, place } = defineProps<{ choices: readonly Choice[]; place: PopPlace }>();
const emit = defineEmits<{ choose: [Choice]; close: [] }>();
const query = ref('');
// Written at once: the palette is gone with the next frame.
const uses = useStorage<Record<string, number>>('ukiyo-palette-uses', {}, undefined, {
  flush: 'sync',
});
const headings: Record<Choice['kind'], string> = {
  insert: 'Put in',
  table: 'Table',
  phrase: 'Name the words',
  share: 'Borrow and share',
  wrap: 'Put around',
  turn: 'Make into',
};
const keyOf = ({ kind, element }: Choice): string => `${kind} ${element}`;

const shown = computed(() => rankChoices(choices, query.value, uses.value));
const items = computed(() =>
  shown.value.map((choice): PopItem => ({
    key: keyOf(choice),
    label: choice.label,
    aside: choice.place,
    help: choice.help,
    head: headings[choice.kind],
  })),
);

function choose({ key }: PopItem): void {
  const choice = shown.value.find((one) => keyOf(one) === key);
  if (!choice) return;
  uses.value = { ...uses.value, [key]: (uses.value[key] ?? 0) + 1 };
  emit('choose', choice);
}
</script>

<template>
  <PopList
    v-model:query="query"
    label="What can go here"
    :items="items"
    :place="place"
    empty="Nothing by that name can go here."
    @choose="choose"
    @close="emit('close')"
  />
</template>
