<script setup lang="ts">
import type { Variable, VariableDefinition } from '@ukiyo/contracts';
import { tagsOf } from '@ukiyo/core/facets';
import { computed, onMounted, ref, shallowRef } from 'vue';
import FacetBadge from '../../parts/FacetBadge.vue';
import { useLibrary } from '../../parts/library.ts';
import { useSession } from '../../parts/session.ts';
import { usePlace } from '../../shell/place.ts';
import VariableForm from './VariableForm.vue';
import VariableUses from './VariableUses.vue';
import { useVariableStage } from './useVariableStage.ts';
import CheckBox from '../../parts/CheckBox.vue';

/** The variables: what is kept in one place and shown in many. */
const library = useLibrary();
const session = useSession();
const place = usePlace();
const {
  variables,
  chosen,
  query,
  onlyUnused,
  sets,
  rows,
  unused,
  maps,
  keep,
  remove,
  addSet,
  setEverywhere,
  setHeld,
} = useVariableStage();
const editable = computed(() => session.may('write'));
const set = computed(() => sets.value.find(({ id }) => id === chosen.value));
const title = ref('');
/**
 * The definition that is being changed, a new one that begins as another, or one with nothing yet.
 */
const open = shallowRef<{ variable?: Variable; copied?: Variable; name?: string }>();
/** The definition under which the uses of its key are shown. */
const shown = ref('');
onMounted(async () => {
  place.clear();
  place.trail = ['Variables'];
  await library.ensure();
  await variables.load();
});
const keyOf = ({ map, path, key }: Variable): string => `${map} ${path.join('.')} ${key}`;
const isOpen = (variable: Variable): boolean =>
  open.value?.variable !== undefined && keyOf(open.value.variable) === keyOf(variable);
const home = computed(
  () =>
    chosen.value || (sets.value.find(({ everywhere }) => everywhere) ?? sets.value[0])?.id || '',
);
async function keepOpen(definition: VariableDefinition): Promise<void> {
  const { variable, copied } = open.value ?? {};
  if (await keep(variable?.map ?? copied?.map ?? home.value, definition, variable))
    open.value = undefined;
}
async function make(): Promise<void> {
  await addSet(title.value.trim());
  title.value = '';
}
const useOf = (key: string) => variables.list.uses[key];
const placesOf = (key: string): string => {
  const use = useOf(key);
  return use
    ? `${use.count} ${use.count === 1 ? 'place' : 'places'} in ${use.items}`
    : 'nowhere yet';
};
</script>

<template>
  <main class="variables" tabindex="0" aria-label="Variables">
    <aside aria-label="Sets of variables">
      <h1>Variables</h1>
      <ul>
        <li>
          <button type="button" class="plain" :class="{ on: chosen === '' }" @click="chosen = ''">
            All sets
          </button>
        </li>
        <li v-for="one in sets" :key="one.id">
          <button
            type="button"
            class="plain"
            :class="{ on: one.id === chosen }"
            @click="chosen = one.id"
          >
            {{ one.title }}
            <span class="quiet small">
              {{ one.everywhere ? ' everywhere' : one.isSet ? '' : ' map' }}
            </span>
          </button>
        </li>
      </ul>
      <form v-if="editable" class="make" aria-label="New set" @submit.prevent="make">
        <n-input
          v-model:value="title"
          size="small"
          placeholder="Another set: its name"
          :input-props="{ 'aria-label': 'Name of the new set' }"
        />
        <n-button size="small" attr-type="submit" :disabled="title.trim() === ''">
          Make a set
        </n-button>
      </form>
    </aside>
    <div class="desk">
      <p class="quiet">
        Words, images and links that are kept in one place and shown in many. Each can say something
        else for a model, a country, a language; an edition can set its own.
      </p>
      <fieldset v-if="set" class="held">
        <legend>Where “{{ set.title }}” holds</legend>
        <CheckBox
          v-if="set.isSet"
          :checked="set.everywhere"
          :disabled="!editable"
          @update:checked="setEverywhere(set!.id, !set!.everywhere)"
        >
          in every map
        </CheckBox>
        <template v-if="!set.everywhere && set.isSet">
          <CheckBox
            v-for="map in maps"
            :key="map.id"
            :checked="set.heldBy.includes(map.id)"
            :disabled="!editable"
            @update:checked="setHeld(set!.id, map.id, !set!.heldBy.includes(map.id))"
          >
            {{ map.title }}
          </CheckBox>
        </template>
        <span v-if="!set.isSet" class="quiet">in this map alone, and in what takes it in</span>
      </fieldset>
      <div
        v-if="variables.list.undefined.length > 0"
        class="undefined"
        role="region"
        aria-label="Used and defined nowhere"
      >
        <b>Used and defined nowhere</b>
        <span v-for="one in variables.list.undefined" :key="one.key">
          <code>{{ one.key }}</code>
          in
          <router-link
            v-for="item in one.items"
            :key="item.id"
            :to="{ name: item.kind === 'map' ? 'arrange' : 'write', params: { id: item.id } }"
          >
            {{ item.title }}
          </router-link>
          <n-button
            v-if="editable && home !== ''"
            size="tiny"
            :aria-label="`Define ${one.key}`"
            @click="open = { name: one.key }"
          >
            Define
          </n-button>
        </span>
      </div>
      <div class="row">
        <n-input
          v-model:value="query"
          size="small"
          clearable
          placeholder="Filter by name or text"
          :input-props="{ 'aria-label': 'Filter variables' }"
        />
        <n-checkbox v-model:checked="onlyUnused" size="small">
          only the {{ unused }} that nothing uses
        </n-checkbox>
        <n-button v-if="editable && home !== ''" size="small" class="add" @click="open = {}">
          Add a variable
        </n-button>
      </div>
      <VariableForm
        v-if="open && !open.variable && !open.copied"
        :key="open.name ?? ''"
        v-bind="open.name === undefined ? {} : { name: open.name }"
        @keep="keepOpen"
        @close="open = undefined"
      />
      <table v-if="rows.length > 0" aria-label="Variables">
        <thead>
          <tr>
            <th scope="col">Name</th>
            <th scope="col">Says</th>
            <th scope="col">For</th>
            <th scope="col">Used at</th>
            <th v-if="chosen === ''" scope="col">Set</th>
            <th scope="col"><span class="visually-hidden">Acts</span></th>
          </tr>
        </thead>
        <tbody>
          <template v-for="{ variable, isUnused } in rows" :key="keyOf(variable)">
            <tr v-if="isOpen(variable)">
              <td colspan="6">
                <VariableForm
                  :variable="variable"
                  :use="useOf(variable.key)"
                  @keep="keepOpen"
                  @close="open = undefined"
                />
              </td>
            </tr>
            <tr v-else>
              <th scope="row">
                <code>{{ variable.key }}</code>
              </th>
              <td>
                {{ variables.wordsOf(variable) }}
                <span v-if="variable.choices.length > 0" class="quiet small">
                  or {{ variable.choices.join(', ') }}
                </span>
                <span v-if="variable.href" class="quiet small">{{ variable.href }}</span>
              </td>
              <td class="for">
                <FacetBadge
                  v-for="tag in tagsOf(variable.conditions, library.facets)"
                  :key="`${tag.facet} ${tag.value}`"
                  :tag="tag"
                />
                <span v-if="variable.locale" class="quiet small">{{ variable.locale }}</span>
              </td>
              <td class="small">
                <button
                  type="button"
                  class="plain"
                  :disabled="isUnused"
                  :aria-expanded="shown === keyOf(variable)"
                  @click="shown = shown === keyOf(variable) ? '' : keyOf(variable)"
                >
                  {{ placesOf(variable.key) }}
                </button>
              </td>
              <td v-if="chosen === ''" class="small quiet">
                {{ variables.setOf(variable.map)?.title }}
              </td>
              <td>
                <div v-if="editable" class="acts">
                  <n-button
                    size="tiny"
                    :aria-label="`Change ${variable.key}`"
                    @click="open = { variable }"
                  >
                    Change
                  </n-button>
                  <n-button
                    size="tiny"
                    :aria-label="`${variable.key} for others`"
                    @click="open = { copied: variable }"
                  >
                    For others …
                  </n-button>
                  <n-button
                    size="tiny"
                    quaternary
                    :aria-label="`Remove ${variable.key}`"
                    @click="remove(variable)"
                  >
                    ×
                  </n-button>
                </div>
              </td>
            </tr>
            <tr v-if="open?.copied && keyOf(open.copied) === keyOf(variable)">
              <td colspan="6">
                <VariableForm :copied="variable" @keep="keepOpen" @close="open = undefined" />
              </td>
            </tr>
            <tr v-if="shown === keyOf(variable)">
              <td colspan="6"><VariableUses :name="variable.key" /></td>
            </tr>
          </template>
        </tbody>
      </table>
      <p v-else class="quiet">
        {{
          sets.length === 0
            ? 'There are no variables yet. A first set could hold the names of your products.'
            : 'None like that.'
        }}
      </p>
    </div>
  </main>
</template>

<style scoped>
.variables {
  display: grid;
  grid-template-columns: 240px minmax(0, 1fr);
  height: 100%;
}
aside {
  border-right: 1px solid var(--hair);
  padding: 14px 0;
  overflow: auto;
}
h1 {
  padding: 0 14px 8px;
}
aside ul {
  list-style: none;
  margin: 0 0 14px;
  padding: 0;
}
aside li button {
  display: block;
  width: 100%;
  padding: 5px 14px;
  text-align: left;
}
aside li button.on {
  background: var(--wash);
  box-shadow: inset 3px 0 var(--prussian);
}
.make {
  display: grid;
  gap: 6px;
  padding: 0 14px;
  justify-items: start;
}
.desk {
  overflow: auto;
  padding: 16px 24px 60px;
}
.desk > * {
  max-width: 1060px;
}
.row {
  display: flex;
  gap: 14px;
  align-items: center;
  margin: 10px 0;
}
.row .n-input {
  width: 260px;
}
.add {
  margin-left: auto;
}
.held {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  border: 1px solid var(--hair);
  border-radius: 4px;
  padding: 6px 12px;
  font-size: 14px;
}
legend {
  font-size: 13px;
  color: var(--soft);
  padding: 0 4px;
}
.undefined {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: baseline;
  margin: 10px 0;
  padding: 8px 12px;
  border-left: 3px solid var(--seal);
  background: var(--sheet);
}
.undefined a {
  margin: 0 6px;
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  text-align: left;
  padding: 6px 10px 6px 0;
  border-bottom: 1px solid var(--hair);
  vertical-align: baseline;
  font-weight: 400;
}
thead th {
  font-size: 13px;
  color: var(--soft);
}
code {
  font-size: 14px;
}
.for {
  white-space: nowrap;
}
.for > * {
  margin-right: 4px;
}
.acts {
  display: flex;
  gap: 4px;
  justify-content: flex-end;
  white-space: nowrap;
}
</style>
