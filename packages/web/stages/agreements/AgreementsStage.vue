<script setup lang="ts">
import { NewItem, templatesFolder, type HouseRule } from '@ukiyo/contracts';
import { ruleSentence } from '@ukiyo/core/rules';
import { computed, onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { useAttempts } from '../../parts/attempts.ts';
import { kindLabel, newKinds } from '../../parts/kinds.ts';
import PickOne from '../../parts/PickOne.vue';
import { useAllItems } from '../../parts/itemList.ts';
import { useItems } from '../../parts/items.ts';
import { useLibrary } from '../../parts/library.ts';
import { useSession } from '../../parts/session.ts';
import { usePlace } from '../../shell/place.ts';
import FactFields from './FactFields.vue';
import RuleForm from './RuleForm.vue';
import { useAgreements } from './useAgreements.ts';

const router = useRouter();
const { attempt } = useAttempts();
const place = usePlace();
const items = useItems();
const library = useLibrary();
const session = useSession();
const { agreed, editable, setRule, removeRule, setFacts, setWords, setSynonyms } = useAgreements();
/** The rule that is open: a known one, or a new one. */
const open = ref<HouseRule | 'new'>();
const locale = ref(session.project?.locale ?? 'en');
const words = computed(() => agreed.value.words[locale.value] ?? []);
/** What is being typed, until it is kept. */
const typedWords = ref<string>();
async function keepWords(): Promise<void> {
  if (typedWords.value === undefined) return;
  const typed = typedWords.value.split('\n').map((word) => word.trim());
  if (
    await setWords(
      locale.value,
      typed.filter((word) => word !== ''),
    )
  )
    typedWords.value = undefined;
}

const synonyms = computed(() =>
  (agreed.value.synonyms[locale.value] ?? []).map((list) => list.join(', ')).join('\n'),
);
const typedSynonyms = ref<string>();
/** Lines with fewer than two words say nothing yet. */
const unsaid = computed(() =>
  (typedSynonyms.value ?? '')
    .split('\n')
    .filter((line) => line.trim() !== '' && wordsIn(line).length < 2),
);
const wordsIn = (line: string): string[] => [
  ...new Set(
    line
      .split(/[,،、]/u)
      .map((word) => word.trim())
      .filter((word) => word !== ''),
  ),
];
async function keepSynonyms(): Promise<void> {
  if (typedSynonyms.value === undefined || unsaid.value.length > 0) return;
  const lists = typedSynonyms.value
    .split('\n')
    .map(wordsIn)
    .filter((words) => words.length > 0);
  if (await setSynonyms(locale.value, lists)) typedSynonyms.value = undefined;
}

const templates = useAllItems(() => ({ kind: 'topic', folder: templatesFolder }));
const newKind = ref('task');
const newTitle = ref('');
const makeTemplate = (): Promise<boolean> =>
  attempt(async () => {
    const made = await items.create(
      NewItem.parse({ type: newKind.value, title: newTitle.value, folder: templatesFolder }),
    );
    await router.push({ name: 'write', params: { id: made.id } });
  });

onMounted(async () => {
  place.clear();
  place.trail = ['Agreements'];
  await library.load();
});
async function keep(rule: HouseRule): Promise<void> {
  if (await setRule(rule, open.value === 'new' ? undefined : open.value)) open.value = undefined;
}
</script>

<template>
  <main class="agreements" tabindex="0" aria-label="Agreements">
    <h1>Agreements</h1>
    <p class="quiet">
      What the team writes by, beyond what is valid.
      {{ editable ? '' : 'Administrators change them; every writer may add words.' }}
    </p>
    <section aria-labelledby="rules-head">
      <h2 id="rules-head">House rules</h2>
      <p v-if="agreed.rules.length === 0 && open === undefined" class="quiet">
        There are no house rules yet. One could say “no lists in table cells”, or “steps at most 9”.
      </p>
      <ul>
        <li v-for="rule in agreed.rules" :key="rule.id">
          <RuleForm
            v-if="typeof open === 'object' && open.id === rule.id"
            :rule="rule"
            :taken="[]"
            @keep="keep"
            @close="open = undefined"
          />
          <template v-else>
            <span class="severity small" :class="rule.severity">{{ rule.severity }}</span>
            <span>
              {{ ruleSentence(rule) }}
              <span class="quiet">{{ rule.reason }}</span>
            </span>
            <span v-if="editable" class="acts">
              <n-button
                size="tiny"
                :aria-label="`Change: ${ruleSentence(rule)}`"
                @click="open = rule"
              >
                Change
              </n-button>
              <n-button
                size="tiny"
                :aria-label="`Remove: ${ruleSentence(rule)}`"
                @click="removeRule(rule)"
              >
                Remove
              </n-button>
            </span>
          </template>
        </li>
      </ul>
      <RuleForm
        v-if="open === 'new'"
        :taken="agreed.rules.map(({ id }) => id)"
        @keep="keep"
        @close="open = undefined"
      />
      <n-button v-else-if="editable" size="small" @click="open = 'new'">Add a rule</n-button>
    </section>
    <section aria-labelledby="templates-head">
      <h2 id="templates-head">Templates</h2>
      <p v-if="templates.length === 0" class="quiet">
        New topics begin as their kind does. The team can have beginnings of its own: a topic with
        guidance and placeholders that others are made from.
      </p>
      <ul>
        <li v-for="template in templates" :key="template.id" class="template">
          <span class="small quiet">{{ kindLabel(template.type) }}</span>
          <router-link :to="{ name: 'write', params: { id: template.id } }">
            {{ template.title }}
          </router-link>
        </li>
      </ul>
      <form v-if="editable" class="make" @submit.prevent="makeTemplate">
        <PickOne
          v-model:chosen="newKind"
          label="Kind of the template"
          :options="newKinds.filter(({ value }) => value !== 'map')"
        />
        <n-input
          v-model:value="newTitle"
          size="small"
          placeholder="What it is for"
          :input-props="{ 'aria-label': 'Title of the template' }"
        />
        <n-button size="small" attr-type="submit" :disabled="newTitle.trim() === ''">
          Make a template
        </n-button>
      </form>
    </section>
    <section aria-labelledby="facts-head">
      <h2 id="facts-head">Facts of every topic</h2>
      <FactFields :facts="agreed.facts" :editable="editable" @change="setFacts" />
    </section>
    <section aria-labelledby="words-head">
      <h2 id="words-head">Words</h2>
      <p class="quiet">
        Names and terms that are spelt right although no dictionary has them, one a line.
      </p>
      <label class="small quiet">
        Language
        <n-input
          v-model:value="locale"
          size="small"
          class="locale"
          :input-props="{ 'aria-label': 'Language of the words' }"
        />
      </label>
      <n-input
        type="textarea"
        placeholder=""
        :disabled="!editable"
        :autosize="{ minRows: 3, maxRows: 14 }"
        :value="typedWords ?? words.join('\n')"
        :input-props="{ 'aria-label': 'Words' }"
        @update:value="typedWords = $event"
        @blur="keepWords"
      />
    </section>
    <section aria-labelledby="synonyms-head">
      <h2 id="synonyms-head">Words that mean the same</h2>
      <p class="quiet">
        What readers of help sites may type instead: words with commas between them, one list a
        line. “tide pole, tide staff” finds both by either. In the language above.
      </p>
      <n-input
        type="textarea"
        placeholder=""
        :disabled="!editable"
        :autosize="{ minRows: 3, maxRows: 14 }"
        :value="typedSynonyms ?? synonyms"
        :input-props="{ 'aria-label': 'Words that mean the same' }"
        @update:value="typedSynonyms = $event"
        @blur="keepSynonyms"
      />
      <p v-if="unsaid.length > 0" class="seal-text" role="status">
        A line needs two words with a comma between them: “{{ unsaid[0] }}” is not kept yet.
      </p>
    </section>
  </main>
</template>

<style scoped>
.agreements {
  overflow: auto;
  height: 100%;
  padding: 20px 28px 60px;
}
.agreements > * {
  max-width: 820px;
}
section {
  margin: 26px 0 0;
}
h2 {
  font: 400 15px var(--font-title);
  color: var(--prussian);
  margin-bottom: 8px;
}
p {
  margin: 4px 0 10px;
}
ul {
  list-style: none;
  margin: 0 0 10px;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 64px minmax(0, 1fr) auto;
  gap: 10px;
  align-items: baseline;
  padding: 8px 0;
  border-top: 1px solid var(--hair);
}
li > .rule {
  grid-column: 1 / -1;
}
.make {
  display: flex;
  gap: 8px;
}
li.template {
  grid-template-columns: 110px minmax(0, 1fr);
}
.acts {
  display: flex;
  gap: 6px;
}
.severity {
  color: var(--soft);
}
.severity.error {
  color: var(--seal);
}
.severity.warning {
  color: var(--amber);
}
.locale {
  width: 90px;
  margin: 0 0 8px 8px;
  display: inline-flex;
}
</style>
