<script setup lang="ts">
import { computed } from 'vue';
import OrderButtons from '../../parts/OrderButtons.vue';
import PickOne from '../../parts/PickOne.vue';

/** Several of a list, in an order of one's own. */
const { label, options, prompt, disabled } = defineProps<{
  label: string;
  options: readonly { readonly value: string; readonly label: string }[];
  /** What the field says that adds one. */ prompt: string;
  disabled: boolean;
}>();
const chosen = defineModel<string[]>('chosen', { required: true });
const labelOf = (value: string): string =>
  options.find((one) => one.value === value)?.label ?? value;
const left = computed(() => options.filter(({ value }) => !chosen.value.includes(value)));
const move = (at: number, by: 1 | -1): void =>
  void (chosen.value = chosen.value.toSpliced(at, 1).toSpliced(at + by, 0, chosen.value[at]!));
</script>

<template>
  <div class="several">
    <ol v-if="chosen.length > 0" :aria-label="label">
      <li v-for="(value, at) in chosen" :key="value">
        <span>{{ labelOf(value) }}</span>
        <OrderButtons
          v-if="!disabled"
          :label="labelOf(value)"
          :at="at"
          :count="chosen.length"
          removing="take out"
          @move="move(at, $event)"
          @remove="chosen = chosen.toSpliced(at, 1)"
        />
      </li>
    </ol>
    <PickOne
      v-if="!disabled && left.length > 0"
      chosen=""
      :label="`${label}: add`"
      :options="[{ value: '', label: prompt }, ...left]"
      @update:chosen="$event === '' || (chosen = [...chosen, $event])"
    />
    <span v-else-if="chosen.length === 0" class="quiet small">none</span>
  </div>
</template>

<style scoped>
.several {
  display: grid;
  gap: 6px;
  justify-items: start;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  width: 100%;
}
li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  border-bottom: 1px solid var(--hair);
}
</style>
