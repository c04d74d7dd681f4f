<script setup lang="ts">
import { labelOf } from '@ukiyo/core/grammar';
import { computed, onMounted, ref, watch } from 'vue';
import { useItems } from '../../parts/items.ts';
import { useLibrary } from '../../parts/library.ts';
import { useSession } from '../../parts/session.ts';
import { usePlace } from '../../shell/place.ts';
import ChangedWords from '../../parts/ChangedWords.vue';
import WholeCopy from './WholeCopy.vue';
import { useCopies } from './useCopies.ts';
import CheckBox from '../../parts/CheckBox.vue';

/** What is said several times in the library, and could be kept once. */
const items = useItems();
const library = useLibrary();
const session = useSession();
const place = usePlace();
const { report, failure, isLooking, look, share, replace, standIn } = useCopies();
const open = ref(0);
const group = computed(() => report.value?.groups[open.value]);
/** The wording that stays, the duplicates that borrow it, and the title of the lender. */
const kept = ref(0);
const left = ref<readonly number[]>([]);
const title = ref('');
watch(group, () => {
  kept.value = 0;
  left.value = [];
  title.value = '';
});
/** After an act one stays with what is left of the group. */
watch(report, (now, before) => {
  const nameOf = ({
    item,
    path,
  }: {
    readonly item: string;
    readonly path: readonly number[];
  }): string => `${item} ${path.join('.')}`;
  const known = new Set(before?.groups[open.value]?.copies.map(nameOf));
  open.value = Math.max(
    0,
    now?.groups.findIndex(({ copies }) => copies.some((copy) => known.has(nameOf(copy)))) ?? 0,
  );
});
onMounted(async () => {
  place.clear();
  place.trail = ['Copies'];
  await library.ensure();
  await look();
});
const titleOf = (item: string): string => items.find(item)?.title || item;
const isWhole = computed(() => group.value?.copies.every(({ path }) => path.length === 0) === true);
const toggle = (index: number): void =>
  void (left.value = left.value.includes(index)
    ? left.value.filter((one) => one !== index)
    : [...left.value, index]);
const chosen = computed(() =>
  (group.value?.copies ?? []).flatMap((copy, index) =>
    left.value.includes(index) ? [] : [{ copy, index }],
  ),
);
async function make(): Promise<void> {
  const keptAt = chosen.value.findIndex(({ index }) => index === kept.value);
  await share(
    title.value.trim(),
    chosen.value.map(({ copy }) => copy),
    Math.max(0, keptAt),
  );
}
</script>

<template>
  <div class="copies">
    <aside class="drawer" aria-label="Copies">
      <h1>Copies</h1>
      <p class="quiet small" role="status">
        <template v-if="isLooking">Comparing …</template>
        <template v-else-if="report">
          {{ report.total }}
          {{ report.total === 1 ? 'group that says' : 'groups that say' }} nearly the same
        </template>
      </p>
      <ul>
        <li
          v-for="(one, index) in report?.groups ?? []"
          :key="`${one.copies[0]?.item} ${one.copies[0]?.path.join('.')}`"
        >
          <button
            type="button"
            class="plain"
            :class="{ on: index === open }"
            :aria-current="index === open ? 'true' : undefined"
            @click="open = index"
          >
            <span class="small">
              <b>{{ one.copies.length }} × {{ labelOf(one.name) }}</b>
              <span class="quiet">
                · {{ one.saves }} words to save{{ one.same ? '' : ', not quite the same' }}
              </span>
            </span>
            <span class="words">{{ one.copies[0]?.words }}</span>
          </button>
        </li>
      </ul>
    </aside>
    <main class="desk">
      <p v-if="failure" class="seal-text" role="alert">{{ failure }}</p>
      <p v-else-if="report && report.groups.length === 0" class="quiet">Nothing is said twice.</p>
      <template v-if="group">
        <form class="act" aria-label="Make one of them" @submit.prevent="make">
          <p v-if="isWhole" class="quiet">
            These are whole topics. Choose the one that stays; each of the others gives way to it,
            or stands in for it for some readers.
          </p>
          <template v-else-if="session.may('write')">
            <n-input
              v-model:value="title"
              size="small"
              placeholder="Name of the topic that will lend it"
              :input-props="{ 'aria-label': 'Name of the topic that will lend it' }"
            />
            <n-button
              size="small"
              type="primary"
              attr-type="submit"
              :disabled="title.trim() === '' || chosen.length < 2"
            >
              Make {{ chosen.length }} one, and borrow it
            </n-button>
          </template>
        </form>
        <article
          v-for="(copy, index) in group.copies"
          :key="`${copy.item} ${copy.path.join('.')}`"
          class="copy"
          :class="{ left: left.includes(index) }"
          :aria-label="titleOf(copy.item)"
        >
          <header>
            <router-link
              :to="{
                name: 'write',
                params: { id: copy.item },
                query: { path: copy.path.join('.') },
              }"
            >
              {{ titleOf(copy.item) }}
            </router-link>
            <WholeCopy
              v-if="isWhole && session.may('write')"
              :name="titleOf(copy.item)"
              :is-kept="index === kept"
              :kept="titleOf(group.copies[kept]!.item)"
              @keep="kept = index"
              @replace="replace(copy.item, group!.copies[kept]!.item)"
              @stand-in="standIn(copy.item, group!.copies[kept]!.item, $event)"
            />
            <template v-else-if="session.may('write')">
              <n-radio
                name="kept"
                size="small"
                :value="index"
                :checked="kept === index"
                :disabled="left.includes(index)"
                @update:checked="kept = index"
              >
                this wording stays
              </n-radio>
              <CheckBox :checked="!left.includes(index)" @update:checked="toggle(index)">
                part of it
              </CheckBox>
            </template>
          </header>
          <ChangedWords :words="copy.words" :against="group.copies[kept]?.words ?? ''" />
        </article>
      </template>
    </main>
  </div>
</template>

<style scoped>
.copies {
  display: grid;
  grid-template-columns: 320px minmax(0, 1fr);
  height: 100%;
}
.drawer {
  border-right: 1px solid var(--hair);
  padding: 14px 0;
  overflow: auto;
}
.drawer h1,
.drawer p {
  padding: 0 14px 8px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li button {
  display: grid;
  gap: 2px;
  width: 100%;
  padding: 8px 14px;
  text-align: left;
}
li button:hover {
  background: var(--paper-deep);
}
li .on {
  background: var(--wash);
  box-shadow: inset 3px 0 var(--prussian);
}
.words {
  display: -webkit-box;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  overflow: hidden;
}
.desk {
  overflow: auto;
  padding: 20px 32px 60px;
}
.act {
  display: flex;
  gap: 12px;
  align-items: center;
  margin-bottom: 16px;
}
.act .n-input {
  max-width: 320px;
}
.copy {
  max-width: 820px;
  padding: 12px 0;
  border-top: 1px solid var(--hair);
}
.copy.left {
  opacity: 0.55;
}
header {
  display: flex;
  gap: 18px;
  align-items: center;
  font-size: 13px;
}
header a {
  font-weight: 600;
  margin-right: auto;
}
</style>
