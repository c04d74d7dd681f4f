<script setup lang="ts">
import { attributeFields, type OpenElement } from '@ukiyo/core/editing';
import {
  facetValuesOf,
  valuesOn,
  withValues,
  type Facet,
  type FacetValue,
} from '@ukiyo/core/facets';
import { linkFormOf, linkForms, withLinkForm, type LinkForm } from '@ukiyo/core/library';
import { definitionOf, type AttributeDefinition } from '@ukiyo/core/grammar';
import type { Attributes } from '@ukiyo/core/markup';
import type { Path } from '@ukiyo/core/problems';
import { computed, ref, watch } from 'vue';
import PickOne from '../parts/PickOne.vue';
import AttributeField from './AttributeField.vue';
import ElementWhy from './ElementWhy.vue';

const { topic, open, facets, editable, refusal, pathTo } = defineProps<{
  topic: string;
  open: readonly OpenElement[];
  facets: readonly Facet[];
  editable: boolean;
  /** What is wrong with a value, in plain words. */
  refusal: (
    target: OpenElement,
    definition: AttributeDefinition,
    value: string,
  ) => string | undefined;
  /** Where an open element is in the text; undefined for what has no place of its own. */
  pathTo: (target: OpenElement) => Path | undefined;
}>();
const emit = defineEmits<{ change: [OpenElement, Attributes] }>();

/** Counted from the topic inward; the innermost until another is chosen. */
const chosen = ref(0);
watch(
  () => open.map(({ position, element }) => `${position} ${element}`).join(),
  () => (chosen.value = open.length - 1),
  { immediate: true },
);
const element = computed({
  get: () => String(chosen.value),
  set: (index) => (chosen.value = Number(index)),
});
const target = computed(() => open[chosen.value]);
const fields = computed(() =>
  target.value ? attributeFields(target.value) : { set: [], more: [] },
);
const added = ref<AttributeDefinition>();
watch(target, () => (added.value = undefined));
/** A facet's own attribute is shown as a list to pick from, not as text. */
const isKnown = (name: string): boolean => facets.some((facet) => facet.name === name);
const isFacet = ({ name }: AttributeDefinition): boolean =>
  isKnown(name) ||
  (name === 'props' &&
    [...facetValuesOf({ props: target.value?.attributes['props'] ?? '' }).keys()].every(isKnown));
const texts = computed(() =>
  [
    ...fields.value.set,
    ...(added.value && !fields.value.set.some(({ name }) => name === added.value?.name)
      ? [added.value]
      : []),
  ].filter((one) => !isFacet(one)),
);

/** Retired values are shown where they are set, and can only be taken away. */
const options = (
  values: readonly FacetValue[],
  set: readonly string[],
  depth = 0,
): { value: string; label: string; disabled: boolean }[] =>
  values.flatMap((value) => [
    ...(value.retired && !set.includes(value.name)
      ? []
      : [
          {
            value: value.name,
            label: `${'\u2003'.repeat(depth)}${value.label}`,
            disabled: value.retired === true,
          },
        ]),
    ...options(value.values ?? [], set, depth + 1),
  ]);

const linkForm = computed({
  get: (): string => linkFormOf(target.value?.attributes ?? {}),
  set: (form) =>
    target.value &&
    emit('change', target.value, withLinkForm(target.value.attributes, form as LinkForm)),
});
function setFacet(facet: Facet, values: readonly string[]): void {
  if (target.value)
    emit('change', target.value, withValues(target.value.attributes, facet.name, values));
}
function setText(name: string, value: string): void {
  if (!target.value) return;
  const { [name]: _old, ...rest } = target.value.attributes;
  emit('change', target.value, value === '' ? rest : { ...rest, [name]: value });
}
</script>

<template>
  <section v-if="target" class="details" aria-label="Details">
    <PickOne
      v-model:chosen="element"
      label="Element"
      :options="open.map(({ label }, index) => ({ value: String(index), label }))"
    />
    <p class="quiet small help">{{ definitionOf(target.element)?.help }}</p>
    <template v-if="facets.length > 0">
      <h3>Facets</h3>
      <div v-for="facet in facets" :key="facet.name" class="field">
        <span :id="`facet-${facet.name}`" class="small quiet">{{ facet.label }}</span>
        <n-select
          multiple
          clearable
          filterable
          size="small"
          placeholder="every reader"
          :disabled="!editable"
          :value="[...valuesOn(target.attributes, facet.name)]"
          :options="options(facet.values, valuesOn(target.attributes, facet.name))"
          :input-props="{ 'aria-label': facet.label }"
          @update:value="setFacet(facet, $event)"
        />
      </div>
    </template>
    <div v-if="target.element === 'xref'" class="field">
      <span class="small quiet">Words</span>
      <PickOne
        v-model:chosen="linkForm"
        label="Words of the link"
        :options="linkForms.map(({ name, label }) => ({ value: name, label }))"
        :disabled="!editable"
      />
    </div>
    <h3>Attributes</h3>
    <AttributeField
      v-for="field in texts"
      :key="`${chosen} ${field.name}`"
      :definition="field"
      :value="target.attributes[field.name] ?? ''"
      :editable="editable"
      :refusal="(value) => refusal(target!, field, value)"
      @change="setText(field.name, $event)"
    />
    <p v-if="texts.length === 0" class="quiet small">None is set.</p>
    <n-select
      v-if="editable"
      size="small"
      filterable
      placeholder="Add an attribute"
      :value="null"
      :options="
        fields.more
          .filter((one) => !isFacet(one))
          .map(({ name, label }) => ({ value: name, label }))
      "
      :input-props="{ 'aria-label': 'Add an attribute' }"
      @update:value="(name: string) => (added = fields.more.find((one) => one.name === name))"
    />
    <ElementWhy v-if="target.end === undefined" :topic="topic" :target="target" :path-to="pathTo" />
  </section>
  <p v-else class="quiet small">
    Put the caret into the topic to see the details of what is open there.
  </p>
</template>

<style scoped>
.details {
  display: grid;
  gap: 8px;
}
h3 {
  margin: 10px 0 0;
  font: 400 15px var(--font-title);
  color: var(--prussian);
}
.field {
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr);
  align-items: center;
  gap: 8px;
}
.help {
  margin: 0;
}
p {
  margin: 0;
}
</style>
