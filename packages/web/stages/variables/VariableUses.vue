<script setup lang="ts">
import { Reach } from '@ukiyo/contracts';
import { onMounted, shallowRef } from 'vue';
import { ask } from '../../parts/api.ts';
import { useSession } from '../../parts/session.ts';

/** Where a variable is used, and which maps and editions a change of it reaches. */
const { name } = defineProps<{ name: string }>();
const session = useSession();
const reach = shallowRef<Reach>();
onMounted(
  async () =>
    (reach.value = await ask(`${session.base}/uses?of=key&id=${encodeURIComponent(name)}`, Reach)),
);
</script>

<template>
  <div v-if="reach" class="uses" role="region" :aria-label="`Where ${name} is used`">
    <span v-for="use in reach.uses.filter(({ manner }) => manner === 'key')" :key="use.item.id">
      <router-link
        :to="{ name: use.item.kind === 'map' ? 'arrange' : 'write', params: { id: use.item.id } }"
      >
        {{ use.item.title }}
      </router-link>
      <span v-if="use.count > 1" class="quiet small">{{ use.count }} times</span>
    </span>
    <span v-if="reach.editions.length > 0" class="quiet small reached">
      A change reaches {{ reach.editions.map((edition) => edition.name).join(', ') }}.
    </span>
  </div>
</template>

<style scoped>
.uses {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  padding: 4px 8px;
  background: var(--paper-deep);
  border-radius: 4px;
}
.reached {
  flex-basis: 100%;
}
</style>
