<script setup lang="ts">
import { relationsOf, withRelations, type RelationGrid } from '@ukiyo/core/arranging';
import { readReference } from '@ukiyo/core/library';
import { computed, shallowRef } from 'vue';
import LinkChooser from '../../editor/LinkChooser.vue';
import type { PopPlace } from '../../editor/popList.ts';
import LineInput from '../../parts/LineInput.vue';
import { useItems } from '../../parts/items.ts';
import { draggedEntries } from './mapColumns.ts';
import type { OpenMap } from './useMap.ts';

/** Relationship tables as grids: topics in one row lead to each other, from column to column. */
const { map, editable } = defineProps<{ map: OpenMap; editable: boolean }>();
const items = useItems();
const grids = computed(() => (map.root.value ? relationsOf(map.root.value) : []));
const titleOf = (href: string): string => {
  const reference = readReference(href, '');
  return reference.kind === 'item' ? (items.find(reference.id)?.title ?? href) : href;
};
function put(index: number, grid: RelationGrid): void {
  map.changeRoot((root) => withRelations(root, index, grid));
}
const withCell = (
  grid: RelationGrid,
  row: number,
  column: number,
  hrefs: readonly string[],
): RelationGrid => ({
  ...grid,
  rows: grid.rows.map((cells, at) => (at === row ? cells.with(column, hrefs) : cells)),
});
function add(index: number, row: number, column: number, hrefs: readonly string[]): void {
  const grid = grids.value[index];
  if (grid)
    put(
      index,
      withCell(grid, row, column, [...new Set([...(grid.rows[row]?.[column] ?? []), ...hrefs])]),
    );
}
const emptyRow = (grid: RelationGrid): readonly (readonly string[])[] => grid.columns.map(() => []);
const asked = shallowRef<{ place: PopPlace; index: number; row: number; column: number }>();
function ask(event: MouseEvent, index: number, row: number, column: number): void {
  const { left, bottom } = (event.currentTarget as HTMLElement).getBoundingClientRect();
  asked.value = {
    place: {
      left: Math.min(left, window.innerWidth - 400),
      top: Math.min(bottom + 4, window.innerHeight - 400),
    },
    index,
    row,
    column,
  };
}
function answer(href: string): void {
  const at = asked.value;
  asked.value = undefined;
  if (at && /^(topic|map):/u.test(href)) add(at.index, at.row, at.column, [href.split('/')[0]!]);
}
function drop(index: number, row: number, column: number): void {
  const from = draggedEntries.value;
  draggedEntries.value = undefined;
  if (from && 'hrefs' in from) add(index, row, column, from.hrefs);
  else if (from)
    add(
      index,
      row,
      column,
      map.entries.value
        .filter(
          ({ path, href }) => href !== '' && from.paths.some((one) => one.join() === path.join()),
        )
        .map(({ href }) => href),
    );
}
</script>

<template>
  <section class="grids" aria-label="Links between topics">
    <p class="quiet">
      Topics in one row lead to each other, from column to column; in help sites and in print they
      are named at the end of each.
    </p>
    <div v-for="(grid, index) in grids" :key="index" class="one">
      <LineInput
        class="name"
        :value="grid.title"
        :disabled="!editable"
        placeholder="Title of the table"
        :label="`Title of table ${index + 1}`"
        @change="put(index, { ...grid, title: $event })"
      />
      <table :aria-label="grid.title || `Table ${index + 1}`">
        <thead>
          <tr>
            <th v-for="(title, column) in grid.columns" :key="column" scope="col">
              <LineInput
                :value="title"
                :disabled="!editable"
                placeholder="column"
                :label="`Title of column ${column + 1}`"
                @change="put(index, { ...grid, columns: grid.columns.with(column, $event) })"
              />
              <button
                v-if="editable && grid.columns.length > 2"
                type="button"
                class="plain quiet"
                :aria-label="`Remove column ${column + 1}`"
                @click="
                  put(index, {
                    ...grid,
                    columns: grid.columns.toSpliced(column, 1),
                    rows: grid.rows.map((cells) => cells.toSpliced(column, 1)),
                  })
                "
              >
                ×
              </button>
            </th>
            <td v-if="editable">
              <button
                type="button"
                class="plain small"
                @click="
                  put(index, {
                    ...grid,
                    columns: [...grid.columns, ''],
                    rows: grid.rows.map((cells) => [...cells, []]),
                  })
                "
              >
                Add a column
              </button>
            </td>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(cells, row) in grid.rows" :key="row">
            <td
              v-for="(hrefs, column) in cells"
              :key="column"
              @dragover.prevent
              @drop.prevent="drop(index, row, column)"
            >
              <ul>
                <li v-for="href in hrefs" :key="href">
                  {{ titleOf(href) }}
                  <button
                    v-if="editable"
                    type="button"
                    class="plain quiet"
                    :aria-label="`Take ${titleOf(href)} out of row ${row + 1}`"
                    @click="
                      put(
                        index,
                        withCell(
                          grid,
                          row,
                          column,
                          hrefs.filter((one) => one !== href),
                        ),
                      )
                    "
                  >
                    ×
                  </button>
                </li>
              </ul>
              <button
                v-if="editable"
                type="button"
                class="plain small more"
                :aria-label="`Add a topic to row ${row + 1}, column ${column + 1}`"
                @click="ask($event, index, row, column)"
              >
                + topic
              </button>
            </td>
            <td v-if="editable" class="end">
              <button
                type="button"
                class="plain quiet"
                :aria-label="`Remove row ${row + 1}`"
                @click="put(index, { ...grid, rows: grid.rows.toSpliced(row, 1) })"
              >
                ×
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <n-button
        v-if="editable"
        size="small"
        @click="put(index, { ...grid, rows: [...grid.rows, emptyRow(grid)] })"
      >
        Add a row
      </n-button>
    </div>
    <n-button
      v-if="editable"
      size="small"
      @click="put(grids.length, { title: '', columns: ['', ''], rows: [[[], []]] })"
    >
      Add a table
    </n-button>
    <LinkChooser v-if="asked" :place="asked.place" @choose="answer" @close="asked = undefined" />
  </section>
</template>

<style scoped>
.grids {
  flex: 1;
  overflow: auto;
  padding-bottom: 40px;
}
.one {
  margin: 10px 0 22px;
}
table {
  width: 100%;
  border-collapse: collapse;
  background: var(--sheet);
  margin: 6px 0;
}
th,
tbody td {
  border: 1px solid var(--hair);
  padding: 6px 8px;
  text-align: left;
  vertical-align: top;
  font-weight: 400;
}
thead td {
  padding-left: 8px;
}
.end {
  border: 0;
  width: 24px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  gap: 8px;
}
.more {
  color: var(--prussian);
}
input {
  width: calc(100% - 24px);
  border: 0;
  background: none;
  color: var(--ink);
  font: 600 14px var(--font-text);
  padding: 2px 4px;
}
.name {
  font: 400 15px var(--font-title);
  color: var(--prussian);
}
</style>
