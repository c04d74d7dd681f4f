<script setup lang="ts">
import type { SourceFileState, SourceSummary } from '@ukiyo/contracts';
import { computed, onMounted, watch } from 'vue';
import { useRoute } from 'vue-router';
import { useItems } from '../../parts/items.ts';
import { useSession } from '../../parts/session.ts';
import { useSources } from '../../parts/sources.ts';
import TimeAgo from '../../parts/TimeAgo.vue';
import { usePlace } from '../../shell/place.ts';
import { useSourceStage } from './useSourceStage.ts';

/** Linked sources: folders outside whose Markdown files are topics here. */
const route = useRoute();
const place = usePlace();
const session = useSession();
const items = useItems();
const sources = useSources();
const folder = computed(() => (typeof route.params['id'] === 'string' ? route.params['id'] : ''));
const { state, waiting, isBusy, begin, look, read, link, unlink } = useSourceStage(
  () => folder.value,
);
const stateWords: Readonly<Record<SourceFileState, string>> = {
  same: 'as outside',
  new: 'new',
  changed: 'changed outside',
  both: 'changed outside and here',
  removed: 'its topic was removed here',
  gone: 'not in the folder any more',
  refused: 'cannot be a topic',
};
const noteOf = ({ isLinked, isThere }: SourceSummary): string =>
  !isThere ? 'not there' : isLinked ? '' : 'not linked';
function stand(): void {
  place.clear();
  place.trail = ['Linked sources', ...(folder.value === '' ? [] : [folder.value])];
}
onMounted(async () => {
  stand();
  await begin();
});
watch(folder, async () => {
  stand();
  await look();
});
</script>

<template>
  <main class="sources" tabindex="0" aria-label="Linked sources" :aria-busy="isBusy">
    <aside aria-label="Folders outside">
      <h1>Linked sources</h1>
      <ul>
        <li v-for="one in sources.list" :key="one.folder">
          <router-link
            class="plain"
            :class="{ on: one.folder === folder }"
            :to="{ name: 'sources', params: { id: one.folder } }"
          >
            {{ one.folder }}
            <span class="quiet small note">{{ noteOf(one) }}</span>
          </router-link>
        </li>
      </ul>
      <p v-if="sources.list.length === 0" class="quiet small">
        There is no folder yet. Whoever runs the server puts folders, or links to them, into
        <code>sources</code>
        in its data folder.
      </p>
    </aside>
    <div class="desk">
      <p class="quiet">
        Folders of Markdown files that are written elsewhere and are topics here. Their topics are
        placed, linked and borrowed like any other, and follow the files when they are read again.
        What was changed here stays until somebody says otherwise.
      </p>
      <section v-if="state" :aria-label="state.folder">
        <header>
          <h2>{{ state.folder }}</h2>
          <span class="quiet small" role="status">
            <template v-if="!state.isThere">Its folder is not there, or cannot be read.</template>
            <template v-else-if="state.readAt === null">
              {{ state.isLinked ? 'Not read yet.' : 'Not linked.' }}
            </template>
            <template v-else>
              Read
              <TimeAgo :iso="state.readAt" />
              · {{ waiting === 0 ? 'nothing has changed since' : `${waiting} to be read` }}
            </template>
          </span>
          <span class="acts">
            <n-button
              v-if="state.isLinked"
              size="small"
              :disabled="isBusy || !state.isThere"
              @click="read()"
            >
              Read again
            </n-button>
            <n-button
              v-else-if="session.may('publish')"
              size="small"
              :disabled="isBusy"
              @click="link"
            >
              Link and read
            </n-button>
            <n-button
              v-if="state.isLinked && session.may('publish')"
              size="small"
              quaternary
              :disabled="isBusy"
              @click="unlink"
            >
              Unlink
            </n-button>
          </span>
        </header>
        <table v-if="state.plan.length > 0" aria-label="Files">
          <thead>
            <tr>
              <th scope="col">File</th>
              <th scope="col">Topic</th>
              <th scope="col">State</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="file in state.plan" :key="file.path" :class="file.state">
              <td>
                <code>{{ file.path }}</code>
              </td>
              <td>
                <router-link
                  v-if="file.item !== undefined && items.find(file.item)"
                  :to="{ name: 'write', params: { id: file.item } }"
                >
                  {{ items.find(file.item)?.title }}
                </router-link>
                <template v-else>{{ file.title }}</template>
              </td>
              <td class="state">
                {{ stateWords[file.state] }}
                <template v-if="file.state === 'both' && state.isLinked">
                  <n-button
                    size="tiny"
                    :disabled="isBusy"
                    :aria-label="`Take ${file.path} from outside`"
                    @click="read({ [file.path]: 'outside' })"
                  >
                    Take from outside
                  </n-button>
                  <n-button
                    size="tiny"
                    :disabled="isBusy"
                    :aria-label="`Keep what is here of ${file.path}`"
                    @click="read({ [file.path]: 'here' })"
                  >
                    Keep what is here
                  </n-button>
                </template>
              </td>
            </tr>
          </tbody>
        </table>
        <ul v-if="state.problems.length > 0" class="problems" aria-label="What is wrong">
          <li v-for="(problem, index) in state.problems" :key="index">{{ problem.message }}</li>
        </ul>
        <p v-if="state.isLinked" class="small quiet">
          An edition reads its linked sources again before each build where its settings say so.
          Without the link the topics stay, as topics like any other.
        </p>
      </section>
    </div>
  </main>
</template>

<style scoped>
.sources {
  display: grid;
  grid-template-columns: 230px minmax(0, 1fr);
  height: 100%;
  overflow: hidden;
}
aside {
  padding: 20px 12px;
  border-right: 1px solid var(--hair);
  overflow: auto;
}
.desk {
  padding: 20px 28px 60px;
  overflow: auto;
}
.desk > * {
  max-width: 940px;
}
ul {
  list-style: none;
  margin: 8px 0;
  padding: 0;
}
aside a {
  display: block;
  padding: 5px 10px;
  color: var(--ink);
  text-decoration: none;
}
aside a:hover {
  background: var(--paper-deep);
}
aside .on {
  background: var(--wash);
  box-shadow: inset 3px 0 var(--prussian);
}
.note {
  margin-left: 8px;
}
header {
  display: flex;
  gap: 14px;
  align-items: baseline;
  margin: 18px 0 8px;
}
h2 {
  font: 400 20px var(--font-title);
  color: var(--ink);
}
.acts {
  margin-left: auto;
  display: flex;
  gap: 6px;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: left;
  padding: 5px 12px 5px 0;
  border-top: 1px solid var(--hair);
  vertical-align: baseline;
}
th {
  font-weight: 400;
  color: var(--soft);
  font-size: 13px;
  border-top: 0;
}
.state {
  color: var(--soft);
}
.new .state,
.changed .state {
  color: var(--prussian);
}
.both .state,
.refused .state {
  color: var(--seal);
}
.state .n-button {
  margin-left: 8px;
}
.problems li {
  padding: 3px 0 3px 10px;
  border-left: 3px solid var(--amber);
  margin: 4px 0;
}
</style>
