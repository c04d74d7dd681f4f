<script setup lang="ts">
import type { Element } from '@ukiyo/core/markup';
import type { Path } from '@ukiyo/core/problems';
import { useStorage } from '@vueuse/core';
import ProofPages from '../bench/ProofPages.vue';
import SiteProof from './SiteProof.vue';
import WholeProofs from '../bench/WholeProofs.vue';
import PickOne from '../parts/PickOne.vue';
import { useProofs } from './useProofs.ts';
import CheckBox from '../parts/CheckBox.vue';

/** The topic as editions give it, on paper and as a site, beside the text, while it is written. */
const { topic, changes, rootOf, at } = defineProps<{
  topic: string;
  changes: number;
  rootOf: () => Element | undefined;
  at: Path | undefined;
}>();
const emit = defineEmits<{ go: [Path] }>();
const { shownIn, picked, onPaper, sites, proofs, failure, toggle, apartOf } = useProofs(
  () => topic,
  () => changes,
  rootOf,
);
/** Quick while one writes, or exact: on its pages in the whole manual. */
const manners = [
  { value: 'topic', label: 'the topic, while typing' },
  { value: 'whole', label: 'its pages in the whole manual' },
];
const manner = useStorage<string>('ukiyo-proof-manner', 'topic');
const marksApart = useStorage('ukiyo-proof-apart', true);
</script>

<template>
  <div class="proofs">
    <div class="manner">
      <PickOne v-model:chosen="manner" label="What is proofed" :options="manners" />
      <CheckBox v-if="manner === 'topic' && onPaper.length > 1" v-model:checked="marksApart">
        mark what differs
      </CheckBox>
    </div>
    <details class="which">
      <summary>{{ picked.map(({ name }) => name).join(' · ') || 'No edition' }}</summary>
      <CheckBox
        v-for="edition in shownIn"
        :key="edition.id"
        :checked="picked.includes(edition)"
        @update:checked="toggle(edition.id)"
      >
        {{ edition.name }}
      </CheckBox>
    </details>
    <p v-if="failure" class="seal-text" role="alert">{{ failure }}</p>
    <p v-else-if="shownIn.length === 0" class="quiet">
      There is no edition for paper or as a site yet. Publish is where one is made.
    </p>
    <div v-if="manner === 'whole'" class="side-by-side">
      <WholeProofs
        v-for="edition in onPaper"
        :key="edition.id"
        class="one"
        :edition="edition"
        :topic="topic"
        :changes="changes"
        :at="at"
        @go="emit('go', $event)"
      />
      <SiteProof
        v-for="edition in sites"
        :key="edition.id"
        class="one"
        :edition="edition"
        :topic="topic"
        :changes="changes"
        :root-of="rootOf"
        :at="at"
        @go="emit('go', $event)"
      />
    </div>
    <div v-else class="side-by-side">
      <div v-for="one in proofs" :key="one.edition.id" class="one">
        <p v-if="one.failure" class="seal-text" role="alert">{{ one.failure }}</p>
        <p v-else-if="one.proof && one.proof.pages.length === 0" class="quiet">
          {{ one.edition.name }} does not have this topic.
        </p>
        <ProofPages
          v-else-if="one.proof"
          :proof="one.proof"
          :label="one.edition.name"
          :busy="one.busy"
          :at="at"
          :apart="marksApart ? apartOf(one) : []"
          @point="emit('go', $event)"
        >
          <span
            class="small"
            :title="
              one.proof.placed
                ? 'Set alone, where it stands in the last layout of the whole manual'
                : 'Set alone, at the top of a page, until the whole manual has been set'
            "
          >
            {{ one.proof.placed ? 'in its place' : 'alone'
            }}{{ one.busy ? ' · setting …' : ` · ${one.milliseconds} ms` }}
          </span>
        </ProofPages>
        <p v-else class="quiet">Setting the page …</p>
      </div>
      <SiteProof
        v-for="edition in sites"
        :key="edition.id"
        class="one"
        :edition="edition"
        :topic="topic"
        :changes="changes"
        :root-of="rootOf"
        :at="at"
        @go="emit('go', $event)"
      />
    </div>
  </div>
</template>

<style scoped>
.proofs {
  display: flex;
  flex-direction: column;
  height: calc(100% + 28px);
  min-height: 0;
  margin: -14px -16px;
}
.manner {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
  padding: 8px 12px 0;
  font-size: 13px;
}
.which {
  padding: 8px 12px 4px;
  font-size: 13px;
}
.which summary {
  cursor: pointer;
  color: var(--prussian);
}
.which .n-checkbox {
  display: flex;
  padding: 3px 0;
}
.side-by-side {
  flex: 1;
  min-height: 0;
  display: flex;
  overflow-x: auto;
}
.one {
  flex: 1;
  min-width: 220px;
  min-height: 0;
  display: flex;
  flex-direction: column;
}
.one > :deep(.proof) {
  flex: 1;
}
p {
  padding: 6px 12px;
  margin: 0;
}
</style>
