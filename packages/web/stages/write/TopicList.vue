<script setup lang="ts">
import { useVirtualList } from '@vueuse/core';
import { computed, ref } from 'vue';
import { draggedTopic } from '../../editor/links.ts';
import { kindLabel, kindLetter } from '../../parts/kinds.ts';
import { useLens } from '../../parts/lens.ts';
import { useLibrary } from '../../parts/library.ts';

const { current } = defineProps<{ current: string }>();
const library = useLibrary();
const looking = useLens();
const query = ref('');
const shown = computed(() => library.items.filter((item) => item.kind === 'topic' && !(looking.hides && looking.drops(item.conditions)) && item.title.toLowerCase().includes(query.value.trim().toLowerCase())));
const { list, containerProps, wrapperProps } = useVirtualList(shown, { itemHeight: 28, overscan: 16 });
</script>

<template>
  <aside class="drawer" aria-label="Topics">
    <h1>Topics</h1>
    <n-input v-model:value="query" size="small" clearable placeholder="Filter topics" :input-props="{ 'aria-label': 'Filter topics' }" />
    <div v-bind="containerProps" class="list">
      <ul v-bind="wrapperProps">
        <li v-for="{ data: item } in list" :key="item.id">
          <router-link :to="{ name: 'write', params: { id: item.id } }" :class="{ on: item.id === current, dropped: looking.drops(item.conditions) }" :aria-current="item.id === current ? 'page' : undefined" @dragstart="$event.dataTransfer?.setData(draggedTopic, item.id)"><span class="letter" :title="kindLabel(item.type)">{{ kindLetter(item.type) }}</span><span class="title">{{ item.title || item.id }}</span></router-link>
        </li>
      </ul>
    </div>
  </aside>
</template>

<style scoped>
.drawer { border-right: 1px solid var(--hair); display: flex; flex-direction: column; min-height: 0; padding: 14px 0 0; } h1 { padding: 0 14px 8px; } .n-input { margin: 0 12px 8px; width: auto; }
.list { flex: 1; } ul { list-style: none; margin: 0; padding: 0; } a { display: grid; grid-template-columns: 22px 1fr; align-items: center; height: 28px; padding: 0 10px; color: var(--ink); text-decoration: none; } a:hover { background: var(--paper-deep); } a.on { background: var(--wash); box-shadow: inset 3px 0 var(--prussian); } .dropped .title { color: var(--soft); text-decoration: line-through; } .letter { color: var(--faint); font-size: 13px; } .title { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
</style>
