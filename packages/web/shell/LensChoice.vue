<script setup lang="ts">
import { computed, onMounted } from 'vue';
import { useLens } from '../parts/lens.ts';
import PickOne from '../parts/PickOne.vue';

/** Through which lens one looks. */
const looking = useLens();
const options = computed(() => [
  { value: '', label: 'every reader' },
  ...looking.lenses.map(({ id, name }) => ({ value: id, label: name })),
]);
const chosen = computed({
  get: () => (looking.lens ? looking.chosen : ''),
  set: (id) => (looking.chosen = id),
});
onMounted(looking.load);
</script>

<template>
  <div class="lens">
    <span class="small quiet" aria-hidden="true">as</span>
    <PickOne v-model:chosen="chosen" label="Lens" :options="options" />
    <button
      v-if="looking.lens"
      type="button"
      class="plain small"
      :aria-pressed="looking.hides"
      title="What the lens drops is not shown at all"
      @click="looking.hides = !looking.hides"
    >
      {{ looking.hides ? 'dropped is hidden' : 'dropped is grey' }}
    </button>
  </div>
</template>

<style scoped>
.lens {
  display: flex;
  align-items: center;
  gap: 8px;
}
.lens :deep(select) {
  max-width: 190px;
}
button {
  color: var(--prussian);
  white-space: nowrap;
}
</style>
