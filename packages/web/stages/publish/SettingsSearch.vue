<script setup lang="ts">
import type { Edition } from '@ukiyo/contracts';
import { computed, ref } from 'vue';
import { findSettings, type Names } from './settings.ts';

/** Looks through all settings of all editions; what is found leads to its field. */
const { editions, names } = defineProps<{ editions: readonly Edition[]; names: Names }>();
const query = ref('');
const most = 40;
const found = computed(() => findSettings(editions, names, query.value));
</script>

<template>
  <div class="find" role="search">
    <n-input
      v-model:value="query"
      size="small"
      clearable
      placeholder="Find a setting"
      :input-props="{ 'aria-label': 'Find a setting of any edition' }"
    />
    <p v-if="query.trim() !== ''" class="small quiet" role="status">
      {{
        found.length === 0
          ? 'No setting says so.'
          : found.length === 1
            ? '1 setting'
            : `${found.length} settings`
      }}
    </p>
    <ul v-if="found.length > 0" aria-label="Settings found">
      <li v-for="one in found.slice(0, most)" :key="`${one.edition.id} ${one.label}`">
        <router-link
          :to="{ name: 'publish', params: { id: one.edition.id }, query: { setting: one.name } }"
        >
          <span>{{ one.label }}: {{ one.value }}</span>
          <span class="quiet small">{{ one.edition.name }}</span>
        </router-link>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.find {
  padding: 0 14px 8px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  border-bottom: 1px solid var(--hair);
}
li a {
  display: grid;
  padding: 5px 0;
  color: var(--ink);
  text-decoration: none;
  overflow-wrap: anywhere;
}
li a:hover {
  background: var(--paper-deep);
}
p {
  margin: 4px 0;
}
</style>
