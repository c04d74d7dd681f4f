<script setup lang="ts">
import type { Edition } from '@ukiyo/contracts';
import type { Path } from '@ukiyo/core/problems';
import { useWholeManual } from './useWholeManual.ts';
import WholePages from './WholePages.vue';

/** The exact pages of a topic in an edition, in the whole manual, as it is stored. */
const { edition, topic, changes, at } = defineProps<{
  edition: Edition;
  topic: string;
  changes: number;
  at?: Path | undefined;
}>();
const emit = defineEmits<{ go: [Path] }>();
const { manual, failure, busy, share, set, cancel } = useWholeManual(
  () => edition.id,
  () => topic,
  () => changes,
);
</script>

<template>
  <div class="exact">
    <p v-if="failure" class="seal-text" role="alert">{{ failure }}</p>
    <div v-if="busy" class="progress">
      <progress :value="share" :aria-label="`Setting the whole of ${edition.name}`" />
      <span class="small">setting the whole …</span>
      <button type="button" class="plain" @click="cancel">Cancel</button>
    </div>
    <button v-else-if="!manual" type="button" class="plain" @click="set">Set the whole</button>
    <p v-if="manual && manual.proof.places.length === 0" class="quiet small">
      {{ edition.name }} does not have this topic.
    </p>
    <WholePages
      v-if="manual"
      :manual="manual"
      :label="edition.name"
      :at="at"
      @point="emit('go', $event)"
    >
      <span
        class="small"
        :title="`The whole manual, as it is stored; set in ${manual.proof.milliseconds} ms`"
      >
        exact
      </span>
    </WholePages>
  </div>
</template>

<style scoped>
.exact {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
.exact > :deep(.whole) {
  flex: 1;
}
.progress {
  display: flex;
  gap: 8px;
  align-items: center;
  padding: 4px 12px;
  font-size: 13px;
}
progress {
  flex: 1;
  height: 6px;
}
p {
  padding: 4px 12px;
  margin: 0;
}
</style>
