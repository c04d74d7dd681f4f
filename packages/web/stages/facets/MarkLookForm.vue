<script setup lang="ts">
import type { LetterLook, MarkLook } from '@ukiyo/core/facets';
import { shallowRef } from 'vue';
import CheckBox from '../../parts/CheckBox.vue';

/** How what a lens marks looks: its colours, a line beside it, its letters, words around it. */
const props = defineProps<{ look?: MarkLook | undefined; label: string; disabled: boolean }>();
const emit = defineEmits<{ change: [MarkLook] }>();
/** As it stands here: the next change may come before the last one is kept. */
const look = shallowRef<MarkLook>(props.look ?? {});
/**
 * What is being typed belongs to the form at once: drawing it anew in the meantime must not take it
 * away.
 */
const hold = (part: keyof MarkLook, value: string): void => {
  look.value = { ...look.value, [part]: value };
};
/** What is empty is not said. */
function put(part: keyof MarkLook, value: MarkLook[keyof MarkLook]): void {
  const { [part]: _earlier, ...rest } = look.value;
  look.value =
    value === undefined || value === '' || value === false || isEmptyList(value)
      ? rest
      : { ...rest, [part]: value };
  emit('change', look.value);
}
const isEmptyList = (value: unknown): boolean => Array.isArray(value) && value.length === 0;
const letterNames: Readonly<Record<LetterLook, string>> = {
  bold: 'bold',
  italics: 'italic',
  underline: 'underlined',
  'double-underline': 'double underlined',
  overline: 'overlined',
  'line-through': 'struck through',
};
function turn(letter: LetterLook): void {
  const { letters = [] } = look.value;
  const others = letters.filter((one) => one !== letter);
  put('letters', others.length < letters.length ? others : [...letters, letter]);
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
      <CheckBox
        :checked="look[part] !== undefined"
        :disabled="disabled"
        @update:checked="put(part, look[part] === undefined ? first : undefined)"
      >
        {{ name }}
      </CheckBox>
      <input
        v-if="look[part] !== undefined"
        type="color"
        :value="look[part]"
        :aria-label="`Colour: ${name}`"
        :disabled="disabled"
        @input="hold(part, textOf($event))"
        @change="put(part, textOf($event))"
      />
    </span>
    <CheckBox
      :checked="look.bar === true"
      :disabled="disabled"
      @update:checked="put('bar', look.bar !== true)"
    >
      line beside
    </CheckBox>
    <CheckBox
      v-for="(name, letter) in letterNames"
      :key="letter"
      :checked="look.letters?.includes(letter) === true"
      :disabled="disabled"
      @update:checked="turn(letter)"
    >
      {{ name }}
    </CheckBox>
    <n-input
      size="small"
      class="words"
      placeholder="words before"
      :maxlength="200"
      :value="look.start ?? ''"
      :disabled="disabled"
      :input-props="{ 'aria-label': 'Words before' }"
      @update:value="hold('start', $event)"
      @change="put('start', $event.trim())"
    />
    <n-input
      size="small"
      class="words"
      placeholder="words after"
      :maxlength="200"
      :value="look.end ?? ''"
      :disabled="disabled"
      :input-props="{ 'aria-label': 'Words after' }"
      @update:value="hold('end', $event)"
      @change="put('end', $event.trim())"
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
.words {
  width: 112px;
}
</style>
