<script setup lang="ts">
import { Reach } from '@ukiyo/contracts';
import { elementById, readReference, writeReference } from '@ukiyo/core/library';
import { until } from '@vueuse/core';
import { computed, onMounted, shallowRef, watch } from 'vue';
import { ask } from '../parts/api.ts';
import { useItems } from '../parts/items.ts';
import { useSession } from '../parts/session.ts';
import TopicPage from './TopicPage.vue';
import { useTopicSheet, type TopicSheet } from './useTopicSheet.ts';

/** The home of a borrowed passage, written in front of the page that borrows it. */
const { from } = defineProps<{ from: TopicSheet }>();
const items = useItems();
const session = useSession();
const target = computed(() => {
  const read = readReference(from.home.value ?? '', from.id());
  return read.kind === 'item' ? read : undefined;
});
const title = computed(() => items.find(target.value?.id ?? '')?.title ?? '');
const sheet = useTopicSheet(() => target.value?.id ?? '', { save: () => undefined, begin });
function begin(): void {
  const root = sheet.editor.read();
  const found = root && elementById(root, target.value?.element);
  if (found) sheet.editor.goTo(found.path);
}
const reach = shallowRef<Reach>();
/** Whom a change here concerns. */
const reachSentence = computed(() => {
  const borrowers = new Set(
    reach.value?.uses.filter(({ manner }) => manner === 'borrowed').map(({ item }) => item.id),
  ).size;
  const editions = reach.value?.editions.map(({ name }) => name) ?? [];
  return reach.value
    ? `${borrowers} ${borrowers === 1 ? 'topic borrows' : 'topics borrow'} from ` +
        `here${editions.length > 0 ? `; a change reaches ${editions.join(', ')}` : ''}.`
    : '';
});
async function look(): Promise<void> {
  if (target.value)
    reach.value = await ask(
      `${session.base}/uses?id=${encodeURIComponent(target.value.id)}`,
      Reach,
    ).catch(() => undefined);
}
const longestWait = 3000;
/**
 * What is not acknowledged yet stays in this browser until it is; the page behind reads what the
 * library has.
 */
async function goBack(): Promise<void> {
  await until(sheet.live.isSafe).toBe(true, { timeout: longestWait });
  from.showHome(undefined);
  from.editor.readBorrowedAgain();
  from.editor.view.value?.focus();
}
// What is borrowed there has its home elsewhere again.
watch(sheet.home, (reference) => {
  if (reference === undefined) return;
  sheet.showHome(undefined);
  const read = readReference(reference, sheet.id());
  if (read.kind === 'item') from.showHome(writeReference(read));
});
watch(target, () => Promise.all([sheet.show(), look()]));
onMounted(() => Promise.all([sheet.show(), look()]));
</script>

<template>
  <Teleport to="body">
    <div class="veil" @mousedown.self.prevent="goBack">
      <section
        class="front"
        role="dialog"
        aria-modal="true"
        :aria-label="`At its home: ${title}`"
        @keydown.esc.stop="goBack"
      >
        <header>
          <h2>{{ title }}</h2>
          <span class="small quiet" role="status">{{ reachSentence }}</span>
          <RouterLink :to="{ name: 'write', params: { id: target?.id } }" class="small">
            Open by itself
          </RouterLink>
          <n-button size="small" @click="goBack">Back</n-button>
        </header>
        <div class="desk"><TopicPage :sheet="sheet" /></div>
      </section>
    </div>
  </Teleport>
</template>

<style scoped>
.veil {
  position: fixed;
  inset: 0;
  z-index: 45;
  display: grid;
  place-items: center;
  background: rgb(20 26 40 / 28%);
}
.front {
  display: flex;
  flex-direction: column;
  width: min(920px, 94vw);
  height: min(640px, 88vh);
  background: var(--paper);
  border: 1px solid var(--hair);
  border-radius: 4px;
  box-shadow: 0 8px 28px rgb(20 26 40 / 24%);
}
header {
  display: flex;
  align-items: baseline;
  gap: 14px;
  padding: 12px 18px;
  border-bottom: 1px solid var(--hair);
}
h2 {
  font: 400 18px var(--font-title);
  color: var(--ink);
}
header span {
  flex: 1;
}
.desk {
  flex: 1;
  overflow: auto;
  padding: 14px 18px 0;
}
</style>
