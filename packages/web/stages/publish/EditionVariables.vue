<script setup lang="ts">
import { computed, onMounted } from 'vue';
import PickOne from '../../parts/PickOne.vue';
import { kindOfVariable, useVariables } from '../../parts/variables.ts';

/** Texts that an edition gives to variables instead of what its map says. */
const { mayChange } = defineProps<{ mayChange: boolean }>();
const list = defineModel<{ key: string; value: string }[]>('variables', { required: true });
const known = useVariables();
onMounted(() => known.ensure());

/** Keys are picked, not typed; what was set before stays to be seen. */
const keys = computed(() =>
  [
    ...new Set([
      ...known.named.filter((one) => kindOfVariable(one) === 'text').map(({ key }) => key),
      ...list.value.map(({ key }) => key),
    ]),
  ].map((key) => ({ value: key, label: key || 'which one …' })),
);
/** The texts that one may choose for a variable; none where anything may be written. */
function choicesOf(key: string): string[] {
  const definitions = known.byKey.get(key) ?? [];
  return definitions.some(({ choices }) => choices.length > 0)
    ? [...new Set(definitions.flatMap(({ line, choices }) => [line, ...choices]))]
    : [];
}
const change = (at: number, to: Partial<{ key: string; value: string }>): void =>
  void (list.value = list.value.with(at, { ...list.value[at]!, ...to }));
</script>

<template>
  <div class="variables">
    <div v-for="(variable, at) in list" :key="at" class="variable">
      <PickOne
        :chosen="variable.key"
        label="Variable"
        :disabled="!mayChange"
        :options="keys"
        @update:chosen="change(at, { key: $event })"
      />
      <PickOne
        v-if="choicesOf(variable.key).length > 0"
        :chosen="variable.value"
        label="Text"
        :disabled="!mayChange"
        :options="
          [...new Set([...choicesOf(variable.key), variable.value])].map((value) => ({
            value,
            label: value || 'which text …',
          }))
        "
        @update:chosen="change(at, { value: $event })"
      />
      <n-input
        v-else
        :value="variable.value"
        size="small"
        placeholder="text"
        :disabled="!mayChange"
        :input-props="{ 'aria-label': 'Text' }"
        @update:value="change(at, { value: $event })"
      />
      <n-button
        v-if="mayChange"
        size="small"
        quaternary
        aria-label="Remove variable"
        @click="list = list.toSpliced(at, 1)"
      >
        ×
      </n-button>
    </div>
    <n-button v-if="mayChange" size="small" @click="list = [...list, { key: '', value: '' }]">
      Add variable
    </n-button>
  </div>
</template>

<style scoped>
.variables {
  display: grid;
  gap: 6px;
  justify-items: start;
}
.variable {
  display: grid;
  grid-template-columns: 1fr 1.4fr auto;
  gap: 6px;
  width: 100%;
}
</style>
