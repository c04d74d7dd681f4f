<script setup lang="ts">
import { Revision } from '@ukiyo/contracts';
import { computed, ref, shallowRef, watch } from 'vue';
import { z } from 'zod';
import { ask } from '../parts/api.ts';
import { useAttempts } from '../parts/attempts.ts';
import { useItems } from '../parts/items.ts';
import { useSession } from '../parts/session.ts';
import TimeAgo from '../parts/TimeAgo.vue';

/** Earlier texts of the topic: named ones, and those that were written by themselves. */
const { topic, version, editable } = defineProps<{
  topic: string;
  version: number;
  editable: boolean;
}>();
const emit = defineEmits<{ name: [note: string] }>();
const session = useSession();
const items = useItems();
const { attempt } = useAttempts();
const revisions = shallowRef<readonly Revision[]>([]);
const note = ref('');
const onlyNamed = ref(false);
const shown = computed(() =>
  onlyNamed.value ? revisions.value.filter((one) => one.note !== '') : revisions.value,
);
const address = computed(() => `${session.base}/items/${encodeURIComponent(topic)}/revisions`);

const load = (): Promise<boolean> =>
  attempt(async () => (revisions.value = await ask(address.value, z.array(Revision))));
watch(() => [topic, version], load, { immediate: true });

function name(): void {
  if (note.value.trim() === '') return;
  emit('name', note.value.trim());
  note.value = '';
}
/** An earlier text becomes the newest one; nothing between is lost. */
const restore = (revision: Revision): Promise<boolean> =>
  attempt(async () => {
    const { text } = await ask(
      `${address.value}/${revision.version}`,
      z.object({ text: z.string() }),
    );
    const current = await items.read(topic);
    const name = revision.note === '' ? `revision ${revision.version}` : `“${revision.note}”`;
    await items.save(topic, text, current.version, `As it was in ${name}`);
    await load();
  });
</script>

<template>
  <section class="history" aria-label="History">
    <div v-if="editable" class="row">
      <n-input
        v-model:value="note"
        size="small"
        placeholder="Name what there is now"
        :input-props="{ id: 'revision-name', 'aria-label': 'Name of this revision' }"
        @keydown.enter.prevent="name"
      />
      <n-button size="small" :disabled="note.trim() === ''" @click="name">Keep</n-button>
    </div>
    <n-checkbox v-model:checked="onlyNamed" size="small">Only named ones</n-checkbox>
    <ol>
      <li v-for="revision in shown" :key="revision.version">
        <span class="note" :class="{ quiet: revision.note === '' }">
          {{ revision.note || `Revision ${revision.version}` }}
        </span>
        <span class="quiet small">
          {{ revision.author }},
          <TimeAgo :iso="revision.createdAt" />
        </span>
        <n-button
          v-if="editable && revision.version !== version"
          size="tiny"
          :aria-label="`Restore ${revision.note || `revision ${revision.version}`}`"
          @click="restore(revision)"
        >
          Restore
        </n-button>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.history {
  display: grid;
  gap: 10px;
}
.row {
  display: flex;
  gap: 6px;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 8px;
  padding: 7px 0;
  border-top: 1px solid var(--hair);
}
.note {
  font-weight: 600;
}
.note.quiet {
  font-weight: 400;
}
li > .small {
  grid-row: 2;
}
</style>
