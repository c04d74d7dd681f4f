<script setup lang="ts">
import { Facet, ItemSummary } from '@ukiyo/contracts';
import { allValues, tagOf, type FacetValue } from '@ukiyo/core/facets';
import { profilingAttributes } from '@ukiyo/core/grammar';
import { computed, onMounted, reactive, shallowRef } from 'vue';
import { z } from 'zod';
import { ask } from '../../parts/api.ts';
import PickOne from '../../parts/PickOne.vue';
import { useSession } from '../../parts/session.ts';
import { usePlace } from '../../shell/place.ts';
import FacetValues from './FacetValues.vue';
import LensSection from './LensSection.vue';
import ValueForm from './ValueForm.vue';
import { useFacets } from '../../parts/facets.ts';

const place = usePlace();
const session = useSession();
const {
  facets,
  editable,
  isBusy,
  load,
  useOf,
  addFacet,
  labelFacet,
  removeFacet,
  addValue,
  setValue,
  removeValue,
  moveValue,
  renameValue,
} = useFacets();
onMounted(async () => {
  place.clear();
  place.trail = ['Facets and lenses'];
  await load();
});

const namesOf = (facet: Facet): string[] => allValues(facet.values).map(({ name }) => name);
async function set(facet: Facet, before: string, value: FacetValue, name: string): Promise<void> {
  if ((await setValue(facet.name, before, value)) && name !== before)
    await renameValue(facet.name, before, name);
}
/** Where one value is set, shown under its facet. */
const shown = shallowRef<{ facet: string; label: string; items: readonly ItemSummary[] }>();
async function showUses(facet: Facet, name: string): Promise<void> {
  const items = await ask(
    `${session.base}/facets/uses/${encodeURIComponent(facet.name)}/${encodeURIComponent(name)}`,
    z.array(ItemSummary),
  );
  shown.value = {
    facet: facet.name,
    label: allValues(facet.values).find((value) => value.name === name)?.label ?? name,
    items,
  };
}

/** The facet to which a value is being added, and the one whose label is being changed. */
const growing = shallowRef('');
const relabelled = shallowRef('');
async function add(facet: Facet, value: FacetValue): Promise<void> {
  if (await addValue(facet.name, value)) growing.value = '';
}
const ownName = 'own';
const fresh = reactive({ attribute: '', name: '', label: '' });
const free = computed((): { value: string; label: string }[] => [
  ...profilingAttributes
    .filter(
      (name) =>
        !['props', 'deliveryTarget'].includes(name) &&
        !facets.value.some((facet) => facet.name === name),
    )
    .map((name) => ({ value: name, label: name })),
  { value: ownName, label: 'a name of its own' },
]);
const freshFacet = computed(
  () =>
    Facet.safeParse({
      name: fresh.attribute === ownName ? fresh.name.trim() : fresh.attribute,
      label: fresh.label,
      values: [],
    }).data,
);
async function make(): Promise<void> {
  if (freshFacet.value && (await addFacet(freshFacet.value)))
    Object.assign(fresh, { attribute: '', name: '', label: '' });
}
</script>

<template>
  <main class="facets" tabindex="0" aria-label="Facets and lenses" :aria-busy="isBusy">
    <h1>Facets</h1>
    <p class="quiet">
      The axes along which content varies, each with its closed list of values. Writers pick from
      these lists; nobody types a value.
      {{ editable ? '' : 'Publishers and administrators change them.' }}
    </p>
    <section v-for="facet in facets" :key="facet.name" :aria-labelledby="`facet-${facet.name}`">
      <header>
        <h2 :id="`facet-${facet.name}`" :class="{ 'visually-hidden': relabelled === facet.name }">
          {{ facet.label }}
        </h2>
        <n-input
          v-if="relabelled === facet.name"
          size="tiny"
          class="relabel"
          autofocus
          :default-value="facet.label"
          :input-props="{ 'aria-label': `Label of ${facet.label}` }"
          @change="(label: string) => labelFacet(facet.name, label)"
          @blur="relabelled = ''"
          @keydown.enter="relabelled = ''"
        />
        <code class="quiet small">{{ facet.name }}</code>
        <span v-if="editable" class="acts">
          <n-button
            size="tiny"
            :aria-label="`Change the label of ${facet.label}`"
            @click="relabelled = facet.name"
          >
            Change
          </n-button>
          <n-button
            size="tiny"
            quaternary
            :aria-label="`Remove the facet ${facet.label}`"
            @click="removeFacet(facet.name)"
          >
            ×
          </n-button>
        </span>
      </header>
      <FacetValues
        :values="facet.values"
        :taken="namesOf(facet)"
        :editable="editable"
        :tag="(value) => tagOf(facets, facet, value)"
        :use="(name) => useOf(facet.name, name)"
        @set="(name, value, renamed) => set(facet, name, value, renamed)"
        @add="(value, within) => addValue(facet.name, value, within)"
        @remove="removeValue(facet.name, $event)"
        @move="(name, offset) => moveValue(facet.name, name, offset)"
        @uses="showUses(facet, $event)"
      />
      <div
        v-if="shown?.facet === facet.name"
        class="where"
        role="region"
        :aria-label="`Where ${shown.label} is set`"
      >
        <b class="small">{{ shown.label }} is set in</b>
        <router-link
          v-for="item in shown.items"
          :key="item.id"
          :to="{ name: item.kind === 'map' ? 'arrange' : 'write', params: { id: item.id } }"
        >
          {{ item.title }}
        </router-link>
        <n-button size="tiny" quaternary aria-label="Close the list" @click="shown = undefined">
          ×
        </n-button>
      </div>
      <ValueForm
        v-if="growing === facet.name"
        :taken="namesOf(facet)"
        @keep="(value) => add(facet, value)"
        @close="growing = ''"
      />
      <n-button
        v-else-if="editable"
        size="small"
        class="more"
        :aria-label="`Add a value to ${facet.label}`"
        @click="growing = facet.name"
      >
        Add a value
      </n-button>
    </section>
    <p v-if="facets.length === 0" class="quiet">
      There are no facets yet. A first one could be the audience, with an installer and an operator.
    </p>
    <form v-if="editable" class="make" aria-label="New facet" @submit.prevent="make">
      <n-input
        v-model:value="fresh.label"
        size="small"
        placeholder="Another facet: its label"
        :input-props="{ 'aria-label': 'Label of the new facet' }"
      />
      <PickOne
        v-model:chosen="fresh.attribute"
        label="Attribute"
        :options="[{ value: '', label: 'written as …' }, ...free]"
      />
      <n-input
        v-if="fresh.attribute === ownName"
        v-model:value="fresh.name"
        size="small"
        placeholder="name"
        :input-props="{ 'aria-label': 'Name of the new facet' }"
      />
      <n-button size="small" attr-type="submit" :disabled="!freshFacet">Add a facet</n-button>
    </form>
    <LensSection :facets="facets" :editable="editable" />
  </main>
</template>

<style scoped>
.facets {
  overflow: auto;
  height: 100%;
  padding: 20px 28px 60px;
}
.facets > * {
  max-width: 940px;
}
section {
  margin: 24px 0 0;
}
header {
  display: flex;
  gap: 10px;
  align-items: baseline;
  margin-bottom: 6px;
}
h2 {
  font: 400 15px var(--font-title);
  color: var(--prussian);
}
header .relabel {
  width: 180px;
}
header .acts {
  margin-left: auto;
  display: flex;
  gap: 4px;
}
.acts .n-button {
  min-width: 24px;
  height: 24px;
}
p {
  margin: 4px 0 10px;
}
.more {
  margin-top: 8px;
}
.make {
  display: flex;
  gap: 8px;
  margin-top: 28px;
}
.make > :first-child {
  width: 240px;
}
.where {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: baseline;
  padding: 8px 12px;
  margin: 6px 0;
  background: var(--paper-deep);
  border-radius: 4px;
}
</style>
