<script setup lang="ts">
import type { OpenElement } from '@ukiyo/core/editing';

/** In the foot line: every open element from the topic inward; each can be selected. */
const { open } = defineProps<{ open: readonly OpenElement[] }>();
const emit = defineEmits<{ select: [OpenElement] }>();
</script>

<template>
  <Teleport defer to="#foot-path">
    <template v-for="(element, index) in open" :key="`${element.position} ${element.element}`">
      <span v-if="index > 0" class="quiet" aria-hidden="true">{{ ' / ' }}</span>
      <button type="button" class="plain" @click="emit('select', element)">
        {{ element.label }}
      </button>
    </template>
  </Teleport>
</template>
