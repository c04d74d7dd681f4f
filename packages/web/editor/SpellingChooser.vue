<script setup lang="ts">
import { computed, ref } from 'vue';
import PopList from './PopList.vue';
import type { PopItem, PopPlace } from './popList.ts';

/** What a word that is in no list could be; or it joins the words of the team. */
const { place, word, suggestions } = defineProps<{
  place: PopPlace;
  word: string;
  suggestions: readonly string[];
}>();
const emit = defineEmits<{ choose: [replacement: string]; allow: []; close: [] }>();
const query = ref('');
const allowKey = '\u0000';
const items = computed((): PopItem[] => [
  ...(query.value.trim() === '' ? suggestions : [query.value.trim()]).map((one) => ({
    key: one,
    label: one,
    head: 'Write instead',
  })),
  { key: allowKey, label: `“${word}” is right`, aside: 'for the whole team', head: 'Words' },
]);
function choose({ key }: PopItem): void {
  if (key === allowKey) emit('allow');
  else emit('choose', key);
}
</script>

<template>
  <PopList
    v-model:query="query"
    :label="`Spelling of ${word}`"
    :items="items"
    :place="place"
    empty=""
    @choose="choose"
    @close="emit('close')"
  />
</template>
