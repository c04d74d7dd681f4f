<script setup lang="ts">
import { outputs, type Edition } from '@ukiyo/contracts';
import { computed, ref } from 'vue';
import SettingsSearch from './SettingsSearch.vue';
import type { Names } from './settings.ts';
import type { Publishing } from './usePublishing.ts';
import CheckBox from '../../parts/CheckBox.vue';

/** The editions of a project, of which one is looked at, and some or all are built at once. */
const { publishing, names, current, mayPublish } = defineProps<{
  publishing: Publishing;
  names: Names;
  current: string;
  mayPublish: boolean;
}>();
const chosen = ref<string[]>([]);
const turn = (id: string): void =>
  void (chosen.value = chosen.value.includes(id)
    ? chosen.value.filter((one) => one !== id)
    : [...chosen.value, id]);
const editions = computed(() => publishing.editions.value);
/** Those that are chosen and still there; all where none is. */
const together = computed(() => {
  const picked = editions.value.filter(({ id }) => chosen.value.includes(id));
  return picked.length === 0 ? editions.value : picked;
});
const isSome = computed(() => together.value.length < editions.value.length);
const buildLabel = computed(() =>
  isSome.value
    ? `Build ${together.value.length === 1 ? 'the one' : `the ${together.value.length}`} chosen`
    : `Build all ${editions.value.length}`,
);
async function build(): Promise<void> {
  const wanted = together.value;
  chosen.value = [];
  await Promise.all(wanted.map(({ id }) => publishing.build(id)));
}
/** Of all people of the project, the first to come first. */
const waiting = computed(() =>
  publishing.impressions.value
    .filter(({ state }) => state === 'queued' || state === 'running')
    .toReversed(),
);
const latest = ({ id }: Edition): string => {
  const own = publishing.impressions.value.filter(({ edition }) => edition === id);
  const [newest] = own;
  const signed = own.find(({ seal }) => seal);
  if (!newest) return 'never built';
  const ships = signed ? `no. ${signed.number} ships` : '';
  return newest === signed
    ? ships
    : [`no. ${newest.number}, ${newest.state}`, ships].filter((part) => part !== '').join(', ');
};
</script>

<template>
  <aside class="drawer" aria-label="Editions">
    <h1>Editions</h1>
    <SettingsSearch :editions="editions" :names="names" />
    <ul>
      <li v-for="one in editions" :key="one.id" :class="{ on: one.id === current }">
        <CheckBox
          v-if="mayPublish"
          :checked="chosen.includes(one.id)"
          :aria-label="`Build ${one.name} with others`"
          @update:checked="turn(one.id)"
        />
        <router-link :to="{ name: 'publish', params: { id: one.id } }">
          <span>{{ one.name }}</span>
          <span class="quiet small">{{ outputs[one.output].label }} · {{ latest(one) }}</span>
        </router-link>
      </li>
    </ul>
    <footer>
      <p v-if="mayPublish && editions.length > 1" class="build">
        <n-button size="small" @click="build">{{ buildLabel }}</n-button>
        <n-button v-if="isSome" size="small" quaternary @click="chosen = []">None</n-button>
      </p>
      <p v-if="waiting.length > 0" class="small quiet" role="status">
        {{ waiting.length }} {{ waiting.length === 1 ? 'build is' : 'builds are' }} on the way:
        {{
          waiting
            .map(({ editionName, state }) => `${editionName}${state === 'running' ? ', now' : ''}`)
            .join('; ')
        }}
      </p>
      <nav aria-label="More about editions">
        <router-link v-if="mayPublish" :to="{ name: 'publish', params: { id: 'new' } }">
          New edition
        </router-link>
        <router-link :to="{ name: 'appearances' }">Topics by editions</router-link>
        <router-link v-if="mayPublish" :to="{ name: 'outside' }">Tokens and messages</router-link>
      </nav>
    </footer>
  </aside>
</template>

<style scoped>
.drawer {
  display: flex;
  flex-direction: column;
  min-height: 0;
  border-right: 1px solid var(--hair);
  padding-top: 14px;
}
h1 {
  padding: 0 14px 10px;
}
ul {
  flex: 1;
  min-height: 0;
  overflow: auto;
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  align-items: baseline;
  padding-inline-start: 14px;
}
li:hover {
  background: var(--paper-deep);
}
li.on {
  background: var(--wash);
  box-shadow: inset 3px 0 var(--prussian);
}
li .n-checkbox {
  margin-inline-end: 10px;
}
li a {
  flex: 1;
  min-width: 0;
  display: grid;
  padding: 6px 14px 6px 0;
  color: var(--ink);
  text-decoration: none;
}
footer {
  border-top: 1px solid var(--hair);
  padding: 10px 14px;
  display: grid;
  gap: 8px;
  max-height: 45%;
  overflow: auto;
}
p {
  margin: 0;
}
.build {
  display: flex;
  gap: 6px;
}
nav {
  display: grid;
  gap: 4px;
  justify-items: start;
}
</style>
