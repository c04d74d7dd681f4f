<script setup lang="ts">
import { tagsOf } from '@ukiyo/core/facets';
import { markupOf, markupNodes } from '@ukiyo/core/library';
import { childNamed, element, isElement, type Attributes, type Element } from '@ukiyo/core/markup';
import { computed, onMounted, ref, watch } from 'vue';
import PhraseField from '../../editor/PhraseField.vue';
import { useLibrary } from '../../parts/library.ts';
import OnlyFor from '../../parts/OnlyFor.vue';
import { useVariables } from '../../parts/variables.ts';
import BookPanel from './BookPanel.vue';
import type { OpenMap } from './useMap.ts';
import { useFailure } from '../../parts/attempts.ts';
import CheckBox from '../../parts/CheckBox.vue';

/**
 * What is said of the map itself: its title, for whom it is, under which name its variables are
 * reached, which sets hold in it.
 */
const { map, id, editable } = defineProps<{ map: OpenMap; id: string; editable: boolean }>();
const library = useLibrary();
const variables = useVariables();
onMounted(() => variables.ensure());
const root = computed(() => map.root.value);
const titleIn = (tree: Element | undefined): Element | undefined => {
  const title = tree && childNamed(tree, 'title', 'booktitle');
  return title?.name === 'booktitle' ? childNamed(title, 'mainbooktitle') : title;
};
const markup = ref('');
watch(
  () => id,
  () => (markup.value = markupOf(titleIn(root.value)?.children ?? [])),
  { immediate: true },
);
const isChanged = computed(() => markup.value !== markupOf(titleIn(root.value)?.children ?? []));
function keepTitle(): void {
  const words = markupNodes(markup.value) ?? [];
  map.changeRoot((tree) => {
    const known = titleIn(tree);
    if (!known) return { ...tree, children: [element('title', {}, words), ...tree.children] };
    const put = (one: Element): Element =>
      one === known
        ? { ...one, children: words }
        : {
            ...one,
            children: one.children.map((child) =>
              isElement(child) && (child === known || child.name === 'booktitle')
                ? put(child)
                : child,
            ),
          };
    return put(tree);
  });
}
const scopes = ref('');
watch(root, (tree) => (scopes.value = tree?.attributes['keyscope'] ?? ''), { immediate: true });
function setAttributes(attributes: Attributes): void {
  map.changeRoot((tree) => ({ ...tree, attributes }));
}
function keepScopes(): void {
  const { keyscope: _before, ...others } = root.value?.attributes ?? {};
  setAttributes(scopes.value.trim() === '' ? others : { ...others, keyscope: scopes.value.trim() });
}
/** Only what says for whom it is; the rest stays. */
const conditions = computed({ get: () => root.value?.attributes ?? {}, set: setAttributes });
const sets = computed(() => variables.list.sets.filter((set) => set.isSet && set.id !== id));
const { failure, attempt } = useFailure();
const hold = (set: string, on: boolean): Promise<boolean> =>
  attempt(async () => {
    await variables.change(set, { kind: 'held', map: id, on });
    await map.load(id);
  });
</script>

<template>
  <section class="map-panel" aria-label="About this map">
    <fieldset :disabled="!editable">
      <div class="field">
        <span>Title</span>
        <PhraseField
          :key="id"
          v-model:markup="markup"
          label="Title of the map"
          @enter="keepTitle"
        />
        <n-button v-if="isChanged" size="tiny" type="primary" @click="keepTitle">
          Keep the title
        </n-button>
      </div>
      <div class="row">
        <span class="quiet small">
          For
          {{ tagsOf(root?.attributes ?? {}, library.facets).length === 0 ? 'everybody' : 'only' }}
        </span>
        <OnlyFor v-model:conditions="conditions" label="The whole map" :disabled="!editable" />
      </div>
      <label>
        Names before its keys, where another map takes it in (key scopes)
        <n-input
          v-model:value="scopes"
          size="small"
          placeholder=""
          :disabled="!editable"
          :input-props="{ 'aria-label': 'Key scopes' }"
          @change="keepScopes"
        />
      </label>
      <div v-if="sets.length > 0" class="field">
        <span>Sets of variables</span>
        <CheckBox
          v-for="set in sets"
          :key="set.id"
          :checked="set.everywhere || set.heldBy.includes(id)"
          :disabled="!editable || set.everywhere"
          @update:checked="hold(set.id, !set.heldBy.includes(id))"
        >
          {{ set.title }}
          {{ ' ' }}
          <span v-if="set.everywhere" class="quiet small">in every map</span>
        </CheckBox>
      </div>
    </fieldset>
    <p v-if="failure" class="seal-text small" role="alert">{{ failure }}</p>
    <BookPanel :map="map" :editable="editable" />
  </section>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
  min-width: 0;
}
label,
.field {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 3px;
  font-size: 13px;
  color: var(--soft);
  justify-items: start;
}
.field > :deep(.phrase-field) {
  width: 100%;
}
.row {
  display: flex;
  gap: 6px;
  align-items: center;
  flex-wrap: wrap;
}
</style>
