<script setup lang="ts">
import type { Impression } from '@ukiyo/contracts';
import { computed, ref } from 'vue';
import { useLibrary } from '../../parts/library.ts';
import { useProblemPlace } from '../../parts/problemPlace.ts';
import TimeAgo from '../../parts/TimeAgo.vue';

const { impression, file, download, mayCancel } = defineProps<{ impression: Impression; file: string; download: string; mayCancel: boolean }>();
const emit = defineEmits<{ cancel: [] }>();
const library = useLibrary();
const isOpen = ref(false);

const stateWords: Record<Impression['state'], string> = { queued: 'Waiting', running: 'Building', done: 'Built', failed: 'Failed', cancelled: 'Cancelled', interrupted: 'Interrupted' };
const isActive = computed(() => impression.state === 'queued' || impression.state === 'running');
const hasFiles = computed(() => impression.state === 'done');
const size = computed(() => `${(impression.figures.bytes / 1024 / 1024).toFixed(1)} MB`);
const percent = computed(() => (impression.progress.total > 0 ? Math.round((100 * impression.progress.done) / impression.progress.total) : undefined));
const titleOf = (item: string | undefined): string => (item === undefined ? '' : (library.find(item)?.title ?? item));
const placeOf = useProblemPlace();
</script>

<template>
  <article class="impression" :aria-label="`Impression ${impression.number}`">
    <header>
      <span class="number">{{ impression.number }}</span>
      <span class="state" :class="impression.state">{{ stateWords[impression.state] }}</span>
      <span class="quiet small"><TimeAgo :iso="impression.createdAt" /> by {{ impression.person }}</span>
      <span v-if="hasFiles" class="small">{{ impression.figures.pages }} pages · {{ size }} · {{ (impression.figures.milliseconds / 1000).toFixed(1) }} s</span>
      <span class="gap" />
      <template v-if="hasFiles"><a :href="file" target="_blank" rel="noopener">Open</a><a :href="download" download>Download</a></template>
      <n-button v-if="isActive && mayCancel" size="small" @click="emit('cancel')">Cancel</n-button>
    </header>
    <div v-if="isActive" class="progress" role="status">
      <div class="bar" :class="{ waiting: percent === undefined }"><span :style="{ width: `${percent ?? 30}%` }" /></div>
      <span class="small quiet">{{ impression.progress.step }}{{ impression.progress.total > 0 ? ` · ${impression.progress.done} of ${impression.progress.total}` : '' }}</span>
    </div>
    <template v-if="impression.problems.length > 0">
      <button type="button" class="plain small" :aria-expanded="isOpen" @click="isOpen = !isOpen"><span class="seal-text">{{ impression.problems.length }} {{ impression.problems.length === 1 ? 'problem' : 'problems' }}</span> {{ isOpen ? '▾' : '▸' }}</button>
      <ul v-if="isOpen">
        <li v-for="(problem, index) in impression.problems" :key="index">
          <span class="severity small" :class="problem.severity">{{ problem.severity }}</span>
          <span>{{ problem.message }} <router-link v-if="problem.where.item" :to="placeOf(problem)">{{ titleOf(problem.where.item) }}</router-link></span>
        </li>
      </ul>
    </template>
    <p v-else-if="hasFiles" class="small quiet clean">No problems.</p>
  </article>
</template>

<style scoped>
.impression { border-top: 1px solid var(--hair); padding: 12px 0; } header { display: flex; align-items: baseline; gap: 14px; } .gap { flex: 1; } .number { font: 500 20px var(--font-title); min-width: 28px; color: var(--prussian); } .state { font-weight: 600; } .state.failed, .state.interrupted { color: var(--seal); } .state.done { color: var(--pine); } .clean { margin: 4px 0 0 42px; }
.progress { display: grid; gap: 4px; margin: 8px 0 0 42px; } .bar { height: 4px; background: var(--paper-deep); border-radius: 2px; overflow: hidden; max-width: 420px; } .bar span { display: block; height: 100%; background: var(--prussian); transition: width 0.2s; }
.plain { margin: 6px 0 0 42px; } ul { list-style: none; margin: 6px 0 0 42px; padding: 0; } li { display: grid; grid-template-columns: 70px 1fr; gap: 8px; padding: 4px 0; } .severity { color: var(--soft); } .severity.error { color: var(--seal); } .severity.warning { color: var(--amber); }
@media (prefers-reduced-motion: no-preference) { .bar.waiting span { animation: slide 1.2s ease-in-out infinite alternate; } } @keyframes slide { to { transform: translateX(230%); } }
</style>
