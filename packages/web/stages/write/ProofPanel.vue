<script setup lang="ts">
import type { Element } from '@ukiyo/core/markup';
import type { Path } from '@ukiyo/core/problems';
import ProofPages from '../../bench/ProofPages.vue';
import { useProofs } from './useProofs.ts';

/** The topic as printed editions give it, beside the text, while it is written. */
const { topic, changes, rootOf, at } = defineProps<{ topic: string; changes: number; rootOf: () => Element | undefined; at: Path | undefined }>();
const emit = defineEmits<{ go: [Path] }>();
const { printed, picked, proofs, failure, toggle } = useProofs(() => topic, () => changes, rootOf);
</script>

<template>
  <div class="proofs">
    <details class="which"><summary>{{ picked.map(({ name }) => name).join(' · ') || 'No edition' }}</summary>
      <label v-for="edition in printed" :key="edition.id"><input type="checkbox" :checked="picked.includes(edition)" @change="toggle(edition.id)" /> {{ edition.name }}</label>
    </details>
    <p v-if="failure" class="seal-text" role="alert">{{ failure }}</p>
    <p v-else-if="printed.length === 0" class="quiet">There is no printed edition yet. Publish is where one is made.</p>
    <div class="side-by-side">
      <div v-for="{ edition, proof, busy, failure: refusal, milliseconds } in proofs" :key="edition.id" class="one">
        <p v-if="refusal" class="seal-text" role="alert">{{ refusal }}</p>
        <p v-else-if="proof && proof.pageCount === 0" class="quiet">{{ edition.name }} does not have this topic.</p>
        <ProofPages v-else-if="proof" :proof="proof" :label="edition.name" :busy="busy" :at="at" @point="emit('go', $event)">
          <span class="small" :title="proof.placed ? 'Set alone, where it stands in the last layout of the whole manual' : 'Set alone, at the top of a page, until the whole manual has been set'">{{ proof.placed ? 'in its place' : 'alone' }}{{ busy ? ' · setting …' : ` · ${milliseconds} ms` }}</span>
        </ProofPages>
        <p v-else class="quiet">Setting the page …</p>
      </div>
    </div>
  </div>
</template>

<style scoped>
.proofs { display: flex; flex-direction: column; height: calc(100% + 28px); min-height: 0; margin: -14px -16px; } .which { padding: 8px 12px 4px; font-size: 13px; } .which summary { cursor: pointer; color: var(--prussian); } .which label { display: flex; gap: 6px; padding: 3px 0; } .side-by-side { flex: 1; min-height: 0; display: flex; overflow-x: auto; } .one { flex: 1; min-width: 220px; min-height: 0; display: flex; flex-direction: column; } .one > :deep(.proof) { flex: 1; } p { padding: 6px 12px; margin: 0; }
</style>
