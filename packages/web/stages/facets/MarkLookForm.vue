<script setup lang="ts">
import type { MarkLook } from '@ukiyo/core/facets';
import { shallowRef } from 'vue';

/** How what a lens marks looks: its colours, a line beside it, words before and after. */
const props = defineProps<{ look?: MarkLook | undefined; label: string; disabled: boolean }>();
const emit = defineEmits<{ change: [MarkLook] }>();
/** As it stands here: the next change may come before the last one is kept. */
const look = shallowRef<MarkLook>(props.look ?? {});
/**
 * What is being typed belongs to the form at once: drawing it anew in the meantime must not take it
 * away.
 */
const hold = (part: keyof MarkLook, event: Event): void => {
  look.value = { ...look.value, [part]: (event.target as HTMLInputElement).value };
};
/** What is empty is not said. */
function put(part: keyof MarkLook, value: string | boolean | undefined): void {
  const { [part]: _earlier, ...rest } = look.value;
  look.value =
    value === undefined || value === '' || value === false ? rest : { ...rest, [part]: value };
  emit('change', look.value);
}
const textOf = (event: Event): string => (event.target as HTMLInputElement).value.trim();
const colours = [
  { part: 'color', name: 'words', first: '#12305f' },
  { part: 'background', name: 'behind', first: '#f6e7c3' },
] as const;
</script>

<template>
  <span class="look" role="group" :aria-label="`Look of ${label}`">
    <span v-for="{ part, name, first } in colours" :key="part" class="colour">
      <label>
        <input
          type="checkbox"
          :checked="look[part] !== undefined"
          :disabled="disabled"
          @change="put(part, look[part] === undefined ? first : undefined)"
        />
        {{ name }}
      </label>
      <input
        v-if="look[part] !== undefined"
        type="color"
        :value="look[part]"
        :aria-label="`Colour: ${name}`"
        :disabled="disabled"
        @input="hold(part, $event)"
        @change="put(part, textOf($event))"
      />
    </span>
    <label>
      <input
        type="checkbox"
        :checked="look.bar === true"
        :disabled="disabled"
        @change="put('bar', look.bar !== true)"
      />
      line beside
    </label>
    <input
      type="text"
      placeholder="words before"
      aria-label="Words before"
      maxlength="200"
      :value="look.start"
      :disabled="disabled"
      @input="hold('start', $event)"
      @change="put('start', textOf($event))"
    />
    <input
      type="text"
      placeholder="words after"
      aria-label="Words after"
      maxlength="200"
      :value="look.end"
      :disabled="disabled"
      @input="hold('end', $event)"
      @change="put('end', textOf($event))"
    />
  </span>
</template>

<style scoped>
.look {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
  padding: 4px 0 6px;
  font-size: 13px;
}
label {
  display: inline-flex;
  align-items: center;
  gap: 4px;
}
.colour {
  display: inline-flex;
  align-items: center;
  gap: 4px;
}
input[type='color'] {
  width: 26px;
  height: 20px;
  padding: 0;
  border: 1px solid var(--hair);
  background: none;
}
input[type='text'] {
  width: 112px;
  height: 26px;
  padding: 0 6px;
  border: 1px solid var(--hair);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  font: 400 13px var(--font-text);
}
</style>
