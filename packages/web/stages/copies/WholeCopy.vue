<script setup lang="ts">
import { shallowRef } from 'vue';
import OnlyFor from '../../parts/OnlyFor.vue';

/**
 * One of several topics that say nearly the same: it stays, gives way to the one that stays, or
 * stands in for it for some readers.
 */
defineProps<{
  name: string;
  isKept: boolean;
  /** The title of the one that stays. */ kept: string;
}>();
const emit = defineEmits<{
  keep: [];
  replace: [];
  standIn: [conditions: Readonly<Record<string, string>>];
}>();
const conditions = shallowRef<Readonly<Record<string, string>>>({});
</script>

<template>
  <n-radio name="kept-topic" size="small" :checked="isKept" @update:checked="emit('keep')">
    this topic stays
  </n-radio>
  <template v-if="!isKept">
    <n-button
      size="tiny"
      :aria-label="`Put “${kept}” in the place of “${name}”`"
      @click="emit('replace')"
    >
      Put “{{ kept }}” in its place
    </n-button>
    <OnlyFor
      v-model:conditions="conditions"
      :label="`“${name}” stands in`"
      words="It stands in for …"
    />
    <n-button
      v-if="Object.keys(conditions).length > 0"
      size="tiny"
      type="primary"
      :aria-label="`Make “${name}” an alternate`"
      @click="emit('standIn', conditions)"
    >
      Make it an alternate
    </n-button>
  </template>
</template>
