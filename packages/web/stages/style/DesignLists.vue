<script setup lang="ts">
import type { DesignKind } from '@ukiyo/contracts';
import { useDesigns } from '../../parts/designs.ts';
import { designKinds } from './useDesignActs.ts';

/** All style sheets, page plans and site looks of the project. */
const { kind, id } = defineProps<{ kind: DesignKind; id: string }>();
const designs = useDesigns();
const placeOf = (one: DesignKind, to: string) =>
  one === 'looks'
    ? { name: 'looks', params: { id: to } }
    : { name: 'style', params: { kind: one, id: to } };
</script>

<template>
  <section v-for="(one, name) in designKinds" :key="name">
    <h1>{{ one.label }}</h1>
    <ul>
      <li v-for="item in designs.list[name]" :key="item.id">
        <router-link
          :to="placeOf(name, item.id)"
          :class="{ on: name === kind && item.id === id }"
          :title="item.content.about"
        >
          {{ item.content.name }}
        </router-link>
      </li>
    </ul>
  </section>
</template>

<style scoped>
h1 {
  padding: 0 14px 4px;
  font-size: 17px;
}
section + section h1 {
  padding-top: 10px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li a {
  display: block;
  padding: 3px 14px;
  color: var(--ink);
  text-decoration: none;
  font-size: 14px;
}
li a:hover {
  background: var(--paper-deep);
}
li a.on {
  background: var(--wash);
  box-shadow: inset 3px 0 var(--prussian);
}
</style>
