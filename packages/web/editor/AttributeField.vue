<script setup lang="ts">
import type { AttributeDefinition } from '@ukiyo/core/grammar';
import { computed, onMounted, ref, watch } from 'vue';
import { useAssetList } from '../parts/assetList.ts';
import { useAssets } from '../parts/assets.ts';
import { useItemList } from '../parts/itemList.ts';
import { useItems } from '../parts/items.ts';

const { definition, value, editable, refusal } = defineProps<{
  definition: AttributeDefinition;
  value: string;
  editable: boolean;
  refusal: (value: string) => string | undefined;
}>();
const emit = defineEmits<{ change: [string] }>();
const items = useItems();
const assets = useAssets();
const text = ref(value);
const field = ref<{ focus: () => void }>();
watch(
  () => value,
  () => (text.value = value),
);
onMounted(() => {
  // One that was just added is filled in next.
  if (value === '' && editable) field.value?.focus();
});

const problem = computed(() => refusal(text.value));
/** What a reference can lead to: what the library has of the words, and whatever is typed. */
const words = ref('');
const isOpen = ref(false);
const list = useItemList(() => (isOpen.value ? { title: words.value } : undefined));
const images = useAssetList(() => (isOpen.value ? { name: words.value } : undefined));
const targets = computed(() => [
  ...(list.isCurrent.value ? list.rows.value : []).map((item) => ({
    value: `${item.kind}:${item.id}`,
    label: item.title || item.id,
  })),
  ...(images.isCurrent.value ? images.rows.value : []).map((asset) => ({
    value: `asset:${asset.id}`,
    label: asset.name,
  })),
]);
function nameOf(reference: string): string {
  const [, kind, id = ''] = /^(topic|map|asset):([^/]+)$/u.exec(reference) ?? [];
  const name =
    kind === 'asset' ? assets.find(id)?.name : kind !== undefined && items.find(id)?.title;
  return name || reference;
}

/**
 * Kept when one leaves the field or presses Enter; what cannot stand there is said and not kept.
 */
function keep(next: string): void {
  text.value = next;
  if (next !== value && refusal(next) === undefined) emit('change', next);
}
</script>

<template>
  <div class="field">
    <label :for="`attribute-${definition.name}`" class="small quiet" :title="definition.help">
      {{ definition.label }}
    </label>
    <n-select
      v-if="definition.kind === 'choice'"
      ref="field"
      size="small"
      clearable
      :disabled="!editable"
      :value="value === '' ? null : value"
      :options="(definition.values ?? []).map((one) => ({ value: one, label: one }))"
      :input-props="{ id: `attribute-${definition.name}` }"
      @update:value="keep($event ?? '')"
    />
    <n-select
      v-else-if="definition.kind === 'reference'"
      ref="field"
      size="small"
      clearable
      filterable
      tag
      :filter="() => true"
      :fallback-option="(reference: string) => ({ value: reference, label: nameOf(reference) })"
      :disabled="!editable"
      :value="value === '' ? null : value"
      :options="targets"
      :input-props="{ id: `attribute-${definition.name}` }"
      @update:show="((isOpen = $event), (words = ''))"
      @search="words = $event"
      @update:value="keep($event ?? '')"
    />
    <n-input
      v-else
      ref="field"
      v-model:value="text"
      size="small"
      clearable
      placeholder=""
      :disabled="!editable"
      :status="problem === undefined ? undefined : 'error'"
      :input-props="{
        id: `attribute-${definition.name}`,
        'aria-describedby': `attribute-problem-${definition.name}`,
      }"
      @change="keep"
      @clear="keep('')"
      @keydown.enter.prevent="keep(text)"
    />
    <p
      v-if="problem !== undefined"
      :id="`attribute-problem-${definition.name}`"
      class="small seal-text"
      role="alert"
    >
      {{ problem }}
    </p>
  </div>
</template>

<style scoped>
.field {
  display: grid;
  grid-template-columns: 76px minmax(0, 1fr);
  align-items: center;
  gap: 2px 8px;
}
p {
  grid-column: 2;
  margin: 0;
}
</style>
