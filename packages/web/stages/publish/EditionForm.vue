<script setup lang="ts">
import { EditionInput, outputs, type Edition, type EditionFacts, type Impression, type Lens, type ReaderChoice } from '@ukiyo/contracts';
import { lensOf } from '@ukiyo/core/facets';
import { usualStops, type ProblemKind } from '@ukiyo/core/problems';
import { computed, onMounted, reactive, ref, watch } from 'vue';
import PickOne from '../../parts/PickOne.vue';
import { kindOfVariable, useVariables } from '../../parts/variables.ts';
import { useDesigns } from '../../parts/designs.ts';
import { useLibrary } from '../../parts/library.ts';
import ReaderChoices from './ReaderChoices.vue';
import WhatStops from './WhatStops.vue';

const { edition, lenses, impressions, mayChange } = defineProps<{ edition: Edition | undefined; lenses: readonly Lens[]; /** Of this edition, newest first. */ impressions: readonly Impression[]; mayChange: boolean }>();
const emit = defineEmits<{ save: [EditionInput] }>();
const library = useLibrary();
const variables = useVariables();
const designs = useDesigns();
onMounted(() => Promise.all([variables.ensure(), designs.ensure()]));
const sheets = computed(() => designs.list.sheets.map(({ id, content }) => ({ value: id, label: content.name })));
const looks = computed(() => designs.list.looks.map(({ id, content }) => ({ value: id, label: content.name })));
const plans = computed(() => designs.list.plans.map(({ id, content }) => ({ value: id, label: content.name })));

const sinces = computed(() => {
  const built = impressions.filter(({ state }) => state === 'done').map(({ id, number, finishedAt }) => ({ value: id, label: `what changed since number ${number}${finishedAt === null ? '' : `, ${new Date(finishedAt).toLocaleDateString()}`}` }));
  return [{ value: '', label: 'nothing' }, ...built];
});

interface Fields {
  name: string;
  output: EditionInput['output'];
  map: string;
  lens: string;
  locale: string;
  sheet: string;
  plan: string;
  look: string;
  address: string;
  since: string;
  choices: ReaderChoice[];
  stops: ProblemKind[];
  keeps: number;
  variables: { key: string; value: string }[];
  facts: Record<keyof EditionFacts, string>;
}
const factLabels = { title: 'Title', subtitle: 'Subtitle', bookNumber: 'Number', edition: 'Edition', date: 'Date', rights: 'Rights' } as const satisfies Record<keyof EditionFacts, string>;
const factsOf = (given: EditionFacts | undefined) => Object.fromEntries(Object.keys(factLabels).map((name) => [name, given?.[name as keyof EditionFacts] ?? ''])) as Fields['facts'];
const fields = reactive<Fields>({ name: '', output: 'print', map: '', lens: '', locale: 'en', sheet: 'workshop', plan: 'a4-margin', look: 'harbour', address: '', since: '', choices: [], stops: [...usualStops], keeps: 20, variables: [], facts: factsOf(undefined) });
watch(
  () => edition,
  (current) => {
    Object.assign(fields, { name: current?.name ?? '', output: current?.output ?? 'print', map: current?.map ?? '', lens: current?.lens ?? '', locale: current?.locale ?? 'en', sheet: current?.sheet ?? 'workshop', plan: current?.plan ?? 'a4-margin', look: current?.look ?? 'harbour', address: current?.address ?? '', since: current?.since ?? '', choices: [...(current?.choices ?? [])], stops: [...(current?.stops ?? usualStops)], keeps: current?.keeps ?? 20, facts: factsOf(current?.facts), variables: Object.entries(current?.variables ?? {}).map(([key, value]) => ({ key, value })) });
  },
  { immediate: true },
);
/** Keys are picked, not typed; what was set before stays to be seen. */
const keys = computed(() => [...new Set([...variables.named.filter((one) => kindOfVariable(one) === 'text').map(({ key }) => key), ...fields.variables.map(({ key }) => key)])].map((key) => ({ value: key, label: key || 'which one …' })));
/** The texts that one may choose for a variable; none where anything may be written. */
function choicesOf(key: string): string[] {
  const definitions = variables.byKey.get(key) ?? [];
  return definitions.some(({ choices }) => choices.length > 0) ? [...new Set(definitions.flatMap(({ line, choices }) => [line, ...choices]))] : [];
}
/** What is wrong with what was filled in, by field. */
const faults = ref<Readonly<Record<string, string>>>({});
function save(): void {
  const variables = Object.fromEntries(fields.variables.filter(({ key }) => key.trim() !== '').map(({ key, value }) => [key.trim(), value]));
  const facts = Object.fromEntries(Object.entries(fields.facts).filter(([, value]) => value.trim() !== ''));
  const checked = EditionInput.safeParse({ name: fields.name, output: fields.output, map: fields.map, lens: fields.lens === '' ? null : fields.lens, locale: fields.locale, sheet: fields.sheet, plan: fields.plan, look: fields.look, address: fields.address, since: fields.output === 'print' && fields.since !== '' ? fields.since : null, choices: fields.output === 'site' ? fields.choices : [], stops: fields.stops, keeps: fields.keeps, variables, facts });
  faults.value = checked.success ? {} : Object.fromEntries(checked.error.issues.map(({ path, message }) => [String(path[0]), message]));
  if (checked.success) emit('save', checked.data);
}
</script>

<template>
  <form class="edition" @submit.prevent="save">
    <label for="edition-name">Name</label><n-input v-model:value="fields.name" :disabled="!mayChange" :input-props="{ id: 'edition-name' }" placeholder="" />
    <label>Output</label><n-select v-model:value="fields.output" :disabled="!mayChange" :options="Object.entries(outputs).map(([value, { label }]) => ({ value, label }))" :input-props="{ 'aria-label': 'Output' }" />
    <label>Map</label><n-select v-model:value="fields.map" filterable :disabled="!mayChange" :options="library.items.filter((item) => item.kind === 'map').map((item) => ({ value: item.id, label: item.title || item.id }))" :input-props="{ 'aria-label': 'Map' }" />
    <label>Lens</label><n-select v-model:value="fields.lens" :disabled="!mayChange" :options="[{ value: '', label: 'Everything' }, ...lenses.map((lens) => ({ value: lens.id, label: lens.name }))]" :input-props="{ 'aria-label': 'Lens' }" />
    <label>Styles</label><span class="designs"><PickOne v-model:chosen="fields.sheet" label="Style sheet" :options="sheets" :disabled="!mayChange" /><router-link class="small" :to="{ name: 'style', params: { kind: 'sheets', id: fields.sheet } }">open in Style</router-link></span>
    <template v-if="fields.output === 'print'"><label>Pages</label><span class="designs"><PickOne v-model:chosen="fields.plan" label="Page plan" :options="plans" :disabled="!mayChange" /><router-link class="small" :to="{ name: 'style', params: { kind: 'plans', id: fields.plan } }">open in Style</router-link></span></template>
    <template v-if="fields.output === 'print' && sinces.length > 1"><label>Bars beside</label><PickOne v-model:chosen="fields.since" label="Bars beside what changed since" :options="sinces" :disabled="!mayChange" /></template>
    <template v-if="fields.output === 'site' || fields.output === 'page'"><label>Look</label><span class="designs"><PickOne v-model:chosen="fields.look" label="Site look" :options="looks" :disabled="!mayChange" /><router-link class="small" :to="{ name: 'looks', params: { id: fields.look } }">open in Style</router-link></span></template>
    <template v-if="fields.output === 'site'"><span class="label top">Readers set</span><ReaderChoices v-model:choices="fields.choices" :lens="lensOf(fields.lens, lenses, library.facets)" :may-change="mayChange" /></template>
    <label for="edition-locale">Locale</label><n-input v-model:value="fields.locale" :disabled="!mayChange" :input-props="{ id: 'edition-locale' }" placeholder="" />
    <template v-if="faults['locale']"><span /><p class="seal-text" role="alert">{{ faults['locale'] }}</p></template>
    <label for="edition-address">Address</label><div class="with-hint"><n-input v-model:value="fields.address" :disabled="!mayChange" :input-props="{ id: 'edition-address', 'aria-describedby': 'edition-address-hint' }" placeholder="" /><p id="edition-address-hint" class="small quiet">Where its readers find it: https://…, or the way from beside another site, as ../help/. Other publications lead there; without it they name it in words.</p><p v-if="faults['address']" class="seal-text" role="alert">{{ faults['address'] }}</p></div>
    <span class="label">Variables</span>
    <div class="variables">
      <div v-for="(variable, index) in fields.variables" :key="index" class="variable"><PickOne v-model:chosen="variable.key" label="Variable" :disabled="!mayChange" :options="keys" /><PickOne v-if="choicesOf(variable.key).length > 0" v-model:chosen="variable.value" label="Text" :disabled="!mayChange" :options="[...new Set([...choicesOf(variable.key), variable.value])].map((value) => ({ value, label: value || 'which text …' }))" /><n-input v-else v-model:value="variable.value" size="small" placeholder="text" :disabled="!mayChange" :input-props="{ 'aria-label': 'Text' }" /><n-button v-if="mayChange" size="small" quaternary aria-label="Remove variable" @click="fields.variables.splice(index, 1)">×</n-button></div>
      <n-button v-if="mayChange" size="small" @click="fields.variables.push({ key: '', value: '' })">Add variable</n-button>
    </div>
    <span class="label">Says of itself</span>
    <details class="facts" :open="Object.values(fields.facts).some((value) => value !== '')"><summary class="small">{{ Object.values(fields.facts).some((value) => value !== '') ? 'otherwise than its map' : 'what its map says' }}</summary>
      <label v-for="(label, name) in factLabels" :key="name">{{ label }}<n-input v-model:value="fields.facts[name]" size="small" :disabled="!mayChange" placeholder="as the map says" :input-props="{ 'aria-label': `${label} of the edition` }" /></label>
      <p v-if="faults['facts']" class="seal-text" role="alert">{{ faults['facts'] }}</p>
    </details>
    <span class="label">Sign-off waits for</span><WhatStops v-model:stops="fields.stops" :may-change="mayChange" />
    <label for="edition-keeps">Impressions kept</label><div class="with-hint"><input id="edition-keeps" v-model.number="fields.keeps" class="keeps" type="number" min="1" max="500" :disabled="!mayChange" aria-describedby="edition-keeps-hint" /><p id="edition-keeps-hint" class="small quiet">Older ones go when another has been built. Those that are signed off, named or the measure of bars stay.</p></div>
    <span /><n-button v-if="mayChange" attr-type="submit" class="save" :disabled="fields.name.trim() === '' || fields.map === ''">Save edition</n-button>
  </form>
</template>

<style scoped>
.designs { display: flex; gap: 10px; align-items: center; } .edition { display: grid; grid-template-columns: 112px minmax(0, 420px); gap: 8px 14px; align-items: center; } .edition > p { margin: 0; } .top { align-self: start; padding-top: 4px; } label, .label { color: var(--soft); font-size: 13px; } .variables { display: grid; gap: 6px; justify-items: start; } .variable { display: grid; grid-template-columns: 1fr 1.4fr auto; gap: 6px; width: 100%; } .save { justify-self: start; } .keeps { width: 80px; font: inherit; color: var(--ink); background: var(--sheet); border: 1px solid var(--hair); border-radius: 4px; padding: 4px 8px; } .facts label { display: grid; grid-template-columns: 70px 1fr; align-items: center; padding: 3px 0; } .facts p { margin: 3px 0 0; } .with-hint > p { margin: 3px 0 0; }
</style>
