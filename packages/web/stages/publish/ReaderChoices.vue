<script setup lang="ts">
import type { ReaderChoice } from '@ukiyo/contracts';
import { openFacets, type Lens, type OpenValue } from '@ukiyo/core/facets';
import { computed } from 'vue';
import { useLibrary } from '../../parts/library.ts';
import OrderButtons from '../../parts/OrderButtons.vue';
import PickOne from '../../parts/PickOne.vue';
import CheckBox from '../../parts/CheckBox.vue';

/**
 * What the readers of a site may set themselves: which facets, in which order, called how, one
 * value or several, and what is set at first.
 */
const { lens, mayChange } = defineProps<{ lens: Lens | undefined; mayChange: boolean }>();
const choices = defineModel<ReaderChoice[]>('choices', { required: true });
const library = useLibrary();

const labelOf = (facet: string): string =>
  library.facets.find(({ name }) => name === facet)?.label ?? facet;
const left = computed(() =>
  library.facets.filter(({ name }) => !choices.value.some(({ facet }) => facet === name)),
);
const inOrder = (values: readonly OpenValue[], depth = 0): { value: string; label: string }[] =>
  values.flatMap(({ name, label, values: nested }) => [
    { value: name, label: `${'\u2003'.repeat(depth)}${label}` },
    ...inOrder(nested, depth + 1),
  ]);
/** Values that readers can have: those that the lens drops never ship. */
const valuesOf = (facet: string): { value: string; label: string }[] =>
  inOrder(openFacets([facet], library.facets, lens)[0]?.values ?? []);

const change = (at: number, to: Partial<ReaderChoice>): void =>
  void (choices.value = choices.value.with(at, { ...choices.value[at]!, ...to }));
function move(at: number, by: 1 | -1): void {
  choices.value = choices.value.toSpliced(at, 1).toSpliced(at + by, 0, choices.value[at]!);
}
const add = (facet: string): void =>
  void (choices.value = [...choices.value, { facet, label: '', pick: 'one', preset: [] }]);
function pick(at: number, how: string): void {
  const { preset } = choices.value[at]!;
  change(at, how === 'many' ? { pick: 'many' } : { pick: 'one', preset: preset.slice(0, 1) });
}
</script>

<template>
  <div class="choices">
    <fieldset v-for="(choice, at) in choices" :key="choice.facet">
      <legend>{{ labelOf(choice.facet) }}</legend>
      <n-input
        :value="choice.label"
        size="small"
        :disabled="!mayChange"
        :placeholder="labelOf(choice.facet)"
        :input-props="{ 'aria-label': `${labelOf(choice.facet)}: what readers read` }"
        @update:value="change(at, { label: $event })"
      />
      <PickOne
        :chosen="choice.pick"
        :label="`${labelOf(choice.facet)}: how many`"
        :disabled="!mayChange"
        :options="[
          { value: 'one', label: 'one or all' },
          { value: 'many', label: 'any of them' },
        ]"
        @update:chosen="pick(at, $event)"
      />
      <PickOne
        v-if="choice.pick === 'one'"
        :chosen="choice.preset[0] ?? ''"
        :label="`${labelOf(choice.facet)}: at first`"
        :disabled="!mayChange"
        :options="[{ value: '', label: 'at first all' }, ...valuesOf(choice.facet)]"
        @update:chosen="change(at, { preset: $event === '' ? [] : [$event] })"
      />
      <details v-else class="preset">
        <summary class="small">
          {{ choice.preset.length === 0 ? 'at first all' : `at first ${choice.preset.length}` }}
        </summary>
        <CheckBox
          v-for="one in valuesOf(choice.facet)"
          :key="one.value"
          :checked="choice.preset.includes(one.value)"
          :disabled="!mayChange"
          @update:checked="
            change(at, {
              preset: choice.preset.includes(one.value)
                ? choice.preset.filter((other) => other !== one.value)
                : [...choice.preset, one.value],
            })
          "
        >
          {{ one.label }}
        </CheckBox>
      </details>
      <OrderButtons
        v-if="mayChange"
        :label="labelOf(choice.facet)"
        :at="at"
        :count="choices.length"
        removing="not for readers to set"
        @move="move(at, $event)"
        @remove="choices = choices.toSpliced(at, 1)"
      />
    </fieldset>
    <PickOne
      v-if="mayChange && left.length > 0"
      chosen=""
      label="Let readers set"
      :options="[
        { value: '', label: choices.length === 0 ? 'nothing; let them set …' : 'and …' },
        ...left.map(({ name, label }) => ({ value: name, label })),
      ]"
      @update:chosen="add"
    />
    <span v-else-if="choices.length === 0" class="quiet small">nothing</span>
  </div>
</template>

<style scoped>
.choices {
  display: grid;
  gap: 6px;
  justify-items: start;
}
fieldset {
  display: grid;
  grid-template-columns: 1fr auto auto auto;
  gap: 6px;
  align-items: center;
  width: 100%;
  margin: 0;
  padding: 0 0 6px;
  border: 0;
  border-bottom: 1px solid var(--hair);
}
legend {
  padding: 0;
  font-size: 13px;
}
.preset .n-checkbox {
  display: flex;
}
</style>
