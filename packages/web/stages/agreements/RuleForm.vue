<script setup lang="ts">
import { HouseRule } from '@ukiyo/contracts';
import { countedWords, patternFrom, ruleSentence } from '@ukiyo/core/rules';
import { computed, reactive } from 'vue';
import PickOne from '../../parts/PickOne.vue';
import ElementSelect from './ElementSelect.vue';
import RuleTrial from './RuleTrial.vue';

/** One rule as a sentence with gaps, and a place to try it before it is kept. */
const { rule, taken } = defineProps<{ rule?: HouseRule; taken: readonly string[] }>();
const emit = defineEmits<{ keep: [HouseRule]; close: [] }>();
const form = reactive({
  kind: 'forbid' as HouseRule['kind'],
  severity: 'warning' as HouseRule['severity'],
  reason: '',
  element: 'ul',
  within: 'entry',
  part: 'step',
  most: 9,
  pattern: '',
  phrase: '',
  instead: '',
  ...rule,
});
const kinds = [
  { value: 'forbid', label: 'Something must not stand there' },
  { value: 'require', label: 'Something must be there' },
  { value: 'limit', label: 'There may be only so many' },
  { value: 'pattern', label: 'The text must look a certain way' },
  { value: 'phrase', label: 'A wording is not to be used' },
];
const severities = [
  { value: 'error', label: 'is an error' },
  { value: 'warning', label: 'is a warning' },
  { value: 'info', label: 'is worth knowing' },
];

/** An id of its own, made from what the rule says. */
const id = computed(() => {
  if (rule) return rule.id;
  const words =
    form.kind === 'phrase'
      ? form.phrase
      : `${form.kind} ${form.element} ` +
        (form.kind === 'forbid' ? form.within : form.kind === 'pattern' ? '' : form.part);
  const base = `${form.kind === 'phrase' ? 'wording ' : ''}${words}`
    .toLowerCase()
    .replace(/[^a-z0-9]+/gu, '-')
    .replace(/^-+|-+$/gu, '')
    .slice(0, 50);
  return taken.includes(base) ? `${base}-${taken.length + 1}` : base;
});
const made = computed(() => HouseRule.safeParse({ ...form, id: id.value, most: form.most }).data);
const refusal = computed(() =>
  form.kind === 'pattern' && form.pattern !== '' && !patternFrom(form.pattern)
    ? 'This is not a pattern that can be matched.'
    : '',
);
</script>

<template>
  <form
    class="rule"
    aria-label="Rule"
    @submit.prevent="made && refusal === '' && emit('keep', made)"
  >
    <PickOne v-model:chosen="form.kind" label="Kind of rule" :options="kinds" />
    <p class="sentence">
      <template v-if="form.kind === 'forbid'">
        No
        <ElementSelect v-model:element="form.element" label="Element" />
        in
        <ElementSelect
          v-model:element="form.within"
          label="Inside"
          :first="{ value: '', label: 'anything' }"
        />
      </template>
      <template v-else-if="form.kind === 'require'">
        Each
        <ElementSelect v-model:element="form.element" label="Element" />
        needs
        <ElementSelect v-model:element="form.part" label="Part" />
      </template>
      <template v-else-if="form.kind === 'limit'">
        Each
        <ElementSelect v-model:element="form.element" label="Element" />
        has at most
        <n-input-number
          v-model:value="form.most"
          size="small"
          :min="0"
          :show-button="false"
          class="most"
          :input-props="{ 'aria-label': 'At most' }"
        />
        of
        <ElementSelect
          v-model:element="form.part"
          label="Counted"
          :first="{ value: countedWords, label: 'words' }"
        />
      </template>
      <template v-else-if="form.kind === 'pattern'">
        The text of each
        <ElementSelect v-model:element="form.element" label="Element" />
        matches
        <n-input
          v-model:value="form.pattern"
          size="small"
          class="wide"
          placeholder="^[A-Z]"
          :status="refusal === '' ? undefined : 'error'"
          :input-props="{ 'aria-label': 'Pattern' }"
        />
      </template>
      <template v-else>
        Not
        <n-input
          v-model:value="form.phrase"
          size="small"
          class="wide"
          placeholder="log in"
          :input-props="{ 'aria-label': 'Wording' }"
        />
        but
        <n-input
          v-model:value="form.instead"
          size="small"
          class="wide"
          placeholder="left to the writer"
          :input-props="{ 'aria-label': 'Instead' }"
        />
      </template>
      <span>; otherwise it</span>
      <PickOne v-model:chosen="form.severity" label="Severity" :options="severities" />
    </p>
    <p v-if="refusal" class="small seal-text" role="alert">{{ refusal }}</p>
    <label class="small quiet">
      Why (shown beside the problem)
      <n-input
        v-model:value="form.reason"
        size="small"
        placeholder=""
        :input-props="{ 'aria-label': 'Reason' }"
      />
    </label>
    <p v-if="made" class="quiet small">It will say: {{ ruleSentence(made) }} {{ made.reason }}</p>
    <RuleTrial v-if="made && refusal === ''" :rule="made" />
    <div class="row">
      <n-button type="primary" attr-type="submit" size="small" :disabled="!made || refusal !== ''">
        Keep the rule
      </n-button>
      <n-button size="small" @click="emit('close')">Cancel</n-button>
    </div>
  </form>
</template>

<style scoped>
.rule {
  display: grid;
  gap: 10px;
  padding: 14px 16px;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 4px;
}
.sentence {
  margin: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
p {
  margin: 0;
}
.most {
  width: 70px;
}
.wide {
  width: 220px;
}
.row {
  display: flex;
  gap: 8px;
}
label {
  display: grid;
  gap: 4px;
}
</style>
