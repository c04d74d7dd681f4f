<script setup lang="ts">
import {
  faultOf,
  noSlots,
  pageNumberings,
  papers,
  readLength,
  type PagePlan,
  type Paper,
  type RunningLine,
  type Slots,
  type StyleSheet,
} from '@ukiyo/core/styles';
import { computed } from 'vue';
import LineInput from '../../parts/LineInput.vue';
import PickOne from '../../parts/PickOne.vue';
import CoverForm from './CoverForm.vue';
import PlanDrawing from './PlanDrawing.vue';
import SlotFields from './SlotFields.vue';
import CheckBox from '../../parts/CheckBox.vue';

/** A page plan: drawn to scale, and every figure to be typed. */
const { plan, sheet, disabled, users } = defineProps<{
  plan: PagePlan;
  /** The style sheet whose colours a cover can use. */ sheet: StyleSheet | undefined;
  disabled: boolean;
  users: readonly string[];
}>();
const emit = defineEmits<{ change: [(plan: PagePlan) => PagePlan] }>();
const set = (change: Partial<PagePlan>): void => emit('change', (now) => ({ ...now, ...change }));
const paper = computed(() => (typeof plan.paper === 'string' ? plan.paper : 'own'));
const own = { width: '200mm', height: '260mm' };
const setPaper = (name: string): void => set({ paper: name === 'own' ? own : (name as Paper) });
const isLength = (text: string): boolean =>
  readLength(text) !== undefined && faultOf('above', text, {}) === undefined;
const margins = computed(() => [
  { name: 'top' as const, label: 'Top' },
  { name: 'bottom' as const, label: 'Bottom' },
  { name: 'inner' as const, label: plan.mirrored ? 'Inner' : 'Left' },
  { name: 'outer' as const, label: plan.mirrored ? 'Outer' : 'Right' },
]);
const setMargin = (name: keyof PagePlan['margins'], length: string): void => {
  if (isLength(length)) set({ margins: { ...plan.margins, [name]: length } });
};
const setBaseline = (step: string): void => {
  if (step === '' || isLength(step)) set({ baseline: step === '' ? null : step });
};
const setColumn = (part: 'width' | 'gap', length: string): void => {
  if (isLength(length) && plan.marginColumn)
    set({ marginColumn: { ...plan.marginColumn, [part]: length } });
};
const sides = computed(() => [
  { value: '', label: 'none' },
  { value: 'outer', label: plan.mirrored ? 'outer' : 'right' },
  { value: 'inner', label: plan.mirrored ? 'inner' : 'left' },
]);
const setSide = (side: string): void =>
  set({
    marginColumn:
      side === ''
        ? null
        : { width: '32mm', gap: '6mm', ...plan.marginColumn, side: side as 'outer' | 'inner' },
  });
const lines = ['head', 'foot'] as const;
const pageSides = computed(() =>
  plan.mirrored ? (['left', 'right'] as const) : (['right'] as const),
);
const setSlots = (
  line: (typeof lines)[number],
  side: keyof RunningLine,
  slots: Slots | null,
): void => set({ [line]: { ...plan[line], [side]: slots } });
const asOptions = (values: readonly string[]) => values.map((value) => ({ value, label: value }));
const counted = (most: number) =>
  asOptions(Array.from({ length: most }, (_, at) => String(at + 1)));
const numberingLabels: Readonly<Record<string, string>> = {
  '1': '1, 2, 3',
  i: 'i, ii, iii',
  I: 'I, II, III',
  A: 'A, B, C',
  a: 'a, b, c',
  'chapter-page': 'chapter and page, as 3-12',
};
const numberings = (front: boolean) =>
  pageNumberings
    .filter((one) => !front || one !== 'chapter-page')
    .map((one) => ({ value: one, label: numberingLabels[one]! }));
</script>

<template>
  <fieldset class="plan" :disabled="disabled">
    <label>
      Name
      <LineInput
        :value="plan.name"
        label="Name of the page plan"
        @change="(name: string) => name !== '' && set({ name })"
      />
    </label>
    <p class="small quiet">
      {{
        users.length === 0 ? 'No edition is made with it.' : `Made with it: ${users.join(', ')}.`
      }}
    </p>
    <PlanDrawing :plan="plan" :disabled="disabled" @change="emit('change', $event)" />
    <h3>Paper</h3>
    <div class="row">
      <PickOne
        :chosen="paper"
        label="Paper"
        :options="[...asOptions(Object.keys(papers)), { value: 'own', label: 'a size of its own' }]"
        @update:chosen="setPaper"
      />
      <PickOne
        :chosen="plan.lies"
        label="Lies"
        :options="asOptions(['upright', 'on its side'])"
        @update:chosen="(lies) => set({ lies: lies as PagePlan['lies'] })"
      />
      <CheckBox
        :checked="plan.mirrored"
        :disabled="disabled"
        @update:checked="set({ mirrored: $event })"
      >
        left and right pages mirror each other
      </CheckBox>
    </div>
    <div v-if="typeof plan.paper !== 'string'" class="row">
      <label v-for="part in ['width', 'height'] as const" :key="part" class="figure">
        {{ part }}
        <LineInput
          :value="plan.paper[part]"
          :label="`Paper ${part}`"
          @change="
            (length: string) =>
              isLength(length) &&
              typeof plan.paper !== 'string' &&
              set({ paper: { ...plan.paper, [part]: length } })
          "
        />
      </label>
    </div>
    <h3>Margins</h3>
    <div class="row">
      <label v-for="{ name, label } in margins" :key="name" class="figure">
        {{ label }}
        <LineInput
          :value="plan.margins[name]"
          :label="`${label} margin, typed`"
          @change="setMargin(name, $event)"
        />
      </label>
    </div>
    <h3>Margin column</h3>
    <div class="row">
      <PickOne
        :chosen="plan.marginColumn?.side ?? ''"
        label="Margin column"
        :options="sides"
        @update:chosen="setSide"
      />
      <template v-if="plan.marginColumn">
        <label class="figure">
          Width
          <LineInput
            :value="plan.marginColumn.width"
            label="Margin column width"
            @change="setColumn('width', $event)"
          />
        </label>
        <label class="figure">
          Gap
          <LineInput
            :value="plan.marginColumn.gap"
            label="Margin column gap"
            @change="setColumn('gap', $event)"
          />
        </label>
      </template>
    </div>
    <h3>Heads and feet</h3>
    <template v-for="line in lines" :key="line">
      <SlotFields
        v-for="side in pageSides"
        :key="side"
        :slots="plan[line][side]"
        :label="`${line === 'head' ? 'Head' : 'Foot'}${plan.mirrored ? `, ${side}` : ''}`"
        :disabled="disabled"
        @change="setSlots(line, side, $event)"
      />
      <SlotFields
        v-if="plan[line].opening"
        :slots="plan[line].opening"
        :label="`${line === 'head' ? 'Head' : 'Foot'}, chapter begins`"
        :disabled="disabled"
        @change="setSlots(line, 'opening', $event)"
      />
    </template>
    <div class="row">
      <CheckBox
        :checked="plan.headRule"
        :disabled="disabled"
        @update:checked="set({ headRule: $event })"
      >
        a rule under the head
      </CheckBox>
      <CheckBox
        v-for="line in lines"
        :key="line"
        :checked="plan[line].opening !== null"
        :disabled="disabled"
        @update:checked="setSlots(line, 'opening', $event ? noSlots : null)"
      >
        another {{ line }} where a chapter begins
      </CheckBox>
    </div>
    <h3>Pages</h3>
    <div class="grid">
      <label>
        Front matter is numbered
        <PickOne
          :chosen="plan.numbering.front"
          label="Numbers of the front matter"
          :options="numberings(true)"
          @update:chosen="
            (front) =>
              set({
                numbering: { ...plan.numbering, front: front as PagePlan['numbering']['front'] },
              })
          "
        />
      </label>
      <label>
        Chapters are numbered
        <PickOne
          :chosen="plan.numbering.body"
          label="Page numbers of the chapters"
          :options="numberings(false)"
          @update:chosen="
            (body) =>
              set({ numbering: { ...plan.numbering, body: body as PagePlan['numbering']['body'] } })
          "
        />
      </label>
      <label>
        A chapter begins
        <PickOne
          :chosen="plan.chaptersBegin"
          label="A chapter begins"
          :options="asOptions(['on a right page', 'on a new page', 'where they come'])"
          @update:chosen="(one) => set({ chaptersBegin: one as PagePlan['chaptersBegin'] })"
        />
      </label>
      <label>
        On blank pages
        <LineInput
          :value="plan.blankWords"
          label="Words on blank pages"
          placeholder="nothing"
          @change="(blankWords: string) => set({ blankWords })"
        />
      </label>
      <label>
        Cover
        <PickOne
          :chosen="plan.cover"
          label="Cover"
          :options="[
            { value: 'band', label: 'with a band of colour' },
            { value: 'plain', label: 'plain' },
            { value: 'own', label: 'a layout of its own' },
            { value: 'none', label: 'none' },
          ]"
          @update:chosen="(cover) => set({ cover: cover as PagePlan['cover'] })"
        />
      </label>
      <label>
        Back
        <PickOne
          :chosen="plan.back"
          label="Back"
          :options="[
            { value: 'none', label: 'none' },
            { value: 'own', label: 'a layout of its own' },
          ]"
          @update:chosen="(back) => set({ back: back as PagePlan['back'] })"
        />
      </label>
      <label>
        Watermark
        <LineInput
          :value="plan.watermark"
          label="Watermark"
          placeholder="none"
          @change="(watermark: string) => set({ watermark })"
        />
      </label>
      <label>
        Levels in the contents
        <PickOne
          :chosen="String(plan.contentsDepth)"
          label="Levels in the contents"
          :options="counted(6)"
          @update:chosen="(depth) => set({ contentsDepth: Number(depth) })"
        />
      </label>
      <label>
        Columns of the index
        <PickOne
          :chosen="String(plan.indexColumns)"
          label="Columns of the index"
          :options="counted(4)"
          @update:chosen="(columns) => set({ indexColumns: Number(columns) })"
        />
      </label>
      <label>
        Columns of the text
        <PickOne
          :chosen="String(plan.columns)"
          label="Columns of the text"
          :options="counted(3)"
          @update:chosen="(columns) => set({ columns: Number(columns) })"
        />
      </label>
      <label>
        Between columns
        <LineInput
          :value="plan.columnGap"
          label="Between columns"
          @change="(columnGap: string) => isLength(columnGap) && set({ columnGap })"
        />
      </label>
      <label>
        Lines on a grid of
        <LineInput
          :value="plan.baseline ?? ''"
          label="Step of the baseline grid"
          placeholder="no grid"
          @change="setBaseline"
        />
      </label>
    </div>
    <div class="row">
      <CheckBox
        :checked="plan.titlePage"
        :disabled="disabled"
        @update:checked="set({ titlePage: $event })"
      >
        a title page inside, with the rights on its back
      </CheckBox>
    </div>
    <template v-if="plan.cover === 'own'">
      <h3>The cover</h3>
      <CoverForm
        :plan="plan"
        :sheet="sheet"
        side="front"
        :disabled="disabled"
        @change="emit('change', $event)"
      />
    </template>
    <template v-if="plan.back === 'own'">
      <h3>The back</h3>
      <CoverForm
        :plan="plan"
        :sheet="sheet"
        side="back"
        :disabled="disabled"
        @change="emit('change', $event)"
      />
    </template>
    <h3>For the press, and the file</h3>
    <div class="grid">
      <label>
        Over the edges (bleed)
        <LineInput
          :value="plan.trim.bleed"
          label="Bleed"
          @change="(bleed: string) => isLength(bleed) && set({ trim: { ...plan.trim, bleed } })"
        />
      </label>
      <CheckBox
        class="low"
        :checked="plan.trim.marks"
        :disabled="disabled"
        @update:checked="set({ trim: { ...plan.trim, marks: $event } })"
      >
        marks where the sheet is cut
      </CheckBox>
      <label>
        The file keeps to
        <PickOne
          :chosen="plan.file.standard"
          label="Standard of the file"
          :options="[
            { value: 'accessible', label: 'PDF/UA-1: for screen readers' },
            { value: 'for the archive', label: 'PDF/A-2a: for the archive' },
          ]"
          @update:chosen="
            (standard) =>
              set({ file: { ...plan.file, standard: standard as PagePlan['file']['standard'] } })
          "
        />
      </label>
      <label>
        It opens
        <PickOne
          :chosen="plan.file.opens"
          label="How the file opens"
          :options="asOptions(['as the reader likes', 'with bookmarks', 'two pages side by side'])"
          @update:chosen="
            (opens) => set({ file: { ...plan.file, opens: opens as PagePlan['file']['opens'] } })
          "
        />
      </label>
      <label>
        Levels of bookmarks
        <PickOne
          :chosen="String(plan.file.bookmarks)"
          label="Levels of bookmarks"
          :options="counted(6)"
          @update:chosen="(levels) => set({ file: { ...plan.file, bookmarks: Number(levels) } })"
        />
      </label>
    </div>
  </fieldset>
</template>

<style scoped>
.plan {
  border: 0;
  padding: 0;
  margin: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 6px;
}
p {
  margin: 0;
}
label {
  display: grid;
  gap: 2px;
  font-size: 13px;
  color: var(--soft);
}
h3 {
  margin: 8px 0 0;
  font: 600 13px var(--font-text);
  border-bottom: 1px solid var(--hair);
  padding-bottom: 2px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
}
.low {
  display: flex;
  align-self: end;
  height: 28px;
}
.figure {
  width: 76px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 8px 14px;
}
.grid :deep(select) {
  width: 100%;
  height: 28px;
}
</style>
