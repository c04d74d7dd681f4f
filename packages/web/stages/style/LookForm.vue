<script setup lang="ts">
import type { SiteLook } from '@ukiyo/contracts';
import {
  lookColours,
  lookLayouts,
  shippedLooks,
  unreadable,
  type LookColour,
} from '@ukiyo/core/styles';
import { computed, ref, watch } from 'vue';
import AssetSelect from '../../parts/AssetSelect.vue';
import LineInput from '../../parts/LineInput.vue';
import NumberInput from '../../parts/NumberInput.vue';

/** Layout, colours, and what stands around the pages of a site. */
const { look, disabled, users } = defineProps<{
  look: SiteLook;
  disabled: boolean;
  /** Editions that are made with it. */ users: readonly string[];
}>();
const emit = defineEmits<{ change: [(look: SiteLook) => SiteLook] }>();
const set = (change: Partial<SiteLook>): void => emit('change', (now) => ({ ...now, ...change }));
/** As it is typed; kept when one leaves the field. */
const css = ref(look.css);
watch(
  () => look.css,
  (kept) => (css.value = kept),
);
const colourNames = Object.keys(lookColours) as LookColour[];
const palettes = Object.values(shippedLooks);

function setColour(at: 'day' | 'night', colour: LookColour, hex: string): void {
  emit('change', (now) => ({
    ...now,
    colours: { ...now.colours, [at]: { ...now.colours[at], [colour]: hex } },
  }));
}
const scheme = 'asset:';
const referenceOf = (id: string | null | undefined): string => (id ? scheme + id : '');
/** The ID in a reference; null for none. */
const idOf = (reference: string): string | null => reference.slice(scheme.length) || null;
function setLogo(reference: string): void {
  const asset = idOf(reference);
  set({ logo: asset === null ? null : { asset, height: look.logo?.height ?? 32 } });
}
const faults = computed(() => unreadable(look.colours));
const faultOf = (at: 'day' | 'night', colour: LookColour): string =>
  faults.value
    .filter((one) => one.at === at && (one.words === colour || one.ground === colour))
    .map(
      ({ words, ground, share }) =>
        `“${lookColours[words]}” on “${lookColours[ground]}”: ${share.toFixed(1)}`,
    )
    .join('; ');
const setLink = (at: number, change: Partial<SiteLook['links'][number]>): void =>
  set({ links: look.links.with(at, { ...look.links[at]!, ...change }) });
</script>

<template>
  <div class="look">
    <label>
      Name
      <LineInput
        :value="look.name"
        label="Name"
        :disabled="disabled"
        @change="$event !== '' && set({ name: $event })"
      />
    </label>
    <p class="quiet small">
      {{
        users.length === 0 ? 'No edition is made with it.' : `Made with it: ${users.join(', ')}.`
      }}
    </p>
    <fieldset>
      <legend>Layout</legend>
      <n-radio
        v-for="layout in lookLayouts"
        :key="layout"
        name="layout"
        size="small"
        :value="layout"
        :checked="look.layout === layout"
        :disabled="disabled"
        @update:checked="set({ layout })"
      >
        {{ layout }}
      </n-radio>
      <div class="row">
        <label>
          Line
          <NumberInput
            class="number"
            label="Width of a line, in characters"
            :value="look.reading"
            :min="40"
            :max="110"
            :disabled="disabled"
            @change="set({ reading: $event })"
          />
          characters
        </label>
      </div>
      <div class="row">
        <label>
          Tablet below
          <NumberInput
            class="number"
            label="Tablet below, in pixels"
            :value="look.tablet"
            :min="400"
            :max="2000"
            :disabled="disabled"
            @change="set({ tablet: $event })"
          />
          px
        </label>
        <label>
          Phone below
          <NumberInput
            class="number"
            label="Phone below, in pixels"
            :value="look.phone"
            :min="240"
            :max="1200"
            :disabled="disabled"
            @change="set({ phone: $event })"
          />
          px
        </label>
      </div>
    </fieldset>
    <fieldset>
      <legend>Colours</legend>
      <div v-if="!disabled" class="palettes">
        <span class="small quiet">All of</span>
        <button
          v-for="one in palettes"
          :key="one.name"
          type="button"
          class="palette"
          @click="set({ colours: one.colours })"
        >
          <span
            v-for="colour in ['bar', 'accent', 'tint', 'alarm'] as const"
            :key="colour"
            :style="{ background: one.colours.day[colour] }"
          />
          {{ one.name }}
        </button>
      </div>
      <table>
        <thead>
          <tr>
            <td />
            <th scope="col">by day</th>
            <th scope="col">by night</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="colour in colourNames" :key="colour">
            <th scope="row">{{ lookColours[colour] }}</th>
            <td v-for="at in ['day', 'night'] as const" :key="at">
              <input
                type="color"
                :value="look.colours[at][colour]"
                :aria-label="`${lookColours[colour]}, by ${at}`"
                :disabled="disabled"
                @input="setColour(at, colour, ($event.target as HTMLInputElement).value)"
              />
              {{ ' ' }}
              <code>{{ look.colours[at][colour] }}</code>
              <p v-if="faultOf(at, colour)" class="small seal-text">{{ faultOf(at, colour) }}</p>
            </td>
          </tr>
        </tbody>
      </table>
    </fieldset>
    <fieldset>
      <legend>Head</legend>
      <div class="row">
        <label>
          Logo
          <AssetSelect
            class="image"
            :chosen="referenceOf(look.logo?.asset)"
            label="Logo"
            :among="{ media: 'image' }"
            none="none"
            :disabled="disabled"
            @update:chosen="setLogo"
          />
        </label>
        <label v-if="look.logo">
          high
          <NumberInput
            class="number"
            label="Height of the logo, in pixels"
            :value="look.logo.height"
            :min="12"
            :max="200"
            :disabled="disabled"
            @change="look.logo && set({ logo: { ...look.logo, height: $event } })"
          />
          px
        </label>
      </div>
      <label>
        Sign in the browser
        <AssetSelect
          class="image"
          :chosen="referenceOf(look.favicon)"
          label="Sign in the browser"
          :among="{ media: 'image' }"
          none="none"
          :disabled="disabled"
          @update:chosen="set({ favicon: idOf($event) })"
        />
      </label>
      <label>
        Words beside the name
        <LineInput
          :value="look.caption"
          label="Words beside the name"
          :disabled="disabled"
          @change="set({ caption: $event })"
        />
      </label>
      <div v-for="(link, at) in look.links" :key="at" class="row">
        <LineInput
          :value="link.label"
          :label="`Link ${at + 1}: words`"
          :disabled="disabled"
          @change="$event !== '' && setLink(at, { label: $event })"
        />
        <LineInput
          :value="link.href"
          :label="`Link ${at + 1}: address`"
          :disabled="disabled"
          @change="setLink(at, { href: $event })"
        />
        <n-button
          v-if="!disabled"
          size="tiny"
          quaternary
          :aria-label="`Remove link ${at + 1}`"
          @click="set({ links: look.links.toSpliced(at, 1) })"
        >
          ×
        </n-button>
      </div>
      <n-button
        v-if="!disabled && look.links.length < 12"
        size="small"
        @click="set({ links: [...look.links, { label: 'Link', href: 'https://' }] })"
      >
        Add a link
      </n-button>
    </fieldset>
    <fieldset>
      <legend>Foot</legend>
      <label>
        Words at the foot
        <LineInput
          :value="look.footer"
          label="Words at the foot"
          :disabled="disabled"
          @change="set({ footer: $event })"
        />
      </label>
      <label>
        Readers write to
        <LineInput
          :value="look.feedback"
          label="Readers write to"
          placeholder="a mail address, or https://…"
          :disabled="disabled"
          @change="set({ feedback: $event })"
        />
      </label>
    </fieldset>
    <details :open="look.css !== ''">
      <summary class="small">Rules of one’s own (CSS)</summary>
      <p class="small quiet">
        After all other rules, for what cannot be said above. What fetches from elsewhere is left
        out.
      </p>
      <n-input
        v-model:value="css"
        type="textarea"
        class="css"
        :rows="6"
        placeholder=""
        :disabled="disabled"
        :input-props="{ 'aria-label': 'Rules of one’s own', spellcheck: false }"
        @change="set({ css })"
      />
    </details>
  </div>
</template>

<style scoped>
.look {
  display: grid;
  gap: 8px;
}
label {
  display: flex;
  gap: 8px;
  align-items: center;
  font-size: 14px;
}
.n-radio {
  gap: 0;
}
fieldset {
  display: grid;
  gap: 6px;
  margin: 6px 0 0;
  padding: 0;
  border: 0;
}
legend {
  padding: 0 0 4px;
  font: 600 15px var(--font-text);
}
.row {
  display: flex;
  gap: 14px;
  align-items: center;
  flex-wrap: wrap;
}
.row > .n-input {
  flex: 1;
}
.number {
  width: 72px;
}
.image {
  width: 200px;
}
.css {
  font-family: var(--font-code);
}
table {
  border-collapse: collapse;
}
th,
td {
  padding: 3px 18px 3px 0;
  text-align: start;
  font-weight: 400;
  font-size: 14px;
  vertical-align: top;
}
thead th {
  color: var(--soft);
  font-size: 13px;
}
input[type='color'] {
  width: 30px;
  height: 26px;
  padding: 1px;
  border: 1px solid var(--hair);
  border-radius: 4px;
  background: var(--sheet);
  vertical-align: middle;
}
code {
  font-size: 12px;
  color: var(--soft);
}
td p {
  margin: 0;
  max-width: 24ch;
}
.palettes {
  display: flex;
  gap: 8px;
  align-items: center;
  flex-wrap: wrap;
}
.palette {
  display: inline-flex;
  gap: 2px;
  align-items: center;
  padding: 3px 8px;
  border: 1px solid var(--hair);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  font-size: 13px;
  cursor: pointer;
}
.palette span {
  width: 12px;
  height: 14px;
}
.palette span:last-of-type {
  margin-right: 5px;
}
p {
  margin: 0;
}
</style>
