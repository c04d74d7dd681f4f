<script setup lang="ts">
import { FacetValue as Value, type ValueUse } from '@ukiyo/contracts';
import { pigments, type FacetTag, type FacetValue } from '@ukiyo/core/facets';
import { computed, reactive } from 'vue';
import PickOne from '../../parts/PickOne.vue';

/**
 * One value of a facet: how it is called and shown. Its name in the texts is changed everywhere at
 * once, after saying how many places that is.
 */
const { value, tag, use, taken } = defineProps<{
  value?: FacetValue;
  tag?: FacetTag | undefined;
  use?: ValueUse;
  taken: readonly string[];
}>();
const emit = defineEmits<{ keep: [value: FacetValue, name: string]; close: [] }>();
const form = reactive({
  label: value?.label ?? '',
  letters: value?.letters ?? '',
  pigment: value?.pigment ?? '',
  description: value?.description ?? '',
  retired: value?.retired ?? false,
  name: value?.name ?? '',
});

const nameFrom = (label: string): string =>
  label
    .trim()
    .toLowerCase()
    .replace(/[^\p{L}\p{N}.]+/gu, '-')
    .replace(/^-|-$/gu, '');
const name = computed(() => (form.name.trim() === '' ? nameFrom(form.label) : form.name.trim()));
const isRenamed = computed(() => value !== undefined && name.value !== value.name);
const joins = computed(() => isRenamed.value && taken.includes(name.value));
const colours = computed(() => [
  { value: '', label: `as it comes${tag ? ` (${tag.pigment})` : ''}` },
  ...pigments.map((pigment) => ({ value: pigment, label: pigment })),
]);
const parsed = computed(() => {
  const { label, letters, pigment, description, retired } = form;
  return Value.safeParse({
    // Renaming is an act of its own.
    name: value?.name ?? name.value,
    label,
    ...(letters.trim() === '' ? {} : { letters: letters.trim() }),
    ...(pigment === '' ? {} : { pigment }),
    ...(description.trim() === '' ? {} : { description: description.trim() }),
    ...(retired ? { retired: true } : {}),
    ...(value?.values ? { values: value.values } : {}),
  });
});
const refusal = computed(() => {
  if (!value && taken.includes(name.value))
    return `“${name.value}” is a value of this facet already.`;
  return form.label.trim() !== '' && !parsed.value.success
    ? (parsed.value.error.issues[0]?.message ?? '')
    : '';
});
function keep(): void {
  if (parsed.value.success && refusal.value === '') emit('keep', parsed.value.data, name.value);
}
</script>

<template>
  <form class="value-form" aria-label="Value" @submit.prevent="keep" @keydown.esc="emit('close')">
    <label>
      Label
      <n-input
        v-model:value="form.label"
        size="small"
        autofocus
        placeholder=""
        :input-props="{ 'aria-label': 'Label' }"
      />
    </label>
    <label>
      Letters
      <n-input
        v-model:value="form.letters"
        size="small"
        :placeholder="tag?.letters ?? ''"
        :maxlength="3"
        :input-props="{ 'aria-label': 'Letters' }"
      />
    </label>
    <label>
      Pigment
      <PickOne v-model:chosen="form.pigment" label="Pigment" :options="colours" />
    </label>
    <label>
      Name in the texts
      <n-input
        v-model:value="form.name"
        size="small"
        :placeholder="nameFrom(form.label)"
        :input-props="{ 'aria-label': 'Name in the texts' }"
      />
    </label>
    <label class="wide">
      What it means
      <n-input
        v-model:value="form.description"
        size="small"
        placeholder=""
        :input-props="{ 'aria-label': 'What it means' }"
      />
    </label>
    <n-checkbox v-model:checked="form.retired" class="wide">
      Retired: it stays where it is set, and is offered no more
    </n-checkbox>
    <p v-if="isRenamed && use" class="wide small" role="status">
      It is set at {{ use.count }} {{ use.count === 1 ? 'place' : 'places' }} in {{ use.items }}
      {{ use.items === 1 ? 'topic or map' : 'topics and maps' }}; all of them, and every lens, will
      say “{{ name }}” instead{{ joins ? ', which is a value already: the two become one' : '' }}.
    </p>
    <p v-if="refusal" class="wide small seal-text" role="alert">{{ refusal }}</p>
    <div class="wide row">
      <n-button
        type="primary"
        attr-type="submit"
        size="small"
        :disabled="form.label.trim() === '' || refusal !== ''"
      >
        {{ isRenamed ? 'Keep, and rename everywhere' : 'Keep' }}
      </n-button>
      <n-button size="small" @click="emit('close')">Cancel</n-button>
    </div>
  </form>
</template>

<style scoped>
.value-form {
  display: grid;
  grid-template-columns: minmax(0, 2fr) 74px 150px minmax(0, 1.4fr);
  gap: 10px;
  padding: 12px 14px;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 4px;
}
.wide {
  grid-column: 1 / -1;
}
label {
  display: grid;
  gap: 3px;
  font-size: 13px;
  color: var(--soft);
}
p {
  margin: 0;
}
.row {
  display: flex;
  gap: 8px;
}
</style>
