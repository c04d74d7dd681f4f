<script setup lang="ts">
import {
  isPublication,
  outputs,
  type Edition,
  type EditionInput,
  type Impression,
  type Lens,
} from '@ukiyo/contracts';
import { lensOf } from '@ukiyo/core/facets';
import { computed, nextTick, onMounted, useTemplateRef, watch } from 'vue';
import { useDesigns } from '../../parts/designs.ts';
import ItemSelect from '../../parts/ItemSelect.vue';
import { useLibrary } from '../../parts/library.ts';
import PickOne from '../../parts/PickOne.vue';
import NumberInput from '../../parts/NumberInput.vue';
import EditionVariables from './EditionVariables.vue';
import PickSeveral from './PickSeveral.vue';
import ReaderChoices from './ReaderChoices.vue';
import { factLabels, foldersLabels, isUsed, namingLabels, type SettingName } from './settings.ts';
import { useEditionFields } from './useEditionFields.ts';
import WhatStops from './WhatStops.vue';

const { edition, editions, lenses, impressions, mayChange, setting } = defineProps<{
  edition: Edition | undefined;
  editions: readonly Edition[];
  lenses: readonly Lens[];
  /** Of this edition, newest first. */ impressions: readonly Impression[];
  mayChange: boolean;
  /** To be shown first. */ setting: string;
}>();
const emit = defineEmits<{ save: [EditionInput] }>();
const library = useLibrary();
const designs = useDesigns();
const { fields, faults, checked } = useEditionFields(() => edition);
const form = useTemplateRef<HTMLFormElement>('form');

const designsOf = (kind: 'sheets' | 'plans' | 'looks') =>
  designs.list[kind].map(({ id, content }) => ({ value: id, label: content.name }));
const others = computed(() =>
  editions
    .filter((one) => isPublication(one) && one.id !== edition?.id)
    .map(({ id, name }) => ({ value: id, label: name })),
);
const languages = computed(() =>
  ['en', 'de', 'ja', 'ar', 'he', ...fields.locales]
    .filter((one, at, all) => one !== fields.locale && all.indexOf(one) === at)
    .map((value) => ({
      value,
      label: `${new Intl.DisplayNames('en', { type: 'language' }).of(value) ?? value} (${value})`,
    })),
);
const sinces = computed(() => {
  const built = impressions
    .filter(({ state }) => state === 'done')
    .map(({ id, number, finishedAt }) => ({
      value: id,
      label:
        'what changed since number ' +
        `${number}${finishedAt === null ? '' : `, ${new Date(finishedAt).toLocaleDateString()}`}`,
    }));
  return [{ value: '', label: 'nothing' }, ...built];
});
const has = (name: SettingName): boolean => isUsed(name, fields.output);
const hasFacts = computed(() => Object.values(fields.facts).some((value) => value !== ''));

/** The field of a setting that was looked for. */
async function lead(): Promise<void> {
  await nextTick();
  const field = [...(form.value?.querySelectorAll<HTMLElement>('[data-setting]') ?? [])].find(
    ({ dataset }) => dataset['setting'] === setting,
  );
  field?.querySelector('details')?.setAttribute('open', '');
  const control = field?.querySelector<HTMLElement>('input, select, button, summary');
  field?.scrollIntoView({ block: 'center' });
  control?.focus();
}
onMounted(async () => {
  await designs.ensure();
  await lead();
});
watch(() => [setting, edition?.id], lead);

function save(): void {
  const input = checked();
  if (input) emit('save', input);
}
</script>

<template>
  <form ref="form" class="edition" @submit.prevent="save">
    <label for="edition-name">Name</label>
    <div data-setting="name">
      <n-input
        v-model:value="fields.name"
        :disabled="!mayChange"
        :input-props="{ id: 'edition-name' }"
        placeholder=""
      />
    </div>
    <label>Output</label>
    <div data-setting="output">
      <n-select
        v-model:value="fields.output"
        :disabled="!mayChange"
        :options="Object.entries(outputs).map(([value, { label }]) => ({ value, label }))"
        :input-props="{ 'aria-label': 'Output' }"
      />
    </div>
    <template v-if="has('holds')">
      <span class="label top">Holds</span>
      <div data-setting="holds">
        <PickSeveral
          v-model:chosen="fields.holds"
          label="Editions in it"
          prompt="add an edition …"
          :options="others"
          :disabled="!mayChange"
        />
      </div>
    </template>
    <template v-if="has('map')">
      <label>Map</label>
      <div data-setting="map">
        <ItemSelect
          v-model:chosen="fields.map"
          label="Map"
          :among="{ kind: 'map' }"
          :disabled="!mayChange"
        />
      </div>
    </template>
    <template v-if="has('lens')">
      <label>Lens</label>
      <div data-setting="lens">
        <n-select
          v-model:value="fields.lens"
          :disabled="!mayChange"
          :options="[
            { value: '', label: 'Everything' },
            ...lenses.map((lens) => ({ value: lens.id, label: lens.name })),
          ]"
          :input-props="{ 'aria-label': 'Lens' }"
        />
      </div>
    </template>
    <template v-if="has('sheet')">
      <label>Styles</label>
      <span class="designs" data-setting="sheet">
        <PickOne
          v-model:chosen="fields.sheet"
          label="Style sheet"
          :options="designsOf('sheets')"
          :disabled="!mayChange"
        />
        <router-link
          class="small"
          :to="{ name: 'style', params: { kind: 'sheets', id: fields.sheet } }"
        >
          open in Style
        </router-link>
      </span>
    </template>
    <template v-if="has('plan')">
      <label>Pages</label>
      <span class="designs" data-setting="plan">
        <PickOne
          v-model:chosen="fields.plan"
          label="Page plan"
          :options="designsOf('plans')"
          :disabled="!mayChange"
        />
        <router-link
          class="small"
          :to="{ name: 'style', params: { kind: 'plans', id: fields.plan } }"
        >
          open in Style
        </router-link>
      </span>
    </template>
    <template v-if="has('since') && sinces.length > 1">
      <label>{{ fields.output === 'site' ? 'New and changed' : 'Bars beside' }}</label>
      <span data-setting="since">
        <PickOne
          v-model:chosen="fields.since"
          :label="
            fields.output === 'site'
              ? 'Says new or changed of what changed since'
              : 'Bars beside what changed since'
          "
          :options="sinces"
          :disabled="!mayChange"
        />
      </span>
    </template>
    <template v-if="has('look')">
      <label>Look</label>
      <span class="designs" data-setting="look">
        <PickOne
          v-model:chosen="fields.look"
          label="Site look"
          :options="designsOf('looks')"
          :disabled="!mayChange"
        />
        <router-link class="small" :to="{ name: 'looks', params: { id: fields.look } }">
          open in Style
        </router-link>
      </span>
    </template>
    <template v-if="has('choices')">
      <span class="label top">Readers set</span>
      <div data-setting="choices">
        <ReaderChoices
          v-model:choices="fields.choices"
          :lens="lensOf(fields.lens, lenses, library.facets)"
          :may-change="mayChange"
        />
      </div>
    </template>
    <template v-if="has('start')">
      <label>Home page</label>
      <span data-setting="start">
        <ItemSelect
          v-model:chosen="fields.start"
          label="Home page"
          none="title and first level"
          :among="{ kind: 'topic' }"
          :disabled="!mayChange"
        />
      </span>
    </template>
    <template v-if="has('naming')">
      <label>Files are called</label>
      <span data-setting="naming">
        <PickOne
          v-model:chosen="fields.naming"
          label="Files are called"
          :options="Object.entries(namingLabels).map(([value, label]) => ({ value, label }))"
          :disabled="!mayChange"
        />
      </span>
    </template>
    <template v-if="has('folders')">
      <label>Folders</label>
      <span data-setting="folders">
        <PickOne
          v-model:chosen="fields.folders"
          label="Folders"
          :options="Object.entries(foldersLabels).map(([value, label]) => ({ value, label }))"
          :disabled="!mayChange"
        />
      </span>
    </template>
    <label for="edition-locale">Locale</label>
    <div data-setting="locale">
      <n-input
        v-model:value="fields.locale"
        :disabled="!mayChange"
        :input-props="{ id: 'edition-locale' }"
        placeholder=""
      />
    </div>
    <template v-if="faults['locale']">
      <span />
      <p class="seal-text" role="alert">{{ faults['locale'] }}</p>
    </template>
    <template v-if="has('locales')">
      <span class="label top">Further locales</span>
      <div data-setting="locales">
        <PickSeveral
          v-model:chosen="fields.locales"
          label="Further locales"
          prompt="add a language …"
          :options="languages"
          :disabled="!mayChange"
        />
      </div>
    </template>
    <template v-if="has('address')">
      <label for="edition-address">Address</label>
      <div class="with-hint" data-setting="address">
        <n-input
          v-model:value="fields.address"
          :disabled="!mayChange"
          :input-props="{ id: 'edition-address', 'aria-describedby': 'edition-address-hint' }"
          placeholder=""
        />
        <p id="edition-address-hint" class="small quiet">
          Where its readers find it: https://…, or the way from beside another site, as ../help/.
          Other publications lead there; without it they name it in words.
        </p>
        <p v-if="faults['address']" class="seal-text" role="alert">{{ faults['address'] }}</p>
      </div>
    </template>
    <template v-if="has('variables')">
      <span class="label">Variables</span>
      <div data-setting="variables">
        <EditionVariables v-model:variables="fields.variables" :may-change="mayChange" />
      </div>
    </template>
    <span class="label">Says of itself</span>
    <div data-setting="facts">
      <details class="facts" :open="hasFacts">
        <summary class="small">
          {{ hasFacts ? 'otherwise than its map' : 'what its map says' }}
        </summary>
        <label v-for="(label, name) in factLabels" :key="name">
          {{ label }}
          <n-input
            v-model:value="fields.facts[name]"
            size="small"
            :disabled="!mayChange"
            placeholder="as the map says"
            :input-props="{ 'aria-label': `${label} of the edition` }"
          />
        </label>
        <p v-if="faults['facts']" class="seal-text" role="alert">{{ faults['facts'] }}</p>
      </details>
    </div>
    <span class="label">Sign-off waits for</span>
    <div data-setting="stops">
      <WhatStops v-model:stops="fields.stops" :may-change="mayChange" />
    </div>
    <span class="label">Impressions kept</span>
    <div class="with-hint" data-setting="keeps">
      <NumberInput
        label="Impressions kept"
        class="number"
        :value="fields.keeps"
        :min="1"
        :max="500"
        :disabled="!mayChange"
        hint="edition-keeps-hint"
        @change="fields.keeps = $event"
      />
      <p id="edition-keeps-hint" class="small quiet">
        Older ones go when another has been built. Those that are signed off, named or the measure
        of bars stay.
      </p>
    </div>
    <label for="edition-nightly">Built every day at</label>
    <div class="with-hint" data-setting="nightly">
      <input
        id="edition-nightly"
        v-model="fields.nightly"
        class="field"
        type="time"
        :disabled="!mayChange"
        aria-describedby="edition-nightly-hint"
      />
      <p id="edition-nightly-hint" class="small quiet">
        By the clock of the server, without anybody asking. Empty for never.
      </p>
    </div>
    <span class="label">Linked sources</span>
    <div data-setting="readsSources">
      <n-checkbox v-model:checked="fields.readsSources" :disabled="!mayChange">
        read again before each build
      </n-checkbox>
    </div>
    <span />
    <n-button
      v-if="mayChange"
      attr-type="submit"
      class="save"
      :disabled="
        fields.name.trim() === '' || (has('map') ? fields.map === '' : fields.holds.length === 0)
      "
    >
      Save edition
    </n-button>
  </form>
</template>

<style scoped>
.designs {
  display: flex;
  gap: 10px;
  align-items: center;
}
.edition {
  display: grid;
  grid-template-columns: 128px minmax(0, 420px);
  gap: 8px 14px;
  align-items: center;
}
.edition > p {
  margin: 0;
}
.top {
  align-self: start;
  padding-top: 4px;
}
label,
.label {
  color: var(--soft);
  font-size: 13px;
}
.save {
  justify-self: start;
}
.number {
  width: 110px;
}
.field {
  width: 110px;
  font: inherit;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 4px;
  padding: 4px 8px;
}
.facts label {
  display: grid;
  grid-template-columns: 70px 1fr;
  align-items: center;
  padding: 3px 0;
}
.facts p {
  margin: 3px 0 0;
}
.with-hint > p {
  margin: 3px 0 0;
}
</style>
