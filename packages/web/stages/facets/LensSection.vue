<script setup lang="ts">
import type { Lens } from '@ukiyo/contracts';
import type { Facet } from '@ukiyo/core/facets';
import { computed, onMounted, ref } from 'vue';
import LensTable from './LensTable.vue';
import { useLenses } from './useLenses.ts';
import CheckBox from '../../parts/CheckBox.vue';

/** The lenses: named sets of decisions on facet values. */
const { facets, editable } = defineProps<{ facets: readonly Facet[]; editable: boolean }>();
const { lenses, load, make, change, decide, remove, take, ditaval } = useLenses();
const open = ref('');
const shown = computed(() => lenses.value.find(({ id }) => id === open.value));
const name = ref('');
onMounted(load);
async function add(): Promise<void> {
  const made = await make(name.value.trim());
  if (!made) return;
  name.value = '';
  open.value = made.id;
}
function hold({ id, through }: Lens, other: string): void {
  void change(id, {
    through: through.includes(other) ? through.filter((one) => one !== other) : [...through, other],
  });
}
async function takeFile(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const [file] = input.files ?? [];
  const taken = file && (await take(file));
  if (taken) open.value = taken.id;
  input.value = '';
}
</script>

<template>
  <section aria-labelledby="lenses-head">
    <h2 id="lenses-head">Lenses</h2>
    <p class="quiet">
      What each kind of reader gets: for every value whether it is kept, dropped or marked. Anything
      can be looked at through a lens, and an edition is published through one.
    </p>
    <div class="lenses">
      <ul>
        <li v-for="lens in lenses" :key="lens.id">
          <button
            type="button"
            class="plain"
            :class="{ on: lens.id === open }"
            :aria-expanded="lens.id === open"
            @click="open = lens.id === open ? '' : lens.id"
          >
            {{ lens.name }}
          </button>
        </li>
      </ul>
      <div
        v-if="shown"
        :key="shown.id"
        class="one"
        role="region"
        :aria-label="`Lens ${shown.name}`"
      >
        <div class="head">
          <n-input
            size="small"
            :default-value="shown.name"
            :disabled="!editable"
            :input-props="{ 'aria-label': 'Name of the lens' }"
            @change="(name: string) => change(shown!.id, { name })"
          />
          <a class="small" :href="ditaval(shown.id)" download>as DITAVAL</a>
          <n-button
            v-if="editable"
            size="tiny"
            quaternary
            :aria-label="`Remove ${shown.name}`"
            @click="remove(shown.id)"
          >
            Remove
          </n-button>
        </div>
        <fieldset v-if="lenses.length > 1" class="behind">
          <legend>
            Held behind it: what any of these drops is dropped, what any marks is marked
          </legend>
          <CheckBox
            v-for="other in lenses.filter(({ id }) => id !== shown!.id)"
            :key="other.id"
            :checked="shown.through.includes(other.id)"
            :disabled="!editable"
            @update:checked="hold(shown!, other.id)"
          >
            {{ other.name }}
          </CheckBox>
        </fieldset>
        <LensTable
          :lens="shown"
          :facets="facets"
          :editable="editable"
          @decide="decide(shown.id, $event)"
        />
      </div>
    </div>
    <form v-if="editable" class="make" aria-label="New lens" @submit.prevent="add">
      <n-input
        v-model:value="name"
        size="small"
        placeholder="Another lens: its name"
        :input-props="{ 'aria-label': 'Name of the new lens' }"
      />
      <n-button size="small" attr-type="submit" :disabled="name.trim() === ''">
        Make a lens
      </n-button>
      <label class="door small">
        Take a DITAVAL file in
        <input type="file" accept=".ditaval,.xml" class="visually-hidden" @change="takeFile" />
      </label>
    </form>
  </section>
</template>

<style scoped>
section {
  margin: 36px 0 0;
  padding-top: 16px;
  border-top: 1px solid var(--hair);
}
h2 {
  font: 400 20px var(--font-title);
  color: var(--ink);
}
p {
  margin: 4px 0 10px;
}
.lenses {
  display: grid;
  grid-template-columns: 220px minmax(0, 1fr);
  gap: 24px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li button {
  width: 100%;
  padding: 5px 10px;
  text-align: left;
}
li button:hover {
  background: var(--paper-deep);
}
li .on {
  background: var(--wash);
  box-shadow: inset 3px 0 var(--prussian);
}
.head {
  display: flex;
  gap: 12px;
  align-items: center;
  margin-bottom: 8px;
}
.head .n-input {
  width: 260px;
}
.behind {
  margin: 0 0 12px;
  padding: 0;
  border: 0;
  font-size: 13px;
}
.behind legend {
  padding: 0 0 4px;
  color: var(--soft);
}
.behind .n-checkbox {
  min-height: 26px;
  margin-right: 18px;
}
.make {
  display: flex;
  gap: 12px;
  align-items: center;
  margin-top: 16px;
}
.make .n-input {
  width: 220px;
}
.door {
  color: var(--prussian);
  cursor: pointer;
}
.door:focus-within {
  outline: 2px solid var(--prussian);
}
</style>
