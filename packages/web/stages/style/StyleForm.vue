<script setup lang="ts">
import {
  propertyDefinition,
  familyOf,
  styleLineage,
  propertiesFor,
  propertyGroups,
  roleOf,
  withStyle,
  withValue,
  type Attachment,
  type Medium,
  type PropertyName,
  type StyleSheet,
  type Value,
} from '@ukiyo/core/styles';
import { computed } from 'vue';
import LineInput from '../../parts/LineInput.vue';
import PickOne from '../../parts/PickOne.vue';
import PropertyRow from './PropertyRow.vue';

/** One style: what it is based on, and every property in print and on screen. */
const { sheet, id, locale, disabled } = defineProps<{
  sheet: StyleSheet;
  id: string;
  locale: string;
  disabled: boolean;
}>();
const emit = defineEmits<{ change: [(sheet: StyleSheet) => StyleSheet]; remove: [] }>();
const style = computed(() => sheet.styles[id] ?? {});
const isOwn = computed(() => roleOf(id) === undefined);
const nameOf = (one: string): string => sheet.styles[one]?.label ?? roleOf(one)?.label ?? one;
const family = computed(() => familyOf(sheet, id));
const groups = computed(() =>
  propertyGroups
    .map((group) => ({
      group,
      names: propertiesFor(family.value).filter(
        (name) =>
          propertyDefinition(name).group === group &&
          (name !== 'breakBefore' || id.startsWith('heading-')),
      ),
    }))
    .filter(({ names }) => names.length > 0),
);
/** What it can rest on without coming back to itself. */
const bases = computed(() =>
  Object.keys(sheet.styles)
    .filter(
      (one) =>
        one !== id &&
        familyOf(sheet, one) === family.value &&
        !styleLineage(sheet, one).includes(id),
    )
    .map((one) => ({ value: one, label: nameOf(one) })),
);
const base = computed(() => styleLineage(sheet, id)[1] ?? '');
const propertyCount = computed(
  () => Object.keys({ ...style.value.all, ...style.value.print, ...style.value.screen }).length,
);
const change = (name: PropertyName, medium: Medium | 'both', value: Value | undefined): void =>
  emit('change', (now) => withValue(now, id, { name, medium, value }));
const setBase = (one: string): void =>
  emit('change', (now) => withStyle(now, id, { ...now.styles[id], base: one }));
function setTarget(part: keyof Attachment, typed: string): void {
  emit('change', (now) => {
    const { [part]: _before, ...others } = now.styles[id]?.appliesTo ?? {};
    return withStyle(now, id, {
      ...now.styles[id],
      appliesTo: typed === '' ? others : { ...others, [part]: typed },
    });
  });
}
</script>

<template>
  <div class="form">
    <header>
      <h2>{{ nameOf(id) }}</h2>
      <label v-if="id !== 'text'" class="based">
        Based on
        <PickOne
          :chosen="base"
          label="Based on"
          :options="
            bases.some(({ value }) => value === base)
              ? bases
              : [{ value: base, label: nameOf(base) }, ...bases]
          "
          :disabled="disabled"
          @update:chosen="setBase"
        />
      </label>
      <span class="quiet small">{{ propertyCount }} of its own</span>
    </header>
    <slot />
    <fieldset v-if="isOwn" class="applies" :disabled="disabled">
      <legend>Applies to</legend>
      <label>
        Name
        <LineInput
          :value="style.label ?? ''"
          label="Name of the style"
          @change="
            (label: string) =>
              label !== '' &&
              emit('change', (now) => withStyle(now, id, { ...now.styles[id], label }))
          "
        />
      </label>
      <label>
        Element
        <LineInput
          :value="style.appliesTo?.element ?? ''"
          label="Applies to the element"
          placeholder="any"
          @change="setTarget('element', $event)"
        />
      </label>
      <label>
        Within
        <LineInput
          :value="style.appliesTo?.within ?? ''"
          label="Within the element"
          placeholder="anything"
          @change="setTarget('within', $event)"
        />
      </label>
      <label>
        Output class
        <LineInput
          :value="style.appliesTo?.outputclass ?? ''"
          label="With the output class"
          placeholder="any"
          @change="setTarget('outputclass', $event)"
        />
      </label>
      <button type="button" class="plain seal-text" @click="emit('remove')">
        Remove this style
      </button>
    </fieldset>
    <section v-for="{ group, names } in groups" :key="group" role="table" :aria-label="group">
      <h3>
        <span>{{ group }}</span>
        <span class="medium">Print</span>
        <span class="medium">Screen</span>
      </h3>
      <PropertyRow
        v-for="name in names"
        :id="id"
        :key="`${id} ${name}`"
        :sheet="sheet"
        :name="name"
        :name-of="nameOf"
        :locale="locale"
        :disabled="disabled"
        @change="(medium, value) => change(name, medium, value)"
      />
    </section>
  </div>
</template>

<style scoped>
header {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 12px;
  margin-bottom: 6px;
}
h2 {
  font-size: 20px;
}
.based {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  font-size: 13px;
  color: var(--soft);
}
h3 {
  display: grid;
  grid-template-columns: 118px minmax(0, 1fr) minmax(0, 1fr) 52px;
  gap: 10px;
  margin: 12px 0 2px;
  padding-bottom: 2px;
  border-bottom: 1px solid var(--hair);
  font: 600 13px var(--font-text);
}
.medium {
  color: var(--soft);
  font-weight: 400;
}
.applies {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 8px 12px;
  border: 1px solid var(--hair);
  border-radius: 4px;
  padding: 8px 12px 12px;
}
.applies label {
  display: grid;
  gap: 2px;
  font-size: 13px;
  color: var(--soft);
}
legend {
  font: 600 13px var(--font-text);
  padding: 0 4px;
}
.applies button {
  justify-self: start;
}
</style>
