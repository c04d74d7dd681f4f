<script setup lang="ts">
import type { HouseRule } from '@ukiyo/contracts';
import { readItem } from '@ukiyo/core/library';
import { element } from '@ukiyo/core/markup';
import { checkHouseRules } from '@ukiyo/core/rules';
import { computed, ref, shallowRef, watch } from 'vue';
import ItemSelect from '../../parts/ItemSelect.vue';
import { useItems } from '../../parts/items.ts';

/**
 * Tries a rule on words that one types, or on a topic of the library, before anybody else meets it.
 */
const { rule } = defineProps<{ rule: HouseRule }>();
const items = useItems();
const words = ref('');
const topic = ref('');
const root = shallowRef<ReturnType<typeof readItem>['root']>();
const speaksOfWords = computed(() => rule.kind === 'pattern' || rule.kind === 'phrase');
watch(topic, async (id) => {
  if (id === '') return void (root.value = undefined);
  const { text, kind } = await items.read(id);
  root.value = readItem(id, kind, text).root;
});
const tried = computed(() =>
  speaksOfWords.value && words.value !== ''
    ? element(rule.kind === 'pattern' ? rule.element : 'p', {}, [words.value])
    : root.value,
);
const found = computed(() => (tried.value ? checkHouseRules(tried.value, [rule]) : []));
</script>

<template>
  <fieldset>
    <legend class="small quiet">Try it</legend>
    <n-input
      v-if="speaksOfWords"
      v-model:value="words"
      size="small"
      placeholder="Words to try it on"
      :input-props="{ 'aria-label': 'Words to try it on' }"
    />
    <ItemSelect
      v-model:chosen="topic"
      label="A topic to try it on"
      none="A topic to try it on"
      :among="{ kind: 'topic' }"
    />
    <p v-if="tried" class="small" role="status">
      {{
        found.length === 0 ? 'Nothing to say here.' : `${found.length} found: ${found[0]!.message}`
      }}
    </p>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 1px dashed var(--hair);
  border-radius: 4px;
  display: grid;
  gap: 6px;
  padding: 8px 12px;
}
p {
  margin: 0;
}
</style>
