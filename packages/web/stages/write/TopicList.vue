<script setup lang="ts">
import { tagsOf } from '@ukiyo/core/facets';
import { computed, ref } from 'vue';
import { draggedTopic } from '../../editor/links.ts';
import { carryVariable } from '../../editor/variables.ts';
import { useItemList } from '../../parts/itemList.ts';
import ItemRows from '../../parts/ItemRows.vue';
import { kindLabel, kindLetter } from '../../parts/kinds.ts';
import FacetBadge from '../../parts/FacetBadge.vue';
import { useLens } from '../../parts/lens.ts';
import { useLibrary } from '../../parts/library.ts';
import { kindOfVariable, useVariables } from '../../parts/variables.ts';

/**
 * What lies at hand beside the page: topics to go to or to link, variables to put into the text.
 */
const { current } = defineProps<{ current: string }>();
const library = useLibrary();
const looking = useLens();
const variables = useVariables();
const lists = ['Topics', 'Variables'] as const;
const list = ref<(typeof lists)[number]>('Topics');
const query = ref('');
const wanted = computed(() => query.value.trim().toLowerCase());
const topics = useItemList(() => ({ kind: 'topic', title: wanted.value, ...looking.hiding }));
const named = computed(() =>
  variables.named.filter((variable) =>
    `${variable.key} ${variables.wordsOf(variable)}`.toLowerCase().includes(wanted.value),
  ),
);
</script>

<template>
  <aside class="drawer" :aria-label="list">
    <h1>
      <button
        v-for="name in lists"
        :key="name"
        type="button"
        class="plain"
        :class="{ on: name === list }"
        :aria-pressed="name === list"
        @click="list = name"
      >
        {{ name }}
      </button>
    </h1>
    <n-input
      v-model:value="query"
      size="small"
      clearable
      :placeholder="`Filter ${list.toLowerCase()}`"
      :input-props="{ 'aria-label': `Filter ${list.toLowerCase()}` }"
    />
    <p v-if="list === 'Topics' && topics.failure.value" class="seal-text small" role="alert">
      {{ topics.failure.value }}
    </p>
    <ItemRows
      v-if="list === 'Topics'"
      v-slot="{ item }"
      class="list"
      :list="topics"
      :row-height="28"
      label="Topics"
    >
      <router-link
        :to="{ name: 'write', params: { id: item.id } }"
        :class="{ on: item.id === current, dropped: looking.drops(item.conditions) }"
        :aria-current="item.id === current ? 'page' : undefined"
        @dragstart="$event.dataTransfer?.setData(draggedTopic, item.id)"
      >
        <span class="letter" :title="kindLabel(item.type)">{{ kindLetter(item.type) }}</span>
        <span class="title">{{ item.title || item.id }}</span>
        <span v-if="item.alternateOf !== null" class="badges">
          <FacetBadge
            v-for="tag in tagsOf(item.conditions, library.facets)"
            :key="`${tag.facet} ${tag.value}`"
            :tag="tag"
          />
        </span>
      </router-link>
    </ItemRows>
    <ul v-else class="list">
      <li
        v-for="variable in named"
        :key="variable.key"
        class="variable"
        draggable="true"
        :title="`Drag it into the text, or type %% there: ${variable.key}`"
        @dragstart="carryVariable($event, kindOfVariable(variable), variable.key)"
      >
        <span class="title">{{ variables.wordsOf(variable) || variable.key }}</span>
        <code class="quiet small">{{ variable.key }}</code>
      </li>
      <li class="variable"><router-link :to="{ name: 'variables' }">All variables</router-link></li>
    </ul>
  </aside>
</template>

<style scoped>
.drawer {
  border-right: 1px solid var(--hair);
  display: flex;
  flex-direction: column;
  min-height: 0;
  padding: 14px 0 0;
}
h1 {
  display: flex;
  gap: 12px;
  padding: 0 14px 8px;
}
h1 button {
  font: inherit;
  color: var(--soft);
}
h1 button.on {
  color: inherit;
}
.n-input {
  margin: 0 12px 8px;
  width: auto;
}
.list {
  flex: 1;
  overflow: auto;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
a {
  display: grid;
  grid-template-columns: 22px minmax(0, 1fr) auto;
  align-items: center;
  height: 28px;
  padding: 0 10px;
  color: var(--ink);
  text-decoration: none;
}
a:hover {
  background: var(--paper-deep);
}
a.on {
  background: var(--wash);
  box-shadow: inset 3px 0 var(--prussian);
}
.dropped .title {
  color: var(--soft);
  text-decoration: line-through;
}
.letter {
  color: var(--faint);
  font-size: 13px;
}
.title {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.variable {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 8px;
  align-items: baseline;
  min-height: 28px;
  padding: 3px 14px;
}
.variable[draggable='true'] {
  cursor: grab;
}
.variable:hover {
  background: var(--paper-deep);
}
.variable a {
  display: block;
  padding: 0;
  color: var(--prussian);
}
</style>
