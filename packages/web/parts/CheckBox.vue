<script setup lang="ts">
import { ref, watch } from 'vue';

/**
 * A checkbox with its words. It shows at once what was clicked, also where the answer of the server
 * is awaited. Naive UI's own does not say that it is disabled (WAI-ARIA 1.2, 6.6).
 */
const { checked, disabled } = defineProps<{ checked: boolean; disabled?: boolean }>();
const emit = defineEmits<{ 'update:checked': [checked: boolean] }>();
const shown = ref(checked);
watch(
  () => checked,
  (now) => (shown.value = now),
);
function turn(now: boolean): void {
  shown.value = now;
  emit('update:checked', now);
}
</script>

<template>
  <n-checkbox
    class="box"
    size="small"
    :checked="shown"
    :disabled="disabled"
    :aria-disabled="disabled || undefined"
    @update:checked="turn"
  >
    <slot />
  </n-checkbox>
</template>

<style scoped>
.box {
  min-height: 24px;
  align-items: center;
}
</style>
