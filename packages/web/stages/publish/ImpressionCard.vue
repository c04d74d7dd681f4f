<script setup lang="ts">
import { IconRosetteDiscountCheck } from '@tabler/icons-vue';
import type { Impression, ImpressionComparison } from '@ukiyo/contracts';
import { blockingOf, kindOf, problemKey, type ProblemKind } from '@ukiyo/core/problems';
import { computed, ref, shallowRef } from 'vue';
import LineInput from '../../parts/LineInput.vue';
import PickOne from '../../parts/PickOne.vue';
import { useSession } from '../../parts/session.ts';
import TimeAgo from '../../parts/TimeAgo.vue';
import ImpressionChanges from './ImpressionChanges.vue';
import ImpressionProblems from './ImpressionProblems.vue';
import type { Publishing } from './usePublishing.ts';

const { impression, others, publishing } = defineProps<{
  impression: Impression;
  /** Of the same edition, newest first. */ others: readonly Impression[];
  publishing: Publishing;
}>();
const session = useSession();
const mayPublish = computed(() => session.may('publish'));
const isOpen = ref(false);
const isSigning = ref(false);
const reasons = ref<Partial<Record<ProblemKind, string>>>({});
const note = ref('');
const comparison = shallowRef<ImpressionComparison>();

const stateWords: Record<Impression['state'], string> = {
  queued: 'Waiting',
  running: 'Building',
  done: 'Built',
  failed: 'Failed',
  cancelled: 'Cancelled',
  interrupted: 'Interrupted',
};
const languageName = (locale: string): string =>
  new Intl.DisplayNames('en', { type: 'language' }).of(locale) ?? locale;
const isActive = computed(() => impression.state === 'queued' || impression.state === 'running');
const hasFiles = computed(() => impression.state === 'done');
const size = computed(() => `${(impression.figures.bytes / 1024 / 1024).toFixed(1)} MB`);
const percent = computed(() =>
  impression.progress.total > 0
    ? Math.round((100 * impression.progress.done) / impression.progress.total)
    : undefined,
);
const blocking = computed(() => blockingOf(impression.problems, impression.stops));
const earlier = computed(() =>
  others
    .filter((one) => one.state === 'done' && one.id !== impression.id)
    .map(({ id, number, name, seal }) => ({
      value: id,
      label: `number ${number}${name === '' ? '' : `, ${name}`}${seal ? ', signed off' : ''}`,
    })),
);
const source = computed(() => others.find(({ id }) => id === impression.again));
/** What came of building it again. */
const again = computed(() => {
  if (impression.again === null) return '';
  if (!source.value) return 'Built again from what went into one that is gone.';
  const from = `Built again from what went into number ${source.value.number}`;
  if (impression.fingerprint === '') return from;
  return impression.fingerprint === source.value.fingerprint
    ? `${from}: the same, byte for byte.`
    : `${from}: not the same.`;
});
const isReady = computed(() =>
  blocking.value.every((found) => (reasons.value[kindOf(found)] ?? '').trim() !== ''),
);

async function sign(): Promise<void> {
  if (blocking.value.length > 0 && !isSigning.value) {
    isSigning.value = isOpen.value = true;
    return;
  }
  const waived = blocking.value.map((found) => ({
    problem: problemKey(found),
    reason: reasons.value[kindOf(found)]!.trim(),
  }));
  if (await publishing.signOff(impression.id, waived)) isSigning.value = false;
}
async function addNote(): Promise<void> {
  if (note.value.trim() !== '' && (await publishing.note(impression.id, note.value.trim())))
    note.value = '';
}
async function compare(other: string): Promise<void> {
  comparison.value = other === '' ? undefined : await publishing.compare(impression.id, other);
}
</script>

<template>
  <article
    class="impression"
    :class="{ signed: impression.seal }"
    :aria-label="`Impression ${impression.number}`"
  >
    <header>
      <span class="number">{{ impression.number }}</span>
      <span class="state" :class="impression.state">{{ stateWords[impression.state] }}</span>
      <span v-if="impression.locale" class="small">in {{ languageName(impression.locale) }}</span>
      <span v-if="impression.name" class="name">{{ impression.name }}</span>
      <span class="quiet small">
        <TimeAgo :iso="impression.createdAt" />
        by {{ impression.person }}
      </span>
      <span v-if="hasFiles" class="small figures">
        {{ impression.figures.pages }} pages · {{ impression.figures.words.toLocaleString() }} words
        · {{ size }} · {{ (impression.figures.milliseconds / 1000).toFixed(1) }} s
      </span>
      <span class="gap" />
      <template v-if="hasFiles">
        <a :href="publishing.fileAddress(impression)" target="_blank" rel="noopener">Open</a>
        <a :href="publishing.downloadAddress(impression)" download>Download</a>
      </template>
      <n-button
        v-if="isActive && mayPublish"
        size="small"
        @click="publishing.cancel(impression.id)"
      >
        Cancel
      </n-button>
    </header>
    <p v-if="impression.seal" class="seal">
      <IconRosetteDiscountCheck :size="20" aria-hidden="true" />
      <span>
        <strong>Signed off</strong>
        {{ ' ' }}
        <TimeAgo :iso="impression.seal.at" />
        by {{ impression.seal.person }}: this is the one that ships.
        <template v-if="impression.seal.waived.length > 0">
          {{ ' ' }}{{ impression.seal.waived.length }}
          {{ impression.seal.waived.length === 1 ? 'problem goes' : 'problems go' }} out with it:
          {{
            [
              ...new Set(impression.seal.waived.map(({ reason }) => reason.replace(/\.$/u, ''))),
            ].join('; ')
          }}.
        </template>
      </span>
    </p>
    <div v-if="isActive" class="progress" role="status">
      <div class="bar" :class="{ waiting: percent === undefined }">
        <span :style="{ width: `${percent ?? 30}%` }" />
      </div>
      <span class="small quiet">
        {{ impression.progress.step
        }}{{
          impression.progress.total > 0
            ? ` · ${impression.progress.done} of ${impression.progress.total}`
            : ''
        }}
      </span>
    </div>
    <p v-if="again" class="small quiet line">{{ again }}</p>
    <template v-if="impression.problems.length > 0">
      <button type="button" class="plain small" :aria-expanded="isOpen" @click="isOpen = !isOpen">
        <span class="seal-text">
          {{ impression.problems.length }}
          {{ impression.problems.length === 1 ? 'problem' : 'problems' }}
        </span>
        <template v-if="blocking.length > 0 && !impression.seal">
          · {{ blocking.length }} of them {{ blocking.length === 1 ? 'keeps' : 'keep' }} it from
          being signed off
        </template>
        {{ isOpen ? '▾' : '▸' }}
      </button>
      <ImpressionProblems
        v-if="isOpen"
        v-model:reasons="reasons"
        :problems="impression.problems"
        :stops="impression.seal ? [] : impression.stops"
        :asks="isSigning"
      />
    </template>
    <p v-else-if="hasFiles" class="small quiet line">No problems.</p>
    <ul v-if="impression.notes.length > 0" class="notes" aria-label="Notes">
      <li v-for="(one, at) in impression.notes" :key="at">
        <span class="quiet small">
          {{ one.person }},
          <TimeAgo :iso="one.at" />
        </span>
        {{ one.text }}
      </li>
    </ul>
    <details v-if="hasFiles" class="more small">
      <summary>Name, notes, changes</summary>
      <div class="acts">
        <label v-if="mayPublish">
          Name
          <LineInput
            :value="impression.name"
            label="Name of the impression"
            placeholder="as people call it"
            @change="publishing.name(impression.id, $event)"
          />
        </label>
        <form v-if="session.may('review')" @submit.prevent="addNote">
          <label>
            Note
            <n-input
              v-model:value="note"
              size="small"
              placeholder=""
              :input-props="{ 'aria-label': 'Note on the impression' }"
            />
          </label>
          <n-button size="small" attr-type="submit" :disabled="note.trim() === ''">Add</n-button>
        </form>
        <label v-if="earlier.length > 0">
          Changes since
          <PickOne
            :chosen="''"
            label="Changes since"
            :options="[{ value: '', label: 'which one …' }, ...earlier]"
            @update:chosen="compare"
          />
        </label>
        <n-button v-if="mayPublish" size="small" @click="publishing.buildAgain(impression.id)">
          Build again from what went in
        </n-button>
        <n-button
          v-if="mayPublish && !impression.seal"
          size="small"
          @click="publishing.remove(impression.id)"
        >
          Remove with its files
        </n-button>
      </div>
    </details>
    <ImpressionChanges v-if="comparison" :comparison="comparison" />
    <div v-if="hasFiles && mayPublish" class="sign">
      <n-button v-if="impression.seal" size="small" @click="publishing.takeBack(impression.id)">
        Take back the sign-off
      </n-button>
      <template v-else>
        <n-button size="small" :disabled="isSigning && !isReady" @click="sign">
          {{ blocking.length > 0 && !isSigning ? 'Sign off all the same …' : 'Sign off' }}
        </n-button>
        <n-button v-if="isSigning" size="small" quaternary @click="isSigning = false">
          Not now
        </n-button>
      </template>
    </div>
  </article>
</template>

<style scoped>
.impression {
  border-top: 1px solid var(--hair);
  padding: 12px 0;
}
.impression.signed {
  box-shadow: inset 3px 0 var(--seal);
  padding-left: 12px;
}
header {
  display: flex;
  align-items: baseline;
  gap: 14px;
  flex-wrap: wrap;
}
.gap {
  flex: 1;
}
.number {
  font: 500 20px var(--font-title);
  min-width: 28px;
  color: var(--prussian);
}
.state {
  font-weight: 600;
}
.state.failed,
.state.interrupted {
  color: var(--seal);
}
.state.done {
  color: var(--pine);
}
.name {
  font-weight: 600;
}
.figures {
  font-variant-numeric: tabular-nums;
}
.line {
  margin: 4px 0 0 42px;
}
.seal {
  display: flex;
  gap: 6px;
  align-items: flex-start;
  margin: 6px 0 0 42px;
  color: var(--seal);
}
.progress {
  display: grid;
  gap: 4px;
  margin: 8px 0 0 42px;
}
.bar {
  height: 4px;
  background: var(--paper-deep);
  border-radius: 2px;
  overflow: hidden;
  max-width: 420px;
}
.bar span {
  display: block;
  height: 100%;
  background: var(--prussian);
  transition: width 0.2s;
}
.plain {
  margin: 6px 0 0 42px;
}
.notes {
  list-style: none;
  margin: 6px 0 0 42px;
  padding: 0;
}
.notes li {
  padding: 2px 0;
}
.more {
  margin: 6px 0 0 42px;
}
.more summary {
  cursor: pointer;
  color: var(--prussian);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  padding: 8px 0;
}
.acts form,
.acts label {
  display: flex;
  gap: 6px;
  align-items: center;
}
.acts form .n-input {
  min-width: 260px;
}
.sign {
  display: flex;
  gap: 8px;
  margin: 8px 0 0 42px;
}
@media (prefers-reduced-motion: no-preference) {
  .bar.waiting span {
    animation: slide 1.2s ease-in-out infinite alternate;
  }
}
@keyframes slide {
  to {
    transform: translateX(230%);
  }
}
</style>
