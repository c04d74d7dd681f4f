<script setup lang="ts">
import { Appearances, type ItemSummary } from '@ukiyo/contracts';
import { tagsOf } from '@ukiyo/core/facets';
import { useVirtualList } from '@vueuse/core';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { ask } from '../../parts/api.ts';
import { useFailure } from '../../parts/attempts.ts';
import { kindLabel } from '../../parts/kinds.ts';
import { useItems } from '../../parts/items.ts';
import { useLibrary } from '../../parts/library.ts';
import FacetBadge from '../../parts/FacetBadge.vue';
import PickOne from '../../parts/PickOne.vue';
import { useSession } from '../../parts/session.ts';
import { usePlace } from '../../shell/place.ts';

/** Topics by editions: where each appears, and why it does not where it does not. */
const items = useItems();
const library = useLibrary();
const session = useSession();
const place = usePlace();
const found = shallowRef<Appearances>();
const { failure, attempt } = useFailure();
const query = ref('');
const only = ref('');
onMounted(async () => {
  place.clear();
  place.trail = ['Topics by editions'];
  await attempt(async () => {
    await library.ensure();
    found.value = await ask(`${session.base}/appearances`, Appearances);
  });
});

const editions = computed(() => found.value?.editions ?? []);
const kinds = [
  { value: '', label: 'every topic' },
  { value: 'differ', label: 'where editions differ' },
  { value: 'nowhere', label: 'in no edition' },
];
const topics = computed(() => {
  const words = query.value.trim().toLowerCase();
  return (found.value?.topics ?? []).filter(({ id, title }) => {
    if (!`${title} ${id}`.toLowerCase().includes(words)) return false;
    const hows = editions.value.map(
      ({ cells }) => cells[id]?.how === 'shown' || cells[id]?.how === 'lends',
    );
    return only.value === 'differ'
      ? new Set(hows).size > 1
      : only.value === 'nowhere'
        ? !hows.includes(true)
        : true;
  });
});
const { list, containerProps, wrapperProps } = useVirtualList(topics, {
  itemHeight: 34,
  overscan: 20,
});
const words = { lends: 'lends', dropped: 'dropped' } as const;
interface Cell {
  readonly text: string;
  readonly kind: string;
  readonly help: string;
  readonly alternate?: ItemSummary | undefined;
}
function cellOf(cells: Appearances['editions'][number]['cells'], id: string): Cell {
  const cell = cells[id];
  if (!cell) return { text: '', kind: 'none', help: 'not in its map' };
  if (cell.how !== 'shown') return { text: words[cell.how], kind: cell.how, help: cell.detail };
  return {
    text: `${cell.number ?? 'shown'}${cell.places > 1 ? ` ×${cell.places}` : ''}`,
    kind: 'shown',
    help:
      cell.alternate === undefined
        ? cell.detail
        : `${cell.detail}: ${cell.alternate} stands in for it`,
    alternate: cell.alternate === undefined ? undefined : items.find(cell.alternate),
  };
}
const columns = computed(
  () => `minmax(220px, 1fr) repeat(${Math.max(1, editions.value.length)}, minmax(90px, 180px))`,
);
</script>

<template>
  <div class="screen">
    <header>
      <h1>Topics by editions</h1>
      <n-input
        v-model:value="query"
        size="small"
        clearable
        placeholder="Filter by title or id"
        :input-props="{ 'aria-label': 'Filter topics' }"
        class="find"
      />
      <PickOne v-model:chosen="only" label="Which topics" :options="kinds" />
      <span class="quiet small" role="status">
        {{ found ? `${topics.length} topics` : failure === '' ? 'Composing every edition …' : '' }}
      </span>
    </header>
    <p v-if="failure" class="seal-text" role="alert">{{ failure }}</p>
    <div
      v-else-if="found"
      class="sheet"
      role="table"
      aria-label="Topics by editions"
      :aria-rowcount="topics.length + 1"
      :style="{ '--columns': columns }"
    >
      <div class="row head" role="row">
        <span role="columnheader">Topic</span>
        <span v-for="edition in editions" :key="edition.id" role="columnheader">
          <router-link :to="{ name: 'publish', params: { id: edition.id } }">
            {{ edition.name }}
          </router-link>
        </span>
      </div>
      <div v-bind="containerProps" class="rows" role="rowgroup" tabindex="0" aria-label="Topics">
        <div v-bind="wrapperProps" role="presentation">
          <div
            v-for="{ data: topic, index } in list"
            :key="topic.id"
            class="row"
            role="row"
            :aria-rowindex="index + 2"
          >
            <span role="rowheader" class="topic">
              <router-link :to="{ name: 'write', params: { id: topic.id } }">
                {{ topic.title || topic.id }}
              </router-link>
              {{ ' ' }}
              <span class="small quiet">{{ kindLabel(items.find(topic.id)?.type ?? '') }}</span>
            </span>
            <span
              v-for="edition in editions"
              :key="edition.id"
              role="cell"
              :class="cellOf(edition.cells, topic.id).kind"
              :title="cellOf(edition.cells, topic.id).help"
            >
              {{ cellOf(edition.cells, topic.id).text }}
              <FacetBadge
                v-for="tag in tagsOf(
                  cellOf(edition.cells, topic.id).alternate?.conditions ?? {},
                  library.facets,
                )"
                :key="`${tag.facet} ${tag.value}`"
                :tag="tag"
                class="badge"
              />
              <span class="visually-hidden">({{ cellOf(edition.cells, topic.id).help }})</span>
            </span>
          </div>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.badge {
  margin-left: 6px;
}
.screen {
  display: flex;
  flex-direction: column;
  height: 100%;
  padding: 18px 28px 0;
}
header {
  display: flex;
  align-items: center;
  gap: 14px;
  padding-bottom: 12px;
}
h1 {
  font-size: 20px;
  margin-right: auto;
}
.find {
  max-width: 240px;
}
.sheet {
  display: flex;
  flex-direction: column;
  min-height: 0;
  flex: 1;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-bottom: 0;
  border-radius: 4px 4px 0 0;
}
.row {
  display: grid;
  grid-template-columns: var(--columns);
  align-items: center;
  height: 34px;
  padding: 0 16px;
  border-bottom: 1px solid var(--hair);
}
.head {
  height: auto;
  padding-block: 8px;
  align-items: end;
  font-size: 13px;
}
.rows {
  flex: 1;
  min-height: 0;
}
.topic {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.topic a,
.head a {
  color: var(--ink);
}
.topic a {
  font-weight: 600;
  text-decoration: none;
}
.topic a:hover {
  text-decoration: underline;
}
[role='cell'] {
  justify-self: stretch;
  height: 100%;
  padding: 6px 8px;
}
.shown {
  color: var(--prussian);
  background: var(--wash);
  box-shadow: inset 0 -1px var(--sheet);
  font-feature-settings: 'lnum';
}
.lends {
  color: var(--wisteria);
}
.dropped {
  color: var(--soft);
  font-style: italic;
  text-decoration: line-through;
}
</style>
