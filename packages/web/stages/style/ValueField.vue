<script setup lang="ts">
import {
  propertyDefinition,
  faultOf,
  readRule,
  type PropertyName,
  type Value,
} from '@ukiyo/core/styles';
import { computed, ref, watch } from 'vue';
import PickOne from '../../parts/PickOne.vue';
import ColourField from './ColourField.vue';

/** One value of a property, changed where it stands. Undefined: nothing is said. */
const { name, value, label, colours, locale, disabled } = defineProps<{
  name: PropertyName;
  value: Value | undefined;
  label: string;
  colours: Readonly<Record<string, string>>;
  locale: string;
  disabled: boolean;
}>();
const emit = defineEmits<{ change: [Value] }>();
const definition = computed(() => propertyDefinition(name));
const written = computed(() =>
  typeof value === 'object' ? (value[locale] ?? '') : value === undefined ? '' : String(value),
);
const text = ref(written.value);
const fault = ref('');
watch(written, (next) => {
  text.value = next;
  fault.value = '';
});
function take(typed: string): void {
  const said: Value =
    definition.value.kind === 'number'
      ? Number(typed)
      : definition.value.kind === 'words'
        ? { ...(typeof value === 'object' ? value : {}), [locale]: typed }
        : typed.trim();
  fault.value = faultOf(name, said, colours) ?? '';
  if (fault.value === '' && JSON.stringify(said) !== JSON.stringify(value)) emit('change', said);
}
/** Arrow keys change the last digit that is written; with Shift ten times as much. */
function nudge(event: KeyboardEvent, direction: number): void {
  const match = /^(-?\d+(?:\.(\d+))?)(.*)$/u.exec(text.value.trim());
  if (!match || (definition.value.kind !== 'length' && definition.value.kind !== 'number')) return;
  event.preventDefault();
  const places = Math.max(
    match[2]?.length ?? 0,
    match[3] === 'em' || definition.value.kind === 'number' ? 2 : 1,
  );
  const step =
    (match[3] === 'em' || definition.value.kind === 'number' ? 0.05 : 0.5) *
    (event.shiftKey ? 10 : 1);
  text.value = `${Number((Number(match[1]) + direction * step).toFixed(places))}${match[3]}`;
  take(text.value);
}
const rule = computed(() => (typeof value === 'string' ? readRule(value) : undefined));
const takeRule = (width: string, colour: string): void =>
  take(width.trim() === '' || colour === 'none' ? 'none' : `${width.trim()} ${colour}`);
const choices = computed(() => [
  ...(value === undefined ? [{ value: '', label: '–' }] : []),
  ...(definition.value.choices ?? []).map((one) => ({ value: one, label: one })),
]);
</script>

<template>
  <span class="value">
    <PickOne
      v-if="definition.kind === 'choice'"
      :chosen="written"
      :label="label"
      :options="choices"
      :disabled="disabled"
      @update:chosen="(one) => one !== '' && take(one)"
    />
    <PickOne
      v-else-if="definition.kind === 'switch'"
      :chosen="written"
      :label="label"
      :options="[
        ...(value === undefined ? [{ value: '', label: '–' }] : []),
        { value: 'true', label: 'yes' },
        { value: 'false', label: 'no' },
      ]"
      :disabled="disabled"
      @update:chosen="(one) => one !== '' && emit('change', one === 'true')"
    />
    <ColourField
      v-else-if="definition.kind === 'colour'"
      :value="written"
      :label="label"
      :colours="colours"
      :disabled="disabled"
      @change="take"
    />
    <template v-else-if="definition.kind === 'rule'">
      <input
        :value="rule?.width ?? ''"
        placeholder="none"
        :aria-label="`${label}: how thick`"
        :disabled="disabled"
        class="short"
        @change="takeRule(($event.target as HTMLInputElement).value, rule?.colour ?? 'ink')"
      />
      <ColourField
        :value="rule?.colour ?? 'none'"
        :label="`${label}: colour`"
        :colours="colours"
        :disabled="disabled"
        @change="(colour) => takeRule(rule?.width ?? '0.5pt', colour)"
      />
    </template>
    <input
      v-else
      v-model="text"
      :aria-label="label"
      :aria-invalid="fault !== ''"
      :placeholder="definition.kind === 'words' ? 'none' : '–'"
      :disabled="disabled"
      @change="take(text)"
      @keydown.up="nudge($event, 1)"
      @keydown.down="nudge($event, -1)"
    />
    <span v-if="fault" class="fault small" role="alert">{{ fault }}</span>
  </span>
</template>

<style scoped>
.value {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  min-width: 0;
}
input {
  width: 100%;
  min-width: 0;
  height: 28px;
  padding: 0 6px;
  border: 1px solid var(--hair);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  font: 400 13px var(--font-text);
}
.short {
  width: 58px;
}
input[aria-invalid='true'] {
  border-color: var(--seal);
}
.fault {
  color: var(--seal);
  flex-basis: 100%;
}
.value :deep(select) {
  width: 100%;
}
</style>
