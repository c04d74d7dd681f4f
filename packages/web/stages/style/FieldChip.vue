<script setup lang="ts">
import { pageFields, readLength, type PageField } from '@ukiyo/core/styles';
import { computed } from 'vue';
import AssetSelect from '../../parts/AssetSelect.vue';
import LineInput from '../../parts/LineInput.vue';
import PickOne from '../../parts/PickOne.vue';
import { useVariables } from '../../parts/variables.ts';

/** A field of a head, a foot or a cover: what it is, and what it needs to be told. */
const { field, label, disabled, removable } = defineProps<{
  field: PageField;
  label: string;
  disabled: boolean;
  removable?: boolean;
}>();
const emit = defineEmits<{ change: [PageField]; remove: [] }>();
const variables = useVariables();
const keys = computed(() => [...new Set(variables.list.variables.map(({ key }) => key))].sort());
const options = computed(() => [
  { value: '', label: 'choose' },
  ...keys.value.map((key) => ({ value: key, label: key })),
]);
</script>

<template>
  <span class="field">
    <LineInput
      v-if="field.field === 'text'"
      :value="field.words"
      :label="`${label}: words`"
      :disabled="disabled"
      @change="(words: string) => emit('change', { field: 'text', words })"
    />
    <template v-else-if="field.field === 'variable'">
      <span>{{ pageFields.variable }}</span>
      <PickOne
        :chosen="field.key"
        :label="`${label}: variable`"
        :options="options"
        :disabled="disabled"
        @update:chosen="(key) => emit('change', { field: 'variable', key })"
      />
    </template>
    <template v-else-if="field.field === 'image'">
      <AssetSelect
        class="image"
        :chosen="field.image"
        :label="`${label}: image`"
        :among="{ media: 'image' }"
        none="choose"
        :disabled="disabled"
        @update:chosen="
          (image: string) => field.field === 'image' && emit('change', { ...field, image })
        "
      />
      <LineInput
        class="height"
        :value="field.height"
        :label="`${label}: height of the image`"
        :disabled="disabled"
        @change="
          (height: string) =>
            field.field === 'image' && readLength(height) && emit('change', { ...field, height })
        "
      />
    </template>
    <span v-else>{{ pageFields[field.field] }}</span>
    <button
      v-if="removable"
      type="button"
      class="plain"
      :aria-label="`Take “${pageFields[field.field]}” out`"
      :disabled="disabled"
      @click="emit('remove')"
    >
      ×
    </button>
  </span>
</template>

<style scoped>
.field {
  display: inline-flex;
  align-items: center;
  gap: 2px;
  padding: 1px 3px 1px 7px;
  border-radius: 3px;
  background: var(--wash);
  font-size: 13px;
}
.field button {
  min-width: 20px;
  min-height: 22px;
  color: var(--soft);
}
.field :deep(.n-input) {
  width: 80px;
}
.field :deep(select) {
  height: 22px;
  max-width: 110px;
}
.image {
  width: 130px;
}
.field :deep(.height) {
  width: 48px;
}
</style>
