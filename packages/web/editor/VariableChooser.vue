<script setup lang="ts">
import { variableAnswer } from '@ukiyo/core/editing';
import { computed, ref } from 'vue';
import { kindOfVariable, useVariables } from '../parts/variables.ts';
import PopList from './PopList.vue';
import type { PopItem, PopPlace } from './popList.ts';

/** Chooses a variable by its name or by what it says. */
const { place } = defineProps<{ place: PopPlace }>();
const emit = defineEmits<{ choose: [answer: string]; close: [] }>();
const variables = useVariables();
const query = ref('');
const kinds = { text: '', image: 'image', link: 'link' } as const;
const items = computed((): PopItem[] => {
  const words = query.value.trim().toLowerCase().split(/\s+/u);
  return variables.named
    .filter((variable) =>
      words.every(
        (word) =>
          variable.key.toLowerCase().includes(word) ||
          variables.wordsOf(variable).toLowerCase().includes(word),
      ),
    )
    .map((variable): PopItem => {
      const kind = kindOfVariable(variable);
      return {
        key: variableAnswer(kind, variable.key),
        label: variables.wordsOf(variable) || variable.key,
        aside: variable.key,
        help: [kinds[kind], variables.setOf(variable.map)?.title ?? ''].filter(Boolean).join(' · '),
      };
    });
});
</script>

<template>
  <PopList
    v-model:query="query"
    label="Which variable"
    :items="items"
    :is-loading="!variables.isLoaded"
    :place="place"
    empty="No variable is called so, or says so. They are kept under Variables."
    @choose="emit('choose', $event.key)"
    @close="emit('close')"
  />
</template>
