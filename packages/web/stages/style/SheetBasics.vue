<script setup lang="ts">
import { contrast, fontFaces, type StyleSheet } from '@ukiyo/core/styles';
import { computed, ref } from 'vue';
import LineInput from '../../parts/LineInput.vue';
import PickOne from '../../parts/PickOne.vue';

/** The name of a sheet, its faces and its named colours, with how well they can be read. */
const { sheet, disabled, users } = defineProps<{
  sheet: StyleSheet;
  disabled: boolean;
  users: readonly string[];
}>();
const emit = defineEmits<{ change: [(sheet: StyleSheet) => StyleSheet] }>();
const faces = [
  { role: 'reading', label: 'For reading' },
  { role: 'finding', label: 'For finding' },
  { role: 'code', label: 'For code' },
] as const;
const paper = '#ffffff';
const readable = 4.5;
const colours = computed(() =>
  Object.entries(sheet.colours).map(([name, hex]) => ({ name, hex, share: contrast(hex, paper) })),
);
const added = ref('');
const setColour = (name: string, hex: string): void =>
  emit('change', (now) => ({ ...now, colours: { ...now.colours, [name]: hex } }));
function addColour(): void {
  const name = added.value
    .trim()
    .toLowerCase()
    .replace(/[^a-z0-9]+/gu, '-')
    .replace(/^[^a-z]+|-+$/gu, '');
  if (name !== '' && sheet.colours[name] === undefined) setColour(name, '#5f6575');
  added.value = '';
}
</script>

<template>
  <fieldset class="basics" :disabled="disabled">
    <label>
      Name
      <LineInput
        :value="sheet.name"
        label="Name of the style sheet"
        @change="(name: string) => name !== '' && emit('change', (now) => ({ ...now, name }))"
      />
    </label>
    <label>
      What it is for
      <LineInput
        :value="sheet.about"
        label="What the style sheet is for"
        @change="(about: string) => emit('change', (now) => ({ ...now, about }))"
      />
    </label>
    <p class="small quiet">
      {{
        users.length === 0 ? 'No edition is made with it.' : `Made with it: ${users.join(', ')}.`
      }}
    </p>
    <h3>Faces</h3>
    <label v-for="{ role, label } in faces" :key="role" class="row">
      {{ label }}
      <PickOne
        :chosen="sheet.fonts[role]"
        :label="`Face ${label.toLowerCase()}`"
        :options="fontFaces.map((face) => ({ value: face, label: face }))"
        @update:chosen="
          (face) =>
            emit('change', (now) => ({
              ...now,
              fonts: { ...now.fonts, [role]: face as (typeof fontFaces)[number] },
            }))
        "
      />
    </label>
    <h3>Colours</h3>
    <label v-for="{ name, hex, share } in colours" :key="name" class="row">
      <span>{{ name }}</span>
      <span class="small quiet" :title="`${share.toFixed(1)} : 1 on white paper; text wants 4.5`">
        {{ share >= readable ? 'for text' : 'too light for text' }} · {{ share.toFixed(1) }}
      </span>
      <input
        type="color"
        :value="hex"
        :aria-label="`Colour ${name}`"
        @change="setColour(name, ($event.target as HTMLInputElement).value)"
      />
    </label>
    <form class="row" @submit.prevent="addColour">
      <n-input
        v-model:value="added"
        size="small"
        placeholder="Another colour"
        :input-props="{ 'aria-label': 'Name of another colour' }"
      />
      <button type="submit" class="plain">Add</button>
    </form>
  </fieldset>
</template>

<style scoped>
.basics {
  border: 0;
  padding: 0;
  margin: 0;
  display: grid;
  gap: 8px;
}
label {
  display: grid;
  gap: 2px;
  font-size: 13px;
  color: var(--soft);
}
.row {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 10px;
  color: var(--ink);
  font-size: 14px;
}
.row .quiet {
  margin-left: auto;
}
h3 {
  margin: 10px 0 0;
  font: 600 13px var(--font-text);
  border-bottom: 1px solid var(--hair);
  padding-bottom: 2px;
}
p {
  margin: 0;
}
input[type='color'] {
  width: 40px;
  height: 26px;
  padding: 1px;
  border: 1px solid var(--hair);
  border-radius: 4px;
  background: var(--sheet);
}
button {
  color: var(--prussian);
  padding: 4px 8px;
}
</style>
