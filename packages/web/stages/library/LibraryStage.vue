<script setup lang="ts">
import { ImportReport } from '@ukiyo/contracts';
import { tagsOf } from '@ukiyo/core/facets';
import { useMessage } from 'naive-ui';
import { computed, onMounted, reactive, ref } from 'vue';
import { ask, messageOf } from '../../parts/api.ts';
import { useAttempts, useFailure } from '../../parts/attempts.ts';
import { useAssetList } from '../../parts/assetList.ts';
import { useAssets } from '../../parts/assets.ts';
import { useItemList } from '../../parts/itemList.ts';
import ItemRows from '../../parts/ItemRows.vue';
import { kindLabel } from '../../parts/kinds.ts';
import { useLens } from '../../parts/lens.ts';
import { useItems } from '../../parts/items.ts';
import { useLibrary } from '../../parts/library.ts';
import { useSession } from '../../parts/session.ts';
import FacetBadge from '../../parts/FacetBadge.vue';
import TimeAgo from '../../parts/TimeAgo.vue';
import { usePlace } from '../../shell/place.ts';
import ImageGrid from './ImageGrid.vue';
import { useFolders } from './useFolders.ts';
import NewItem from './NewItem.vue';

const items = useItems();
const assets = useAssets();
const library = useLibrary();
const looking = useLens();
const session = useSession();
const place = usePlace();
const message = useMessage();
const folder = ref('');
const kind = ref('');
/** What is typed into the filter, of topics and of images. */
const filters = reactive({ topics: '', images: '' });
const showing = ref<'topics' | 'images'>('topics');
const { failure, attempt } = useFailure();
const { attempt: attemptImport } = useAttempts();

place.clear();
place.trail = ['Library'];
const list = useItemList(() => ({
  folder: folder.value,
  type: kind.value,
  title: filters.topics.trim(),
  ...looking.hiding,
}));
const allImages = useAssetList(() => ({}));
const foundImages = useAssetList(() => {
  const name = filters.images.trim();
  return name === '' ? undefined : { name };
});
const images = computed(() => (filters.images.trim() === '' ? allImages : foundImages));
const { folders, types, total } = useFolders();
onMounted(() => attempt(() => library.ensure()));
const kinds = computed(() => types.value.map((value) => ({ value, label: kindLabel(value) })));
const problemsOf = (counts: { error: number; warning: number }): number =>
  counts.error + counts.warning;

async function upload(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  for (const file of input.files ?? []) {
    try {
      const asset = await assets.upload(file);
      message.success(`${asset.name} is in the library.`);
      showing.value = 'images';
      // What was uploaded need not have the words.
      filters.images = '';
    } catch (error) {
      message.error(`${file.name}: ${messageOf(error)}`, { duration: 8000 });
    }
  }
  input.value = '';
}
async function takePackage(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const [file] = input.files ?? [];
  input.value = '';
  if (!file) return;
  const form = new FormData();
  form.append('file', file);
  await attemptImport(async () => {
    const report = await ask(`${session.base}/package`, ImportReport, { method: 'POST', form });
    message.success(
      `${report.items} topics and maps, ${report.assets} images, ${report.lenses} lenses, ` +
        `${report.editions} editions taken in.`,
    );
    for (const problem of report.problems.slice(0, 5))
      message.warning(problem.message, { duration: 10_000 });
    await library.load();
  });
}
</script>

<template>
  <div class="library">
    <aside class="drawer" aria-label="Folders">
      <h1>Library</h1>
      <ul>
        <li v-for="one in folders" :key="one.path">
          <button
            type="button"
            class="plain row"
            :class="{ on: folder === one.path && showing === 'topics' }"
            :style="{ paddingLeft: `${12 + one.depth * 14}px` }"
            @click="((folder = one.path), (showing = 'topics'))"
          >
            <span>{{ one.name }}</span>
            <span class="quiet">{{ one.count }}</span>
          </button>
        </li>
        <li>
          <button
            type="button"
            class="plain row"
            :class="{ on: showing === 'images' }"
            @click="showing = 'images'"
          >
            <span>Images</span>
            <span class="quiet">{{ allImages.total.value }}</span>
          </button>
        </li>
      </ul>
      <div class="doors small">
        <router-link :to="{ name: 'facets' }">Facets and lenses</router-link>
        <router-link :to="{ name: 'variables' }">Variables</router-link>
        <router-link v-if="session.may('write')" :to="{ name: 'sources' }">
          Linked sources: files outside
        </router-link>
        <router-link :to="{ name: 'copies' }">Copies: what is said several times</router-link>
        <router-link :to="{ name: 'agreements' }">Agreements: rules, facts, words</router-link>
        <a :href="`/api${session.base}/package`" download>Take the library out (DITA)</a>
        <label v-if="session.may('publish')" class="door">
          Take a package in
          <input type="file" accept=".zip" class="visually-hidden" @change="takePackage" />
        </label>
      </div>
    </aside>
    <section class="content">
      <header class="tools">
        <n-input
          v-model:value="filters[showing]"
          clearable
          :placeholder="showing === 'topics' ? 'Filter by title or words' : 'Filter by name'"
          :input-props="{ 'aria-label': showing === 'topics' ? 'Filter topics' : 'Filter images' }"
          class="find"
        />
        <n-select
          v-if="showing === 'topics'"
          v-model:value="kind"
          :options="[{ value: '', label: 'Every kind' }, ...kinds]"
          class="kind"
          :input-props="{ 'aria-label': 'Kind' }"
        />
        <span class="quiet small count" role="status">
          {{
            showing === 'topics'
              ? `${list.total.value} of ${total}`
              : `${images.total.value} of ${allImages.total.value}`
          }}
        </span>
        <label v-if="session.may('write')" class="upload" tabindex="-1">
          Upload image
          <input
            type="file"
            accept="image/*,video/mp4,video/webm,audio/mpeg"
            multiple
            class="visually-hidden"
            @change="upload"
          />
        </label>
        <NewItem v-if="session.may('write')" :folder="folder" />
      </header>
      <p
        v-if="failure || list.failure.value || images.failure.value"
        class="seal-text"
        role="alert"
      >
        {{ failure || list.failure.value || images.failure.value }}
      </p>
      <template v-if="showing === 'topics' && list.isCurrent.value && list.total.value === 0">
        <p v-if="total > 0" class="empty quiet">
          Nothing here has these words. Clear the filter to see everything.
        </p>
        <p v-else class="empty quiet">
          This is where topics, maps and images live. Make a first topic, or take a package in.
        </p>
      </template>
      <ItemRows
        v-if="showing === 'topics'"
        v-slot="{ item }"
        class="list"
        :list="list"
        :row-height="52"
        label="Topics and maps"
      >
        <router-link
          class="item"
          :class="{ dropped: looking.drops(item.conditions) }"
          :to="{ name: item.kind === 'map' ? 'arrange' : 'write', params: { id: item.id } }"
        >
          <span class="kind-name small">{{ kindLabel(item.type) }}</span>
          <span class="text">
            <span class="title">
              {{ item.title || item.id }}
              <FacetBadge
                v-for="tag in tagsOf(item.conditions, library.facets)"
                :key="`${tag.facet} ${tag.value}`"
                :tag="tag"
                class="badge"
              />
              <span v-if="item.alternateOf !== null" class="quiet small stands">
                stands in for {{ items.find(item.alternateOf)?.title ?? item.alternateOf }}
              </span>
              <span v-else-if="item.alternates > 0" class="quiet small stands">
                {{ item.alternates }} {{ item.alternates === 1 ? 'alternate' : 'alternates' }}
              </span>
            </span>
            <span class="quiet small lead">{{ item.shortDescription }}</span>
          </span>
          <span class="small seal-text">
            <template v-if="problemsOf(item.problems) > 0">
              {{ problemsOf(item.problems) }}
              {{ problemsOf(item.problems) === 1 ? 'problem' : 'problems' }}
            </template>
          </span>
          <span class="quiet small">{{ item.wordCount }} words</span>
          <span class="quiet small">
            <TimeAgo :iso="item.updatedAt" />
            <br />
            {{ item.updatedBy }}
          </span>
        </router-link>
      </ItemRows>
      <ImageGrid v-else :list="images" :library-is-empty="allImages.total.value === 0" />
    </section>
  </div>
</template>

<style scoped>
.library {
  display: grid;
  grid-template-columns: 236px minmax(0, 1fr);
  height: 100%;
}
.drawer {
  border-right: 1px solid var(--hair);
  overflow: auto;
  padding: 14px 0;
  display: flex;
  flex-direction: column;
}
.drawer h1 {
  padding: 0 14px 10px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.row {
  display: flex;
  justify-content: space-between;
  width: 100%;
  padding: 4px 12px;
  min-height: 28px;
}
.row:hover {
  background: var(--paper-deep);
}
.row.on {
  background: var(--wash);
  box-shadow: inset 3px 0 var(--prussian);
}
.doors {
  margin-top: auto;
  padding: 14px;
  display: grid;
  gap: 6px;
}
.door {
  color: var(--prussian);
  text-decoration: underline;
  cursor: pointer;
}
.door:focus-within,
.upload:focus-within {
  outline: 2px solid var(--prussian);
}
.content {
  display: flex;
  flex-direction: column;
  min-height: 0;
  padding: 14px 20px 0;
}
.tools {
  display: flex;
  align-items: center;
  gap: 10px;
  padding-bottom: 12px;
}
.find {
  max-width: 300px;
}
.kind {
  width: 170px;
}
.count {
  margin-right: auto;
  white-space: nowrap;
}
.upload {
  border: 1px solid var(--hair);
  border-radius: 4px;
  height: 34px;
  padding: 5px 14px;
  background: var(--sheet);
  cursor: pointer;
  white-space: nowrap;
}
.list {
  flex: 1;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-bottom: 0;
  border-radius: 4px 4px 0 0;
}
.item {
  display: grid;
  grid-template-columns: 116px minmax(0, 1fr) 90px 80px 150px;
  gap: 12px;
  align-items: center;
  height: 52px;
  padding: 0 16px;
  border-bottom: 1px solid var(--hair);
  color: var(--ink);
  text-decoration: none;
}
.item:hover {
  background: var(--wash);
}
.kind-name {
  color: var(--soft);
}
.text {
  min-width: 0;
  display: grid;
}
.title {
  font-weight: 600;
}
.title,
.lead {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.dropped {
  color: var(--soft);
  text-decoration: line-through;
}
.badge {
  margin-left: 6px;
  text-decoration: none;
}
.empty {
  padding: 40px;
  text-align: center;
}
.stands {
  font-weight: 400;
}
</style>
