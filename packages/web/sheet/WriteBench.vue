<script setup lang="ts">
import type { OpenElement } from '@ukiyo/core/editing';
import type { Facet } from '@ukiyo/core/facets';
import type { AttributeDefinition } from '@ukiyo/core/grammar';
import type { Attributes, Element } from '@ukiyo/core/markup';
import type { Path, Problem } from '@ukiyo/core/problems';
import { useStorage } from '@vueuse/core';
import { computed, nextTick } from 'vue';
import DetailsPanel from '../editor/DetailsPanel.vue';
import FactsPanel from './FactsPanel.vue';
import HistoryPanel from './HistoryPanel.vue';
import ProblemList from './ProblemList.vue';
import ProofPanel from './ProofPanel.vue';
import UsesPanel from './UsesPanel.vue';

const { problems, rootOf, open, pathTo } = defineProps<{
  problems: readonly Problem[];
  rootOf: () => Element | undefined;
  topic: string;
  version: number;
  changes: number;
  open: readonly OpenElement[];
  facets: readonly Facet[];
  editable: boolean;
  refusal: (
    target: OpenElement,
    definition: AttributeDefinition,
    value: string,
  ) => string | undefined;
  pathTo: (target: OpenElement) => Path | undefined;
}>();
const emit = defineEmits<{
  go: [Path];
  fix: [readonly Problem[]];
  change: [OpenElement, Attributes];
  root: [(root: Element) => Element];
  name: [string];
}>();
const shown = useStorage<'proof' | 'details' | 'facts' | 'problems' | 'uses' | 'history'>(
  'ukiyo-write-bench',
  'details',
);
/** Where what there is now can be given a name. */
async function goToName(): Promise<void> {
  shown.value = 'history';
  await nextTick();
  document.getElementById('revision-name')?.focus();
}
defineExpose({ goToName });
/** The innermost element that is open. */
const caret = computed(() => {
  const inner = shown.value === 'proof' ? open.at(-1) : undefined;
  return inner && pathTo(inner);
});
/**
 * Read only while it is shown, and anew with each report of the checking, which comes a moment
 * after each change.
 */
const root = computed(() => (shown.value === 'facts' && problems ? rootOf() : undefined));
</script>

<template>
  <aside class="bench" :class="{ wide: shown === 'proof' }" aria-label="Bench">
    <div class="tabs" role="tablist" aria-label="Bench">
      <button
        id="tab-proof"
        type="button"
        role="tab"
        aria-controls="bench-panel"
        :aria-selected="shown === 'proof'"
        @click="shown = 'proof'"
      >
        Proof
      </button>
      <button
        id="tab-details"
        type="button"
        role="tab"
        aria-controls="bench-panel"
        :aria-selected="shown === 'details'"
        @click="shown = 'details'"
      >
        Details
      </button>
      <button
        id="tab-facts"
        type="button"
        role="tab"
        aria-controls="bench-panel"
        :aria-selected="shown === 'facts'"
        @click="shown = 'facts'"
      >
        Facts
      </button>
      <button
        id="tab-problems"
        type="button"
        role="tab"
        aria-controls="bench-panel"
        :aria-selected="shown === 'problems'"
        @click="shown = 'problems'"
      >
        Problems
        <span v-if="problems.length > 0" class="count seal-text">{{ problems.length }}</span>
      </button>
      <button
        id="tab-uses"
        type="button"
        role="tab"
        aria-controls="bench-panel"
        :aria-selected="shown === 'uses'"
        @click="shown = 'uses'"
      >
        Uses
      </button>
      <button
        id="tab-history"
        type="button"
        role="tab"
        aria-controls="bench-panel"
        :aria-selected="shown === 'history'"
        @click="shown = 'history'"
      >
        History
      </button>
    </div>
    <div id="bench-panel" role="tabpanel" tabindex="0" :aria-labelledby="`tab-${shown}`">
      <ProofPanel
        v-if="shown === 'proof'"
        :topic="topic"
        :changes="changes"
        :root-of="rootOf"
        :at="caret"
        @go="emit('go', $event)"
      />
      <DetailsPanel
        v-else-if="shown === 'details'"
        :topic="topic"
        :open="open"
        :facets="facets"
        :editable="editable"
        :refusal="refusal"
        :path-to="pathTo"
        @change="(target, attributes) => emit('change', target, attributes)"
      />
      <FactsPanel
        v-else-if="root"
        :root="root"
        :editable="editable"
        @change="emit('root', $event)"
      />
      <HistoryPanel
        v-else-if="shown === 'history' && topic !== ''"
        :topic="topic"
        :version="version"
        :editable="editable"
        @name="emit('name', $event)"
      />
      <UsesPanel
        v-else-if="shown === 'uses' && topic !== ''"
        :topic="topic"
        :version="version"
        :editable="editable"
      />
      <ProblemList
        v-else-if="shown === 'problems'"
        :problems="problems"
        :editable="editable"
        @go="emit('go', $event)"
        @fix="emit('fix', $event)"
      />
    </div>
  </aside>
</template>

<style scoped>
.bench {
  border-left: 1px solid var(--hair);
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.tabs {
  display: flex;
  gap: 8px;
  padding: 12px 12px 0;
  border-bottom: 1px solid var(--hair);
}
.tabs button {
  border: 0;
  background: none;
  padding: 4px 0 8px;
  color: var(--soft);
  font: 400 13px var(--font-text);
  cursor: pointer;
}
.tabs button[aria-selected='true'] {
  color: var(--ink);
  box-shadow: inset 0 -2px var(--prussian);
}
/* Above the line: tabs that moved when the count came would be missed by a click. */
.tabs button {
  position: relative;
  white-space: nowrap;
}
.count {
  position: absolute;
  inset-inline-start: calc(100% - 1px);
  top: -5px;
  font-size: 11px;
}
#bench-panel {
  overflow: auto;
  padding: 14px 16px;
  flex: 1;
}
</style>
