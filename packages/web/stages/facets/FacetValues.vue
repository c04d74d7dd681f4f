<script setup lang="ts">
import type { ValueUse } from '@ukiyo/contracts';
import type { FacetTag, FacetValue } from '@ukiyo/core/facets';
import { ref } from 'vue';
import FacetBadge from '../../parts/FacetBadge.vue';
import ValueForm from './ValueForm.vue';

/** The values of one facet, nested ones under the one they are nested in. */
const { values, taken, editable, tag, use } = defineProps<{
  values: readonly FacetValue[];
  /** Names that the facet has already. */
  taken: readonly string[];
  editable: boolean;
  tag: (value: FacetValue) => FacetTag;
  use: (name: string) => ValueUse;
}>();
const emit = defineEmits<{
  set: [name: string, value: FacetValue, renamed: string];
  add: [value: FacetValue, within: string];
  remove: [name: string];
  move: [name: string, offset: 1 | -1];
  uses: [name: string];
}>();
/** The value whose form is open, and the one in which another is being made. */
const open = ref('');
const within = ref('');
function keep(before: FacetValue, value: FacetValue, name: string): void {
  open.value = '';
  emit('set', before.name, value, name);
}
function add(value: FacetValue, outer: string): void {
  within.value = '';
  emit('add', value, outer);
}
const placesOf = ({ count, items }: ValueUse): string =>
  count === 0 ? 'nowhere yet' : `${count} ${count === 1 ? 'place' : 'places'} in ${items}`;
</script>

<template>
  <ul>
    <li v-for="(value, at) in values" :key="value.name">
      <ValueForm
        v-if="open === value.name"
        :value="value"
        :tag="tag(value)"
        :use="use(value.name)"
        :taken="taken"
        @keep="(next, name) => keep(value, next, name)"
        @close="open = ''"
      />
      <div v-else class="value" :class="{ retired: value.retired }">
        <FacetBadge :tag="tag(value)" />
        <span class="label">
          <span>{{ value.label }}</span>
          <span v-if="value.retired" class="quiet small">retired</span>
          <span v-if="value.description" class="quiet small">{{ value.description }}</span>
        </span>
        <code class="quiet small">{{ value.name }}</code>
        <button
          type="button"
          class="plain small uses"
          :disabled="use(value.name).count === 0"
          @click="emit('uses', value.name)"
        >
          {{ placesOf(use(value.name)) }}
        </button>
        <span v-if="editable" class="acts">
          <n-button
            size="tiny"
            quaternary
            :disabled="at === 0"
            :aria-label="`Move ${value.label} up`"
            @click="emit('move', value.name, -1)"
          >
            ↑
          </n-button>
          <n-button
            size="tiny"
            quaternary
            :disabled="at === values.length - 1"
            :aria-label="`Move ${value.label} down`"
            @click="emit('move', value.name, 1)"
          >
            ↓
          </n-button>
          <n-button size="tiny" :aria-label="`Change ${value.label}`" @click="open = value.name">
            Change
          </n-button>
          <n-button
            size="tiny"
            :aria-label="`Add a value within ${value.label}`"
            @click="within = value.name"
          >
            Add within
          </n-button>
          <n-button
            size="tiny"
            quaternary
            :aria-label="`Remove ${value.label}`"
            @click="emit('remove', value.name)"
          >
            ×
          </n-button>
        </span>
      </div>
      <ValueForm
        v-if="within === value.name"
        :taken="taken"
        @keep="(next) => add(next, value.name)"
        @close="within = ''"
      />
      <FacetValues
        v-if="value.values"
        class="nested"
        :values="value.values"
        :taken="taken"
        :editable="editable"
        :tag="tag"
        :use="use"
        @set="(name, next, renamed) => emit('set', name, next, renamed)"
        @add="(next, outer) => emit('add', next, outer)"
        @remove="emit('remove', $event)"
        @move="(name, offset) => emit('move', name, offset)"
        @uses="emit('uses', $event)"
      />
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.nested {
  margin-left: 36px;
}
.value {
  display: grid;
  grid-template-columns: 40px minmax(0, 1fr) 110px 110px 268px;
  gap: 10px;
  align-items: center;
  min-height: 36px;
  border-top: 1px solid var(--hair);
}
.nested .value {
  grid-template-columns: 40px minmax(0, 1fr) 110px 110px 268px;
}
.retired .label {
  color: var(--soft);
  font-style: italic;
}
.label > .small {
  margin-left: 8px;
}
code {
  overflow: hidden;
  text-overflow: ellipsis;
}
.uses {
  text-align: left;
  color: var(--prussian);
}
.uses:disabled {
  color: var(--soft);
  cursor: default;
}
.acts {
  display: flex;
  gap: 4px;
  justify-content: flex-end;
}
.acts .n-button {
  min-width: 24px;
  height: 24px;
}
</style>
