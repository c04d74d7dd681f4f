<script setup lang="ts">
import { VariableDefinition, type Variable } from '@ukiyo/contracts';
import type { VariableKind } from '@ukiyo/core/editing';
import { computed, reactive } from 'vue';
import PhraseField from '../../editor/PhraseField.vue';
import AssetSelect from '../../parts/AssetSelect.vue';
import OnlyFor from '../../parts/OnlyFor.vue';
import PickOne from '../../parts/PickOne.vue';
import { useItemList } from '../../parts/itemList.ts';
import { kindOfVariable } from '../../parts/variables.ts';

/** One definition of a variable: what it says, for whom, in which language. */
const { variable, copied, name, use } = defineProps<{
  variable?: Variable;
  /** What a new one begins as. */ copied?: Variable | undefined;
  name?: string;
  use?: { count: number; items: number } | undefined;
}>();
const emit = defineEmits<{ keep: [definition: VariableDefinition]; close: [] }>();
const before = variable ?? copied;
const kind: VariableKind = before ? kindOfVariable(before) : 'text';
const form = reactive({
  key: before?.key ?? name ?? '',
  kind,
  markup: before?.markup ?? '',
  href: before?.href ?? '',
  choices: (variable?.choices ?? []).join('\n'),
  locale: before?.locale ?? '',
  conditions: before?.conditions ?? {},
});
/** What there is of the words that were typed. */
const { rows: targets } = useItemList(() =>
  form.kind === 'link' && !/^[a-z]+:/iu.test(form.href) ? { title: form.href } : undefined,
);
const isRenamed = computed(() => variable !== undefined && form.key !== variable.key);
const kinds = [
  { value: 'text', label: 'words' },
  { value: 'image', label: 'an image' },
  { value: 'link', label: 'something to follow' },
];
const parsed = computed(() =>
  VariableDefinition.safeParse({
    key: form.key.trim(),
    markup: form.kind === 'image' ? '' : form.markup,
    choices:
      form.kind === 'text'
        ? form.choices
            .split('\n')
            .map((choice) => choice.trim())
            .filter((choice) => choice !== '')
        : [],
    ...(form.kind === 'text' ? {} : { href: form.href.trim() }),
    conditions: form.conditions,
    ...(form.locale.trim() === '' ? {} : { locale: form.locale.trim() }),
  }),
);
const refusal = computed(() =>
  form.key !== '' && !parsed.value.success ? (parsed.value.error.issues[0]?.message ?? '') : '',
);
function keep(): void {
  if (parsed.value.success) emit('keep', parsed.value.data);
}
</script>

<template>
  <form
    class="variable-form"
    aria-label="Variable"
    @submit.prevent="keep"
    @keydown.esc="emit('close')"
  >
    <label>
      Name
      <n-input
        v-model:value="form.key"
        size="small"
        autofocus
        placeholder=""
        :disabled="copied !== undefined"
        :input-props="{ 'aria-label': 'Name' }"
      />
    </label>
    <label>
      Stands for
      <PickOne v-model:chosen="form.kind" label="Stands for" :options="kinds" />
    </label>
    <label>
      Language
      <n-input
        v-model:value="form.locale"
        size="small"
        placeholder="every language"
        :input-props="{ 'aria-label': 'Language' }"
      />
    </label>
    <div v-if="form.kind !== 'image'" class="wide field">
      <span>
        {{ form.kind === 'link' ? 'Words of the link; its title without any' : 'What it says' }}
      </span>
      <PhraseField
        :key="form.kind"
        v-model:markup="form.markup"
        :label="form.kind === 'link' ? 'Words of the link' : 'What it says'"
        @enter="keep"
      />
    </div>
    <label v-if="form.kind === 'image'" class="wide">
      Image
      <AssetSelect v-model:chosen="form.href" label="Image" :among="{ media: 'image' }" />
    </label>
    <label v-else-if="form.kind === 'link'" class="wide">
      Leads to
      <input
        v-model="form.href"
        class="plain-input"
        list="variable-targets"
        placeholder="https://… or a topic"
        aria-label="Leads to"
      />
      <datalist id="variable-targets">
        <option v-for="item in targets" :key="item.id" :value="`${item.kind}:${item.id}`">
          {{ item.title }}
        </option>
      </datalist>
    </label>
    <label v-else class="wide">
      Other texts that an edition may choose instead, one in a line
      <n-input
        v-model:value="form.choices"
        type="textarea"
        size="small"
        :autosize="{ minRows: 1, maxRows: 6 }"
        placeholder=""
        :input-props="{ 'aria-label': 'Other texts' }"
      />
    </label>
    <div class="wide row">
      <span class="for">
        For {{ Object.keys(form.conditions).length === 0 ? 'everybody' : 'only' }}
      </span>
      <OnlyFor v-model:conditions="form.conditions" label="This definition" />
    </div>
    <p v-if="isRenamed && use" class="wide small" role="status">
      It is used at {{ use.count }} {{ use.count === 1 ? 'place' : 'places' }} in {{ use.items }}
      {{ use.items === 1 ? 'topic or map' : 'topics and maps' }}; all of them, every definition and
      every edition will say “{{ form.key }}”.
    </p>
    <p v-if="refusal" class="wide small seal-text" role="alert">{{ refusal }}</p>
    <div class="wide row">
      <n-button type="primary" attr-type="submit" size="small" :disabled="!parsed.success">
        {{ isRenamed ? 'Keep, and rename everywhere' : 'Keep' }}
      </n-button>
      <n-button size="small" @click="emit('close')">Cancel</n-button>
    </div>
  </form>
</template>

<style scoped>
.variable-form {
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) 190px 150px;
  gap: 10px;
  padding: 12px 14px;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 4px;
}
.wide {
  grid-column: 1 / -1;
}
label,
.field {
  display: grid;
  gap: 3px;
  font-size: 13px;
  color: var(--soft);
}
p {
  margin: 0;
}
.row {
  display: flex;
  gap: 8px;
  align-items: center;
}
.for {
  font-size: 13px;
  color: var(--soft);
}
.plain-input {
  height: 28px;
  padding: 0 8px;
  border: 1px solid var(--hair);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  font: 400 14px var(--font-text);
}
</style>
