<script setup lang="ts">
import {
  iconImage,
  icons,
  noteColour,
  noteKinds,
  roleOf,
  type NoteKind,
  type NoteMark,
  type StyleSheet,
} from '@ukiyo/core/styles';
import AssetSelect from '../../parts/AssetSelect.vue';
import LineInput from '../../parts/LineInput.vue';
import PickOne from '../../parts/PickOne.vue';

/** The mark of each type of note: which image, how large, where it stands, and which lines meet. */
const { sheet, locale, disabled } = defineProps<{
  sheet: StyleSheet;
  locale: string;
  disabled: boolean;
}>();
const emit = defineEmits<{ change: [(sheet: StyleSheet) => StyleSheet] }>();
const usual: NoteMark = { icon: 'circle', size: '6mm', place: 'none', meets: 'top' };
const shipped = Object.keys(icons).map((icon) => ({ value: icon, label: icon }));
const places = [
  { value: 'margin column', label: 'in the margin' },
  { value: 'before the text', label: 'before it' },
  { value: 'above', label: 'above it' },
  { value: 'none', label: 'nowhere' },
];
const meetings = [
  { value: 'top', label: 'by tops' },
  { value: 'baseline', label: 'by baselines' },
];
const labelOf = (kind: NoteKind): string =>
  kind === 'note' ? 'Note' : (roleOf(`note-${kind}`)?.label ?? kind);
const drawn = (kind: NoteKind): string | undefined => {
  const svg = iconImage(sheet.marks[kind]?.icon ?? '', noteColour(sheet, kind, 'print'));
  return svg && `data:image/svg+xml,${encodeURIComponent(svg)}`;
};
const set = (kind: NoteKind, part: Partial<NoteMark>): void =>
  emit('change', (now) => ({
    ...now,
    marks: { ...now.marks, [kind]: { ...usual, ...now.marks[kind], ...part } },
  }));
const setSize = (kind: NoteKind, size: string): void => {
  if (/^\d+(\.\d+)?(pt|mm|cm|em)$/u.test(size)) set(kind, { size });
};
</script>

<template>
  <table class="marks">
    <thead>
      <tr>
        <th scope="col"><span class="unseen">Mark</span></th>
        <th scope="col">Note</th>
        <th scope="col">Image</th>
        <th scope="col">Height</th>
        <th scope="col">Stands</th>
        <th scope="col">Lined up</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="kind in noteKinds" :key="kind">
        <td><img v-if="drawn(kind)" :src="drawn(kind)" alt="" width="20" height="20" /></td>
        <th scope="row">
          <LineInput
            :value="sheet.marks[kind]?.words?.[locale] ?? ''"
            :label="`${labelOf(kind)}: what it is called`"
            :placeholder="labelOf(kind)"
            :disabled="disabled"
            @change="
              (word: string) =>
                set(kind, { words: { ...sheet.marks[kind]?.words, [locale]: word } })
            "
          />
        </th>
        <td>
          <AssetSelect
            :chosen="sheet.marks[kind]?.icon ?? 'circle'"
            :label="`${labelOf(kind)}: image`"
            :among="{}"
            :shipped="shipped"
            :disabled="disabled"
            @update:chosen="(icon) => set(kind, { icon })"
          />
        </td>
        <td>
          <LineInput
            :value="sheet.marks[kind]?.size ?? usual.size"
            :label="`${labelOf(kind)}: height`"
            :disabled="disabled"
            class="short"
            @change="setSize(kind, $event)"
          />
        </td>
        <td>
          <PickOne
            :chosen="sheet.marks[kind]?.place ?? 'none'"
            :label="`${labelOf(kind)}: where it stands`"
            :options="places"
            :disabled="disabled"
            @update:chosen="(place) => set(kind, { place: place as NoteMark['place'] })"
          />
        </td>
        <td>
          <PickOne
            :chosen="sheet.marks[kind]?.meets ?? 'top'"
            :label="`${labelOf(kind)}: how it lines up`"
            :options="meetings"
            :disabled="disabled"
            @update:chosen="(meets) => set(kind, { meets: meets as NoteMark['meets'] })"
          />
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.marks {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
}
th {
  text-align: start;
  font: 400 13px var(--font-text);
  color: var(--soft);
  padding: 2px 3px;
}
td {
  padding: 2px 3px;
}
th:first-child {
  width: 26px;
}
thead th:nth-child(3) {
  width: 19%;
}
thead th:nth-child(4) {
  width: 66px;
}
thead th:nth-child(5) {
  width: 26%;
}
:deep(select) {
  width: 100%;
}
.unseen {
  position: absolute;
  clip-path: inset(50%);
  width: 1px;
  height: 1px;
  overflow: hidden;
}
img {
  display: block;
}
</style>
