<script setup lang="ts">
import type { Lens, LensDecision } from '@ukiyo/contracts';
import {
  actionOn,
  tagOf,
  type Facet,
  type FacetValue,
  type LensAction,
  type LensRule,
  type MarkLook,
} from '@ukiyo/core/facets';
import FacetBadge from '../../parts/FacetBadge.vue';
import PickOne from '../../parts/PickOne.vue';
import MarkLookForm from './MarkLookForm.vue';

/**
 * What one lens does with each value; what says nothing follows the value around it, its facet, and
 * the rest.
 */
const { lens, facets, editable } = defineProps<{
  lens: Lens;
  facets: readonly Facet[];
  editable: boolean;
}>();
const emit = defineEmits<{ decide: [LensDecision] }>();

interface Row {
  readonly value: FacetValue;
  readonly depth: number;
}
const rowsOf = (values: readonly FacetValue[], depth = 0): Row[] =>
  values.flatMap((value) => [{ value, depth }, ...rowsOf(value.values ?? [], depth + 1)]);
const words: Readonly<Record<LensAction, string>> = { keep: 'keep', drop: 'drop', mark: 'mark' };
const ruleOn = (facet?: string, value?: string): LensRule | undefined =>
  lens.rules.find((rule) => rule.facet === facet && rule.value === value);
const actionFor = (facet?: string, value?: string): LensAction | undefined =>
  ruleOn(facet, value)?.action;
function options(follows: LensAction): { value: string; label: string }[] {
  return [
    { value: '', label: `as above: ${words[follows]}` },
    ...Object.entries(words).map(([value, label]) => ({ value, label })),
  ];
}
/** What would hold without a decision of its own. */
const without = (facet: string, value?: string): LensAction =>
  actionOn(
    { ...lens, rules: lens.rules.filter((rule) => rule.facet !== facet || rule.value !== value) },
    facet,
    value,
    facets,
  );
function decide(action: string, facet?: string, value?: string): void {
  emit('decide', {
    ...(facet === undefined ? {} : { facet }),
    ...(value === undefined ? {} : { value }),
    ...(action === '' ? {} : { action: action as LensAction }),
  });
}
function dress(look: MarkLook, facet?: string, value?: string): void {
  emit('decide', {
    ...(facet === undefined ? {} : { facet }),
    ...(value === undefined ? {} : { value }),
    action: 'mark',
    look,
  });
}
</script>

<template>
  <table>
    <tbody>
      <tr class="rest">
        <th scope="row">Everything that is not named below</th>
        <td>
          <PickOne
            :chosen="actionFor() ?? 'keep'"
            label="Everything else"
            :disabled="!editable"
            :options="Object.entries(words).map(([value, label]) => ({ value, label }))"
            @update:chosen="decide($event)"
          />
          <MarkLookForm
            v-if="actionFor() === 'mark'"
            :look="ruleOn()?.look"
            label="Everything else"
            :disabled="!editable"
            @change="dress($event)"
          />
        </td>
      </tr>
      <template v-for="facet in facets" :key="facet.name">
        <tr class="facet">
          <th scope="row">{{ facet.label }}: what is not named</th>
          <td>
            <PickOne
              :chosen="actionFor(facet.name) ?? ''"
              :label="`${facet.label}, the rest`"
              :disabled="!editable"
              :options="options(without(facet.name))"
              @update:chosen="decide($event, facet.name)"
            />
            <MarkLookForm
              v-if="actionFor(facet.name) === 'mark'"
              :look="ruleOn(facet.name)?.look"
              :label="`${facet.label}, the rest`"
              :disabled="!editable"
              @change="dress($event, facet.name)"
            />
          </td>
        </tr>
        <tr
          v-for="{ value, depth } in rowsOf(facet.values)"
          :key="value.name"
          :class="actionOn(lens, facet.name, value.name, facets)"
        >
          <th scope="row" :style="{ paddingLeft: `${16 + depth * 22}px` }">
            <FacetBadge :tag="tagOf(facets, facet, value)" />
            <span class="name">{{ value.label }}</span>
          </th>
          <td>
            <PickOne
              :chosen="actionFor(facet.name, value.name) ?? ''"
              :label="`${facet.label}: ${value.label}`"
              :disabled="!editable"
              :options="options(without(facet.name, value.name))"
              @update:chosen="decide($event, facet.name, value.name)"
            />
            <MarkLookForm
              v-if="actionFor(facet.name, value.name) === 'mark'"
              :look="ruleOn(facet.name, value.name)?.look"
              :label="`${facet.label}: ${value.label}`"
              :disabled="!editable"
              @change="dress($event, facet.name, value.name)"
            />
          </td>
        </tr>
      </template>
    </tbody>
  </table>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
  max-width: 820px;
}
th {
  text-align: left;
  font-weight: 400;
  padding: 4px 10px 4px 0;
}
td {
  width: 420px;
  padding: 3px 0;
}
td :deep(select) {
  width: 150px;
}
tr {
  border-top: 1px solid var(--hair);
}
.facet th,
.rest th {
  color: var(--soft);
  font-size: 13px;
}
.facet th {
  padding-top: 10px;
}
.name {
  margin-left: 8px;
}
.drop .name {
  color: var(--soft);
  text-decoration: line-through;
}
.mark .name {
  background: color-mix(in srgb, var(--amber) 14%, transparent);
}
</style>
