<script setup lang="ts">
import type { Reach, UseIn } from '@ukiyo/contracts';
import { lensOf } from '@ukiyo/core/facets';
import { computed, ref } from 'vue';
import { z } from 'zod';
import { ask } from '../parts/api.ts';
import { useFailure } from '../parts/attempts.ts';
import { useLens } from '../parts/lens.ts';
import ItemSelect from '../parts/ItemSelect.vue';
import { useItems } from '../parts/items.ts';
import { useLibrary } from '../parts/library.ts';
import PickOne from '../parts/PickOne.vue';
import { useSession } from '../parts/session.ts';
import TopicDifference from './TopicDifference.vue';

/** Removes a topic; what is used is removed only with something in its place. */
const { topic, uses, editions } = defineProps<{
  topic: string;
  uses: readonly UseIn[];
  editions: Reach['editions'];
}>();
const emit = defineEmits<{ close: []; removed: [] }>();
const items = useItems();
const library = useLibrary();
const session = useSession();
const by = ref('');
const { failure, attempt } = useFailure();
const heading = computed(() => `Remove “${items.find(topic)?.title ?? topic}”`);
const users = computed(() => [
  ...new Map(uses.map(({ item }) => [item.id, item.title || item.id])).values(),
]);
/** As which edition the change is looked at; as every reader where none is chosen. */
const edition = ref('');
const views = computed(() => [
  { value: '', label: 'for every reader' },
  ...editions.map(({ id, name }) => ({ value: id, label: `in ${name}` })),
]);
const looking = useLens();
const lens = computed(() => {
  const chosen = editions.find(({ id }) => id === edition.value)?.lens ?? null;
  return chosen === null ? undefined : lensOf(chosen, looking.lenses, library.facets);
});
const textOf = async (id: string): Promise<string> => (await items.read(id)).text;
async function remove(): Promise<void> {
  const replacement = by.value === '' ? '' : `?by=${encodeURIComponent(by.value)}`;
  await attempt(async () => {
    await ask(`${session.base}/items/${encodeURIComponent(topic)}${replacement}`, z.null(), {
      method: 'DELETE',
    });
    emit('removed');
  });
}
</script>

<template>
  <n-modal :show="true" @update:show="emit('close')">
    <div class="sheet" role="dialog" aria-modal="true" :aria-label="heading">
      <h2>{{ heading }}</h2>
      <template v-if="users.length > 0">
        <p>
          It is used by {{ users.length }} {{ users.length === 1 ? 'other' : 'others' }}:
          {{ users.join(', ') }}.
        </p>
        <p>
          Choose what takes its place there. Parts that the other one has under the same id are
          taken from it; where it has none, all of it is meant.
        </p>
        <ItemSelect
          v-model:chosen="by"
          label="A topic in its place"
          none="Choose a topic"
          :among="{ kind: 'topic' }"
          :except="topic"
        />
        <template v-if="by !== ''">
          <h3>
            Before and after
            <PickOne
              v-if="editions.length > 0"
              v-model:chosen="edition"
              label="Before and after, for whom"
              :options="views"
            />
          </h3>
          <TopicDifference
            :key="`${by} ${edition}`"
            label="Before and after"
            :before="() => textOf(topic)"
            :after="() => textOf(by)"
            :lens="lens"
          />
        </template>
      </template>
      <p v-else>
        Nothing uses it. Its history stays: a topic that comes again under its id goes on from
        there.
      </p>
      <p v-if="failure" class="seal-text" role="alert">{{ failure }}</p>
      <div class="act">
        <n-button size="small" @click="emit('close')">Leave it</n-button>
        <n-button
          size="small"
          type="primary"
          :disabled="users.length > 0 && by === ''"
          @click="remove"
        >
          {{ users.length > 0 ? 'Put it in place and remove' : 'Remove' }}
        </n-button>
      </div>
    </div>
  </n-modal>
</template>

<style scoped>
h2 {
  font: 400 18px var(--font-title);
  color: var(--ink);
  margin-bottom: 10px;
}
.sheet h3 {
  display: flex;
  gap: 10px;
  align-items: center;
  font-size: 14px;
  margin: 12px 0 4px;
}
.sheet {
  width: 520px;
  max-width: 96vw;
  padding: 18px 22px;
  background: var(--sheet);
  border-radius: 4px;
}
p {
  margin: 0 0 10px;
}
.act {
  display: flex;
  justify-content: flex-end;
  gap: 10px;
  margin-top: 14px;
}
</style>
