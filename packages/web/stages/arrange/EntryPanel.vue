<script setup lang="ts">
import {
  branchLenses,
  changeEntry,
  entryTitle,
  inclusionOf,
  isOnePage,
  isWithoutHeading,
  peerScope,
  rolesAt,
  standsOnPageAbove,
  withBranchLenses,
  withEntryTitle,
  withHeading,
  withInclusion,
  withOnePage,
  withPeerScope,
  type Inclusion,
  type MapEntry,
} from '@ukiyo/core/arranging';
import { markupOf, markupNodes } from '@ukiyo/core/library';
import type { Element } from '@ukiyo/core/markup';
import { computed, ref, watch } from 'vue';
import PhraseField from '../../editor/PhraseField.vue';
import { useLens } from '../../parts/lens.ts';
import LineInput from '../../parts/LineInput.vue';
import PickOne from '../../parts/PickOne.vue';
import type { MapContents } from './useContents.ts';
import type { Entries } from './useEntries.ts';
import type { OpenMap } from './useMap.ts';
import CheckBox from '../../parts/CheckBox.vue';

/**
 * One entry: how it is called at its place, what it is, in which outputs it is, and through which
 * lenses it is seen.
 */
const { map, entry, entries, contents, editable } = defineProps<{
  map: OpenMap;
  entry: MapEntry;
  entries: Entries;
  contents: MapContents;
  editable: boolean;
}>();
const emit = defineEmits<{ refused: []; cut: []; facets: [] }>();
const looking = useLens();
const markup = ref('');
const key = computed(() => entry.path.join('.'));
watch(key, () => (markup.value = markupOf(entryTitle(entry.element))), { immediate: true });
const isChanged = computed(() => markup.value !== markupOf(entryTitle(entry.element)));

function change(how: (one: Element) => Element): void {
  if (!map.change(entry.path, how)) emit('refused');
}
const keepTitle = (): void => change((one) => withEntryTitle(one, markupNodes(markup.value) ?? []));
const roles = computed(() =>
  map.root.value
    ? rolesAt(map.root.value, entry.path).map(({ name, label }) => ({ value: name, label }))
    : [],
);
const inclusion = computed(() => inclusionOf(entry.element));
const boxes: readonly { name: keyof Inclusion; label: string }[] = [
  { name: 'print', label: 'in print' },
  { name: 'site', label: 'in help sites' },
  { name: 'contents', label: 'in the contents' },
  { name: 'links', label: 'in links made by where it stands' },
];
const toggle = (name: keyof Inclusion): void =>
  change((one) => withInclusion(one, { ...inclusion.value, [name]: !inclusion.value[name] }));
/** In none of the outputs it would be nowhere: then it is taken out instead. */
const isLast = (name: keyof Inclusion): boolean =>
  (name === 'print' && !inclusion.value.site) || (name === 'site' && !inclusion.value.print);
const lenses = computed(() => branchLenses(entry.element));
const toggleLens = (id: string): void =>
  change((one) =>
    withBranchLenses(
      one,
      lenses.value.includes(id)
        ? lenses.value.filter((lens) => lens !== id)
        : [...lenses.value, id],
    ),
  );
const isFamily = computed(() => entry.element.attributes['collection-type'] === 'family');
function toggleFamily(): void {
  const { 'collection-type': _before, ...others } = entry.element.attributes;
  change((one) => ({
    ...one,
    attributes: isFamily.value ? others : { ...others, 'collection-type': 'family' },
  }));
}
const wholePage = computed(() => isOnePage(entry.element));
const joins = computed(
  () => map.root.value !== undefined && standsOnPageAbove(map.root.value, entry.path),
);
const headless = computed(() => isWithoutHeading(entry.element));
const isMap = computed(() => entries.itemOf(entry)?.kind === 'map');
const scope = computed(() => peerScope(entry.element));
/** A name that its variables can begin with, until another is written. */
const togglePeer = (): void =>
  change((one) =>
    withPeerScope(one, scope.value === undefined ? entries.targetOf(entry) : undefined),
  );
const mayCut = computed(
  () =>
    map.root.value !== undefined &&
    changeEntry(map.root.value, entry.path, (one) => one) !== undefined &&
    entry.element.children.length > 0,
);
const place = computed(() => contents.placeOf(entry.path));
</script>

<template>
  <section class="entry-panel" aria-label="Entry">
    <h2>{{ entries.titleOf(entry) }}</h2>
    <p v-if="place?.dropped" class="small">Not in this edition: {{ place.dropped }}.</p>
    <p v-else-if="place?.number" class="small quiet">Number {{ place.number }} in this edition</p>
    <p v-if="entries.itemOf(entry)" class="small">
      <router-link
        :to="{
          name: entries.itemOf(entry)!.kind === 'map' ? 'arrange' : 'write',
          params: { id: entries.targetOf(entry) },
        }"
      >
        {{ entries.itemOf(entry)!.title }}
      </router-link>
      {{ ' ' }}
      <code class="quiet">{{ entries.targetOf(entry) }}</code>
    </p>
    <fieldset :disabled="!editable">
      <div v-if="isMap" class="field">
        <CheckBox :checked="scope !== undefined" :disabled="!editable" @update:checked="togglePeer">
          another publication: nothing of it is taken in, links may lead to it
        </CheckBox>
        <label v-if="scope !== undefined">
          Its variables begin with
          <LineInput
            :value="scope"
            label="Its variables begin with"
            @change="(name: string) => change((one) => withPeerScope(one, name))"
          />
        </label>
      </div>
      <template v-if="scope === undefined">
        <label v-if="roles.length > 0">
          What it is
          <PickOne
            :chosen="entry.element.name"
            label="What it is"
            :options="roles"
            :disabled="!editable"
            @update:chosen="change((one) => ({ ...one, name: $event }))"
          />
        </label>
        <div class="field">
          <span>
            {{ entry.href === '' ? 'Heading' : 'Title here, if another than that of the topic' }}
          </span>
          <PhraseField :key="key" v-model:markup="markup" label="Title here" @enter="keepTitle" />
          <n-button v-if="isChanged" size="tiny" type="primary" @click="keepTitle">
            Keep the title
          </n-button>
        </div>
        <div class="field">
          <span>It is</span>
          <CheckBox
            v-for="{ name, label } in boxes"
            :key="name"
            :checked="inclusion[name]"
            :disabled="!editable || isLast(name)"
            @update:checked="toggle(name)"
          >
            {{ label }}
          </CheckBox>
        </div>
        <CheckBox :checked="isFamily" :disabled="!editable" @update:checked="toggleFamily">
          what stands under it leads to each other
        </CheckBox>
        <div class="field">
          <span>On help sites</span>
          <p v-if="joins" class="small">It stands on the page of the topic above.</p>
          <CheckBox
            :checked="wholePage"
            :disabled="!editable"
            @update:checked="change((one) => withOnePage(one, !wholePage))"
          >
            one page with all that stands under it
          </CheckBox>
          <CheckBox
            v-if="joins"
            :checked="headless"
            :disabled="!editable"
            @update:checked="change((one) => withHeading(one, headless))"
          >
            without its heading, also in print: its text goes on in that of the topic above
          </CheckBox>
        </div>
        <div v-if="looking.lenses.length > 0" class="field">
          <span>Seen through a lens of its own; once for each</span>
          <CheckBox
            v-for="lens in looking.lenses"
            :key="lens.id"
            :checked="lenses.includes(lens.id)"
            :disabled="!editable"
            @update:checked="toggleLens(lens.id)"
          >
            {{ lens.name }}
          </CheckBox>
        </div>
      </template>
    </fieldset>
    <div v-if="editable" class="acts">
      <n-button size="small" @click="emit('facets')">Only for …</n-button>
      <n-button v-if="mayCut" size="small" @click="emit('cut')">Make it a map of its own</n-button>
    </div>
  </section>
</template>

<style scoped>
.entry-panel {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 10px;
  align-content: start;
}
h2 {
  font: 400 16px var(--font-title);
  margin: 0;
}
p {
  margin: 0;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 12px;
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
.acts {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
}
a {
  color: var(--prussian);
}
</style>
