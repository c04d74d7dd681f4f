<script setup lang="ts">
import {
  propertyDefinition,
  propertySource,
  valuesOf,
  type Medium,
  type PropertyName,
  type PropertySource,
  type StyleSheet,
  type Value,
} from '@ukiyo/core/styles';
import { computed, ref, watch } from 'vue';
import ValueField from './ValueField.vue';

/**
 * One property in print and on screen: the same, or each for itself; where it comes from when this
 * style does not say it.
 */
const { sheet, id, name, nameOf, locale, disabled } = defineProps<{
  sheet: StyleSheet;
  id: string;
  name: PropertyName;
  nameOf: (style: string) => string;
  locale: string;
  disabled: boolean;
}>();
const emit = defineEmits<{ change: [medium: Medium | 'both', value: Value | undefined] }>();
const definition = computed(() => propertyDefinition(name));
const standing = computed(() => ({
  print: propertySource(sheet, id, name, 'print'),
  screen: propertySource(sheet, id, name, 'screen'),
}));
const differs = computed(
  () =>
    JSON.stringify(valuesOf(sheet, id, 'print')[name] ?? standing.value.print?.value) !==
    JSON.stringify(valuesOf(sheet, id, 'screen')[name] ?? standing.value.screen?.value),
);
/** The media are shown apart where they differ, and while a difference is being set. */
const isApart = ref(false);
watch(
  () => id,
  () => (isApart.value = false),
);
const apart = computed(() => !definition.value.printOnly && (differs.value || isApart.value));
const isSaid = computed(
  () => standing.value.print?.from === id || standing.value.screen?.from === id,
);
const source = (one: PropertySource | undefined): string =>
  !one ? '' : one.from === id ? '' : `as ${nameOf(one.from)}`;
function join(): void {
  isApart.value = false;
  if (differs.value) emit('change', 'both', standing.value.print?.value);
}
</script>

<template>
  <div class="property" :class="{ said: isSaid }" role="row">
    <span class="name" role="rowheader">{{ definition.label }}</span>
    <div
      v-for="medium in (apart ? ['print', 'screen'] : ['print']) as Medium[]"
      :key="medium"
      class="cell"
      :class="{ wide: !apart && !definition.printOnly }"
      role="cell"
    >
      <ValueField
        :name="name"
        :value="standing[medium]?.value"
        :label="
          apart || definition.printOnly
            ? `${definition.label}, ${medium === 'print' ? 'print' : 'screen'}`
            : definition.label
        "
        :colours="sheet.colours"
        :locale="locale"
        :disabled="disabled"
        @change="
          (value) => emit('change', apart ? medium : definition.printOnly ? 'print' : 'both', value)
        "
      />
      <span v-if="source(standing[medium])" class="small from">{{ source(standing[medium]) }}</span>
    </div>
    <span v-if="definition.printOnly" class="cell small from" role="cell">paper only</span>
    <span class="acts" role="cell">
      <button
        v-if="!definition.printOnly"
        type="button"
        class="plain"
        :aria-pressed="apart"
        :aria-label="`${definition.label}: print and screen apart`"
        :title="apart ? 'Make print and screen the same' : 'Let print and screen differ'"
        :disabled="disabled"
        @click="apart ? join() : (isApart = true)"
      >
        {{ apart ? '≠' : '=' }}
      </button>
      <button
        type="button"
        class="plain"
        :style="{ visibility: isSaid ? 'visible' : 'hidden' }"
        :aria-label="`${definition.label}: remove the value`"
        title="Remove the value; the style that this one is based on gives it"
        :disabled="disabled"
        @click="emit('change', 'both', undefined)"
      >
        ×
      </button>
    </span>
  </div>
</template>

<style scoped>
.property {
  display: grid;
  grid-template-columns: 118px minmax(0, 1fr) minmax(0, 1fr) 52px;
  gap: 4px 10px;
  align-items: start;
  padding: 3px 0;
}
.name {
  padding-top: 5px;
  font-size: 13px;
  color: var(--soft);
}
.said .name {
  color: var(--ink);
  font-weight: 600;
}
.wide {
  grid-column: span 2;
}
.cell {
  min-width: 0;
  display: grid;
  gap: 1px;
}
.from {
  color: var(--soft);
  align-self: center;
}
.acts {
  display: flex;
  gap: 2px;
}
.acts button {
  width: 24px;
  height: 28px;
  border-radius: 4px;
  color: var(--soft);
}
.acts button[aria-pressed='true'] {
  color: var(--prussian);
  font-weight: 700;
}
.acts button:hover {
  background: var(--paper-deep);
}
</style>
