<script setup lang="ts">
import {
  asBook,
  bookLists,
  hasMatter,
  isBook,
  listPlace,
  mapFact,
  mapFacts,
  withList,
  withMapFact,
  withMatter,
  type Matter,
} from '@ukiyo/core/arranging';
import { computed } from 'vue';
import LineInput from '../../parts/LineInput.vue';
import PickOne from '../../parts/PickOne.vue';
import type { OpenMap } from './useMap.ts';

/** What is said of a map, and what a book has beside its chapters. */
const { map, editable } = defineProps<{ map: OpenMap; editable: boolean }>();
const root = computed(() => map.root.value);
const book = computed(() => root.value !== undefined && isBook(root.value));
const facts = computed(() => mapFacts.filter(({ isOfBooks }) => book.value || !isOfBooks));
const asOne = computed(() => (root.value && !book.value ? asBook(root.value) : undefined));
const places = [
  { value: '', label: 'nowhere' },
  { value: 'front', label: 'in front' },
  { value: 'back', label: 'at the back' },
];
const matters: readonly { matter: Matter; label: string }[] = [
  { matter: 'front', label: 'Topics before the first chapter …' },
  { matter: 'back', label: 'Topics after the last …' },
];
const missing = computed(() =>
  root.value && book.value ? matters.filter(({ matter }) => !hasMatter(root.value!, matter)) : [],
);
</script>

<template>
  <fieldset v-if="root" :disabled="!editable" class="book">
    <label v-for="{ name, label } in facts" :key="name">
      {{ label }}
      <LineInput
        :value="mapFact(root, name)"
        :label="label"
        @change="(value: string) => map.changeRoot((tree) => withMapFact(tree, name, value))"
      />
    </label>
    <p class="quiet small">A variable stands here by its key: %%key.</p>
    <div v-if="asOne" class="field">
      <n-button size="small" :disabled="!editable" @click="map.changeRoot(() => asOne!)">
        Make it a book
      </n-button>
      <span>
        What stands at the top becomes chapters; parts, appendices, contents and lists can be added.
      </span>
    </div>
    <template v-if="book">
      <div class="field">
        <span>Lists that it makes of itself</span>
        <label v-for="{ name, label } in bookLists" :key="name" class="row">
          {{ label }}
          <PickOne
            :chosen="listPlace(root, name) ?? ''"
            :label="label"
            :options="places"
            :disabled="!editable"
            @update:chosen="
              (place) =>
                map.changeRoot((tree) =>
                  withList(tree, name, place === '' ? undefined : (place as Matter)),
                )
            "
          />
        </label>
      </div>
      <div v-if="missing.length > 0" class="field">
        <n-button
          v-for="{ matter, label } in missing"
          :key="matter"
          size="small"
          :disabled="!editable"
          @click="map.changeRoot((tree) => withMatter(tree, matter))"
        >
          {{ label }}
        </n-button>
      </div>
    </template>
  </fieldset>
</template>

<style scoped>
.book {
  border: 0;
  padding: 14px 0 0;
  margin: 14px 0 0;
  border-top: 1px solid var(--hair);
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 10px;
  min-width: 0;
}
label,
.field {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 3px;
  font-size: 13px;
  color: var(--soft);
}
.field {
  justify-items: start;
  gap: 6px;
}
p {
  margin: 0;
}
.row {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
  width: 100%;
  font-size: 14px;
  color: var(--ink);
}
</style>
