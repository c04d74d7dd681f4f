<script setup lang="ts">
/** A whole number within bounds, taken when one leaves the field. */
const { value, label, min, max, disabled, hint } = defineProps<{
  value: number;
  label: string;
  min: number;
  max: number;
  disabled?: boolean;
  /** The id of a sentence about it. */
  hint?: string;
}>();
const emit = defineEmits<{ change: [value: number] }>();
/** A field that was emptied shows the number again that holds. */
const take = (typed: number | null): void => {
  if (typed !== null) emit('change', Math.round(typed));
};
</script>

<template>
  <n-input-number
    size="small"
    :value="value"
    :min="min"
    :max="max"
    :disabled="disabled"
    :show-button="false"
    :update-value-on-input="false"
    :input-props="{ 'aria-label': label, 'aria-describedby': hint, inputmode: 'numeric' }"
    @update:value="take"
  />
</template>
