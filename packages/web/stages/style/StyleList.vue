<script setup lang="ts">
import { roleGroups, styleRoles, type StyleSheet } from '@ukiyo/core/styles';
import { computed, ref } from 'vue';

/** What of a sheet can be changed: colours and faces, marks, and every style by what it is for. */
const { sheet, chosen, unstyled, mayChange } = defineProps<{
  sheet: StyleSheet;
  chosen: string;
  /** How many looks no style gives. */ unstyled: number;
  mayChange: boolean;
}>();
const emit = defineEmits<{ choose: [string]; add: [] }>();
const filter = ref('');
const matches = (label: string): boolean =>
  label.toLowerCase().includes(filter.value.trim().toLowerCase());
const own = computed(() =>
  Object.entries(sheet.styles).flatMap(([id, { label }]) =>
    label !== undefined && !styleRoles.some((role) => role.id === id) ? [{ id, label }] : [],
  ),
);
const groups = computed(() =>
  [
    ...roleGroups.map((name) => ({
      name: name,
      list: styleRoles.filter(({ group, label }) => group === name && matches(label)),
    })),
    { name: 'Of the team', list: own.value.filter(({ label }) => matches(label)) },
  ].filter(({ list }) => list.length > 0),
);
</script>

<template>
  <nav class="styles" aria-label="Styles">
    <button
      type="button"
      class="plain item"
      :aria-current="chosen === '' ? 'true' : undefined"
      @click="emit('choose', '')"
    >
      Faces and colours
    </button>
    <button
      type="button"
      class="plain item"
      :aria-current="chosen === 'marks' ? 'true' : undefined"
      @click="emit('choose', 'marks')"
    >
      Marks of notes
    </button>
    <button
      type="button"
      class="plain item"
      :aria-current="chosen === 'numbering' ? 'true' : undefined"
      @click="emit('choose', 'numbering')"
    >
      Numbering
    </button>
    <button
      type="button"
      class="plain item"
      :aria-current="chosen === 'unstyled' ? 'true' : undefined"
      @click="emit('choose', 'unstyled')"
    >
      Looks without a style
      <span v-if="unstyled > 0" class="quiet small">{{ unstyled }}</span>
    </button>
    <n-input
      v-model:value="filter"
      class="filter"
      size="small"
      clearable
      placeholder="Filter styles"
      :input-props="{ 'aria-label': 'Filter styles', type: 'search' }"
    />
    <section v-for="group in groups" :key="group.name">
      <h3>{{ group.name }}</h3>
      <button
        v-for="one in group.list"
        :key="one.id"
        type="button"
        class="plain item"
        :aria-current="chosen === one.id ? 'true' : undefined"
        @click="emit('choose', one.id)"
      >
        {{ one.label }}
      </button>
    </section>
    <button v-if="mayChange" type="button" class="plain item new" @click="emit('add')">
      New style of the team
    </button>
  </nav>
</template>

<style scoped>
.styles {
  overflow: auto;
  padding: 0 0 20px;
}
.item {
  display: block;
  width: 100%;
  padding: 3px 14px;
  text-align: start;
  color: var(--ink);
  font: 400 14px var(--font-text);
}
.item:hover {
  background: var(--paper-deep);
}
.item[aria-current] {
  background: var(--wash);
  box-shadow: inset 3px 0 var(--prussian);
}
h3 {
  padding: 10px 14px 2px;
  font: 600 12px var(--font-text);
  color: var(--soft);
}
.filter {
  width: calc(100% - 28px);
  margin: 8px 14px 0;
}
.new {
  color: var(--prussian);
  margin-top: 10px;
}
</style>
