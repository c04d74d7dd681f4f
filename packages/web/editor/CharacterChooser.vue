<script setup lang="ts">
import { findCharacters } from '@ukiyo/core/characters';
import { useStorage } from '@vueuse/core';
import { computed, ref } from 'vue';
import PopList from './PopList.vue';
import type { PopItem, PopPlace } from './popList.ts';

/** Chooses a character that no key has, by its name or category; the last ones used stand first. */
const { place } = defineProps<{ place: PopPlace }>();
const emit = defineEmits<{ choose: [character: string]; close: [] }>();
const query = ref('');
const recent = useStorage<string[]>('ukiyo-characters', [], undefined, { flush: 'sync' });
const remembered = 12;
const most = 120;
const code = (character: string): string =>
  `U+${character.codePointAt(0)!.toString(16).toUpperCase().padStart(4, '0')}`;
const items = computed(() =>
  findCharacters(query.value, recent.value)
    .slice(0, most)
    .map(({ character, name, category }): PopItem => ({
      key: character,
      label: `${character.trim() === '' || /\p{Cf}/u.test(character) ? '␣' : character}   ${name}`,
      aside: code(character),
      head: recent.value.includes(character) ? 'Used last' : category,
    })),
);
function choose({ key }: PopItem): void {
  recent.value = [key, ...recent.value.filter((one) => one !== key)].slice(0, remembered);
  emit('choose', key);
}
</script>

<template>
  <PopList
    v-model:query="query"
    label="Which character"
    :items="items"
    :place="place"
    empty="No character by that name."
    @choose="choose"
    @close="emit('close')"
  />
</template>
