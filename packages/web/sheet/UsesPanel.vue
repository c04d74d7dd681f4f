<script setup lang="ts">
import { Reach, type UseIn } from '@ukiyo/contracts';
import { lensOf } from '@ukiyo/core/facets';
import type { UseManner } from '@ukiyo/core/library';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { z } from 'zod';
import { ask } from '../parts/api.ts';
import { useFailure } from '../parts/attempts.ts';
import { useLens } from '../parts/lens.ts';
import { useLibrary } from '../parts/library.ts';
import { useSession } from '../parts/session.ts';
import TopicDifference from './TopicDifference.vue';
import RemoveTopic from './RemoveTopic.vue';

/** Where the open topic is used, and what a change of it touches. */
const { topic, version, editable } = defineProps<{
  topic: string;
  version: number;
  editable: boolean;
}>();
const session = useSession();
const library = useLibrary();
const router = useRouter();
const reach = shallowRef<Reach>();
const { failure, attempt } = useFailure();
const load = (): Promise<boolean> =>
  attempt(async () => {
    reach.value = await ask(`${session.base}/uses?id=${encodeURIComponent(topic)}`, Reach);
  });
onMounted(load);
watch([() => topic, () => version], load);

const headings: readonly [UseManner, string][] = [
  ['placed', 'Stands in'],
  ['borrowed', 'Lends to'],
  ['linked', 'Led to from'],
  ['alternate', 'Stood in for by'],
];
interface User {
  readonly item: UseIn['item'];
  readonly count: number;
  readonly parts: readonly string[];
}
/** Each user once, with the parts that it uses. */
const groups = computed(() =>
  headings.flatMap(([manner, heading]) => {
    const users = new Map<string, User>();
    for (const { item, part, count } of (reach.value?.uses ?? []).filter(
      (use) => use.manner === manner,
    )) {
      const known = users.get(item.id);
      users.set(item.id, {
        item,
        count: (known?.count ?? 0) + count,
        parts: [...(known?.parts ?? []), ...(part === '' ? [] : [part])],
      });
    }
    return users.size === 0 ? [] : [{ heading, users: [...users.values()] }];
  }),
);
/** The edition of which is shown what a change makes of it, since it was last built. */
const compared = ref('');
const looking = useLens();
const lensBy = (id: string | null) =>
  id === null ? undefined : lensOf(id, looking.lenses, library.facets);
const textAt = async (at: number): Promise<string> =>
  (
    await ask(
      `${session.base}/items/${encodeURIComponent(topic)}/revisions/${at}`,
      z.object({ text: z.string() }),
    )
  ).text;
const removing = ref(false);
async function removed(): Promise<void> {
  removing.value = false;
  await router.push({ name: 'library' });
}
</script>

<template>
  <p v-if="failure" class="seal-text" role="alert">{{ failure }}</p>
  <div v-else-if="reach" class="uses">
    <p class="quiet">
      Its id is
      <code>{{ topic }}</code>
      .
    </p>
    <section aria-labelledby="touches">
      <h3 id="touches">A change touches</h3>
      <ul v-if="reach.editions.length > 0">
        <li v-for="edition in reach.editions" :key="edition.id">
          <router-link :to="{ name: 'publish', params: { id: edition.id } }">
            {{ edition.name }}
          </router-link>
          <template v-if="edition.built && edition.built.version < version">
            <button
              type="button"
              class="plain small since"
              :aria-expanded="compared === edition.id"
              :aria-label="`Changes of ${edition.name} since number ${edition.built.number}`"
              @click="compared = compared === edition.id ? '' : edition.id"
            >
              other than in No. {{ edition.built.number }}
            </button>
            <TopicDifference
              v-if="compared === edition.id"
              :label="`Before and after in ${edition.name}`"
              :before="() => textAt(edition.built!.version)"
              :after="() => textAt(version)"
              :lens="lensBy(edition.lens)"
            />
          </template>
        </li>
      </ul>
      <p v-else class="quiet">No edition.</p>
      <p v-if="reach.maps.length > 0" class="small quiet">
        through {{ reach.maps.map(({ title, id }) => title || id).join(', ') }}
      </p>
    </section>
    <section v-for="{ heading, users } in groups" :key="heading" :aria-label="heading">
      <h3>
        {{ heading }}
        <span class="quiet">{{ users.length }}</span>
      </h3>
      <ul>
        <li v-for="{ item, count, parts } in users" :key="item.id">
          <router-link
            :to="{ name: item.kind === 'map' ? 'arrange' : 'write', params: { id: item.id } }"
          >
            {{ item.title || item.id }}
          </router-link>
          <span v-if="count > 1" class="small quiet">{{ count }} times</span>
          <span v-if="parts.length > 0" class="small quiet part">{{ parts.join(', ') }}</span>
        </li>
      </ul>
    </section>
    <p v-if="reach.total > reach.uses.length" class="quiet">
      and {{ reach.total - reach.uses.length }} more uses.
    </p>
    <p v-if="groups.length === 0" class="quiet">Nothing uses it yet.</p>
    <n-button v-if="editable" size="small" quaternary @click="removing = true">
      Remove this topic …
    </n-button>
    <RemoveTopic
      v-if="removing"
      :topic="topic"
      :uses="reach.uses"
      :editions="reach.editions"
      @close="removing = false"
      @removed="removed"
    />
  </div>
</template>

<style scoped>
.since {
  display: block;
  color: var(--prussian);
  text-decoration: underline;
}
h3 {
  font: 400 15px var(--font-title);
  color: var(--prussian);
  margin: 0 0 4px;
}
section {
  margin: 0 0 16px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  padding: 2px 0;
}
.part {
  display: block;
  overflow-wrap: anywhere;
}
code {
  font: 400 13px var(--font-code);
  overflow-wrap: anywhere;
}
p {
  margin: 0 0 10px;
}
</style>
