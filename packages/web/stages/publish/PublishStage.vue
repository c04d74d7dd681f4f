<script setup lang="ts">
import { isPublication, type EditionInput } from '@ukiyo/contracts';
import { computed, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useItems } from '../../parts/items.ts';
import { useLibrary } from '../../parts/library.ts';
import { useSession } from '../../parts/session.ts';
import { usePlace } from '../../shell/place.ts';
import EditionComparison from './EditionComparison.vue';
import EditionList from './EditionList.vue';
import EditionForm from './EditionForm.vue';
import EveryReader from './EveryReader.vue';
import ImpressionCard from './ImpressionCard.vue';
import { useNames } from './useNames.ts';
import { usePublishing } from './usePublishing.ts';

const publishing = usePublishing();
const items = useItems();
const library = useLibrary();
const session = useSession();
const place = usePlace();
const route = useRoute();
const router = useRouter();
const changing = ref(false);
const names = useNames(
  () => publishing.editions.value,
  () => publishing.lenses.value,
);
/** A setting that was looked for. */
const setting = computed(() =>
  typeof route.query['setting'] === 'string' ? route.query['setting'] : '',
);

const id = computed(() => (typeof route.params['id'] === 'string' ? route.params['id'] : ''));
const isNew = computed(() => id.value === 'new');
const edition = computed(() => publishing.editions.value.find((one) => one.id === id.value));
const impressions = computed(() =>
  publishing.impressions.value.filter((one) => one.edition === id.value),
);
const mayPublish = computed(() => session.may('publish'));
const mapTitle = computed(
  () => items.find(edition.value?.map ?? '')?.title ?? edition.value?.map ?? '',
);
const lensName = computed(
  () =>
    publishing.lenses.value.find((lens) => lens.id === edition.value?.lens)?.name ?? 'everything',
);

onMounted(async () => {
  place.clear();
  await Promise.all([library.ensure(), publishing.load()]);
});
watch(edition, (current) => (place.trail = current ? [current.name] : []), { immediate: true });
watch([id, setting], () => (changing.value = setting.value !== ''), { immediate: true });

async function save(input: EditionInput): Promise<void> {
  const saved = await publishing.saveEdition(isNew.value ? undefined : id.value, input);
  if (!saved) return;
  changing.value = false;
  await router.replace({ name: 'publish', params: { id: saved.id } });
}
/** The same under another name, to be changed. */
async function duplicate(): Promise<void> {
  if (!edition.value) return;
  const { id: _own, ...settings } = edition.value;
  const saved = await publishing.saveEdition(undefined, {
    ...settings,
    since: null,
    nightly: '',
    name: `${settings.name}, copy`,
  });
  if (!saved) return;
  await router.push({ name: 'publish', params: { id: saved.id } });
  changing.value = true;
}
</script>

<template>
  <div class="publish">
    <EditionList :publishing="publishing" :names="names" :current="id" :may-publish="mayPublish" />
    <main class="desk">
      <p v-if="publishing.failure.value" class="seal-text" role="alert">
        {{ publishing.failure.value }}
      </p>
      <template v-if="edition || isNew">
        <header class="head">
          <h1>{{ edition?.name ?? 'New edition' }}</h1>
          <span class="gap" />
          <n-button v-if="edition && mayPublish" @click="duplicate">Duplicate</n-button>
          <n-button v-if="edition && mayPublish" @click="changing = !changing">
            {{ changing ? 'Close settings' : 'Settings' }}
          </n-button>
          <n-button
            v-if="edition && mayPublish"
            type="primary"
            @click="publishing.build(edition.id)"
          >
            Build
          </n-button>
        </header>
        <p v-if="edition && isPublication(edition)" class="quiet">
          {{ mapTitle }}, through the lens {{ lensName
          }}{{
            Object.entries(edition.variables)
              .map(([key, value]) => `, ${key} = ${value}`)
              .join('')
          }}
        </p>
        <p v-else-if="edition" class="quiet">
          {{ edition.holds.length === 1 ? 'One edition' : `${edition.holds.length} editions` }} in
          one archive:
          {{
            edition.holds
              .map(
                (one) =>
                  publishing.editions.value.find((other) => other.id === one)?.name ??
                  'one that is gone',
              )
              .join(', ')
          }}
        </p>
        <EditionForm
          v-if="changing || isNew"
          :edition="edition"
          :editions="publishing.editions.value"
          :setting="setting"
          :lenses="publishing.lenses.value"
          :impressions="publishing.impressions.value.filter((one) => one.edition === edition?.id)"
          :may-change="mayPublish"
          @save="save"
        />
        <EditionComparison
          v-if="edition"
          :edition="edition"
          :editions="publishing.editions.value"
          :lenses="publishing.lenses.value"
        />
        <EveryReader v-if="edition && isPublication(edition)" :edition="edition.id" />
        <section v-if="edition" class="impressions" aria-label="Impressions">
          <h2>Impressions</h2>
          <p v-if="impressions.some(({ state }) => state === 'done')" class="quiet small">
            <a :href="publishing.keptAddress(edition)" target="_blank" rel="noopener">
              The address that stays
            </a>
            shows
            {{
              impressions.some(({ seal }) => seal)
                ? 'the newest that is signed off'
                : 'the newest, until one is signed off'
            }}.
          </p>
          <p v-if="impressions.length === 0" class="quiet">
            Nothing has been built yet. Build pulls the first impression.
          </p>
          <ImpressionCard
            v-for="one in impressions"
            :key="one.id"
            :impression="one"
            :others="impressions"
            :publishing="publishing"
          />
        </section>
      </template>
      <p v-else class="quiet">
        An edition says what is published: map, lens, variables and kind of output. Choose one on
        the left.
      </p>
    </main>
  </div>
</template>

<style scoped>
.publish {
  display: grid;
  grid-template-columns: 260px minmax(0, 1fr);
  height: 100%;
}
.desk {
  overflow: auto;
  padding: 20px 32px 60px;
}
.head {
  display: flex;
  align-items: center;
  gap: 10px;
}
.head h1 {
  font-size: 20px;
}
.gap {
  flex: 1;
}
.desk > p {
  margin: 4px 0 16px;
}
.impressions {
  margin-top: 24px;
}
.impressions h2 {
  margin-bottom: 8px;
  font: 600 15px var(--font-text);
}
</style>
