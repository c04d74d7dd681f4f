<script setup lang="ts">
import {
  numberForms,
  numberingFor,
  writtenNumber,
  type NumberForm,
  type Numbering,
  type StyleSheet,
} from '@ukiyo/core/styles';
import { computed, ref } from 'vue';
import PickOne from '../../parts/PickOne.vue';
import CheckBox from '../../parts/CheckBox.vue';

/** How headings, figures and tables are counted, and how their numbers look. */
const {
  numbering: general,
  disabled,
  locale,
} = defineProps<{ numbering: Numbering; disabled: boolean; locale: string }>();
const emit = defineEmits<{ change: [(sheet: StyleSheet) => StyleSheet] }>();
/** The language for which it is said; every one where it is empty. */
const language = ref('');
const languages = computed(() => {
  const codes = [
    ...new Set([
      ...Object.keys(general.byLanguage),
      new Intl.Locale(locale).language,
      'ar',
      'de',
      'en',
      'he',
      'ja',
    ]),
  ].sort();
  const names = new Intl.DisplayNames(['en'], { type: 'language' });
  return [
    { value: '', label: 'every language' },
    ...codes.map((code) => ({
      value: code,
      label: `${names.of(code) ?? code}${general.byLanguage[code] ? ' (its own)' : ''}`,
    })),
  ];
});
const numbering = computed(() =>
  language.value === '' ? general : numberingFor(general, language.value),
);
const isOwn = computed(() => general.byLanguage[language.value] !== undefined);
const set = (change: Partial<Omit<Numbering, 'byLanguage'>>): void =>
  emit('change', (sheet) => {
    const { byLanguage } = sheet.numbering;
    return {
      ...sheet,
      numbering:
        language.value === ''
          ? { ...sheet.numbering, ...change }
          : {
              ...sheet.numbering,
              byLanguage: {
                ...byLanguage,
                [language.value]: { ...byLanguage[language.value], ...change },
              },
            },
    };
  });
const asEverywhere = (): void =>
  emit('change', (sheet) => ({
    ...sheet,
    numbering: {
      ...sheet.numbering,
      byLanguage: Object.fromEntries(
        Object.entries(sheet.numbering.byLanguage).filter(([code]) => code !== language.value),
      ),
    },
  }));
const forms = numberForms.map((form) => ({
  value: form,
  label:
    form === 'none' ? 'no number' : [1, 2, 3].map((count) => writtenNumber(form, count)).join(', '),
}));
const signs = ['.', '-', '–'].map((sign) => ({ value: sign, label: sign }));
const counted = [
  { name: 'parts', label: 'Parts' },
  { name: 'chapters', label: 'Chapters' },
  { name: 'sections', label: 'Sections' },
  { name: 'appendices', label: 'Appendices' },
  { name: 'captionForm', label: 'Figures and tables' },
] as const;
const depths = Array.from({ length: 7 }, (_, depth) => ({
  value: String(depth),
  label: depth === 0 ? 'none' : depth === 1 ? 'chapters' : `${depth} levels`,
}));
const chapter = computed(() => writtenNumber(numbering.value.chapters, 3));
const example = computed(() => {
  const section = writtenNumber(numbering.value.sections, 2);
  const heading = [
    chapter.value,
    ...(numbering.value.depth < 2 || section === undefined || chapter.value === undefined
      ? []
      : [section]),
  ]
    .filter((part) => part !== undefined)
    .join(numbering.value.sign);
  const caption = writtenNumber(numbering.value.captionForm, 4) ?? '';
  return {
    heading,
    caption:
      numbering.value.captions === 'by chapter' && chapter.value !== undefined && caption !== ''
        ? `${chapter.value}${numbering.value.captionSign}${caption}`
        : caption,
  };
});
</script>

<template>
  <fieldset class="numbering" :disabled="disabled">
    <label>
      In
      <PickOne v-model:chosen="language" label="Language of the numbering" :options="languages" />
    </label>
    <button v-if="isOwn" type="button" class="plain own" @click="asEverywhere">
      As in every language
    </button>
    <p class="example">
      {{ example.heading }}
      <span class="quiet">Fit the bracket</span>
    </p>
    <p class="example small">
      Figure {{ example.caption }}
      <span class="quiet">The bracket on the wall</span>
    </p>
    <label v-for="{ name, label } in counted" :key="name">
      {{ label }}
      <PickOne
        :chosen="numbering[name]"
        :label="`Numbers of ${label.toLowerCase()}`"
        :options="forms"
        @update:chosen="(form) => set({ [name]: form as NumberForm })"
      />
    </label>
    <label>
      Headings with numbers
      <PickOne
        :chosen="String(numbering.depth)"
        label="Headings with numbers"
        :options="depths"
        @update:chosen="(depth) => set({ depth: Number(depth) })"
      />
    </label>
    <label>
      Between chapter and section
      <PickOne
        :chosen="numbering.sign"
        label="Between chapter and section"
        :options="signs"
        @update:chosen="(sign) => set({ sign: sign as Numbering['sign'] })"
      />
    </label>
    <label>
      Figures and tables begin with 1
      <PickOne
        :chosen="numbering.captions"
        label="Figures and tables begin with 1"
        :options="[
          { value: 'by chapter', label: 'in each chapter' },
          { value: 'throughout', label: 'once' },
        ]"
        @update:chosen="(captions) => set({ captions: captions as Numbering['captions'] })"
      />
    </label>
    <label v-if="numbering.captions === 'by chapter'">
      Between chapter and figure
      <PickOne
        :chosen="numbering.captionSign"
        label="Between chapter and figure"
        :options="signs"
        @update:chosen="(sign) => set({ captionSign: sign as Numbering['captionSign'] })"
      />
    </label>
    <CheckBox
      :checked="numbering.examples"
      :disabled="disabled"
      @update:checked="set({ examples: $event })"
    >
      examples are numbered as figures are
    </CheckBox>
    <CheckBox
      :checked="numbering.chaptersByPart"
      :disabled="disabled"
      @update:checked="set({ chaptersByPart: $event })"
    >
      chapters begin with 1 in each part
    </CheckBox>
  </fieldset>
</template>

<style scoped>
.numbering {
  border: 0;
  padding: 0;
  margin: 0;
  display: grid;
  gap: 8px;
  max-width: 420px;
}
label {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 10px;
  font-size: 14px;
}
.own {
  justify-self: end;
  color: var(--prussian);
}
.example {
  margin: 0;
  font: 500 20px var(--font-title);
}
.example.small {
  font: 600 13px var(--font-text);
  margin-bottom: 10px;
}
</style>
