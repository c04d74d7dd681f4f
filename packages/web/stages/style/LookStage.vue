<script setup lang="ts">
import { Edition, type SiteLook } from '@ukiyo/contracts';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { useRoute } from 'vue-router';
import { z } from 'zod';
import SiteFrame from '../../bench/SiteFrame.vue';
import { ask } from '../../parts/api.ts';
import { useFailure } from '../../parts/attempts.ts';
import ConflictNotice from '../../parts/ConflictNotice.vue';
import { useDesigns } from '../../parts/designs.ts';
import { useLibrary } from '../../parts/library.ts';
import PickOne from '../../parts/PickOne.vue';
import { useSession } from '../../parts/session.ts';
import { usePlace } from '../../shell/place.ts';
import DesignActs from './DesignActs.vue';
import DesignLists from './DesignLists.vue';
import LookForm from './LookForm.vue';
import { useDesignActs } from './useDesignActs.ts';
import { useLookDraft } from './useSheet.ts';
import { useUndoKeys } from './useUndoKeys.ts';

/** How help sites look, beside the real site of an edition. */
const route = useRoute();
const designs = useDesigns();
const library = useLibrary();
const session = useSession();
const place = usePlace();
const editions = shallowRef<readonly Edition[]>([]);
const { failure, attempt } = useFailure();
const id = computed(() => (typeof route.params['id'] === 'string' ? route.params['id'] : ''));
const look = useLookDraft(id);
const acts = useDesignActs(
  ref('looks' as const),
  id,
  () => look.draft.value,
  (content) => look.show(content as SiteLook),
);
const mayChange = computed(() => session.may('publish'));
const sites = computed(() => editions.value.filter(({ output }) => output === 'site'));
const users = computed(() =>
  sites.value.filter((one) => one.look === id.value).map(({ name }) => name),
);
/** The edition whose site is shown: the first that has the look. */
const chosen = ref('');
const shown = computed(
  () =>
    sites.value.find((one) => one.id === chosen.value) ??
    sites.value.find((one) => one.look === id.value) ??
    sites.value[0],
);
const site = computed(() =>
  shown.value ? `/api${session.base}/editions/${shown.value.id}/proof/site/${id.value}/` : '',
);
const frame = ref<{ reload: () => void }>();
/** What colours and measures alone do not show needs the pages anew, once it is saved. */
const structure = (of: SiteLook | undefined): string =>
  JSON.stringify(
    of && [
      of.layout,
      of.logo,
      of.favicon,
      of.caption,
      of.links,
      of.footer,
      of.feedback,
      of.tablet,
      of.phone,
      of.css,
    ],
  );
watch(
  () => acts.kept.value?.content as SiteLook | undefined,
  (now, before) => now && before && structure(now) !== structure(before) && frame.value?.reload(),
);
onMounted(async () => {
  place.clear();
  await attempt(() =>
    Promise.all([
      library.ensure(),
      designs.load(),
      ask(`${session.base}/editions`, z.array(Edition)).then((list) => (editions.value = list)),
    ]),
  );
});
watch(
  () => acts.kept.value?.content.name,
  (name) => (place.trail = ['Style', ...(name === undefined ? [] : [name])]),
  { immediate: true },
);
useUndoKeys(look.undo, look.redo);
</script>

<template>
  <div class="style">
    <aside class="drawer" aria-label="Style sheets, page plans and site looks">
      <DesignLists :id="id" kind="looks" />
    </aside>
    <main class="desk">
      <p v-if="failure || look.failure.value || acts.failure.value" class="seal-text" role="alert">
        {{ failure || look.failure.value || acts.failure.value }}
      </p>
      <ConflictNotice v-if="look.isConflict.value" @mine="look.keepMine" @theirs="look.showTheirs">
        Another person saved this site look after you opened it. Your version is still on the page.
      </ConflictNotice>
      <DesignActs
        :acts="acts"
        :can-undo="look.canUndo.value"
        :may-change="mayChange"
        @undo="look.undo"
      />
      <ul v-if="look.problems.value.length > 0" class="problems" role="alert">
        <li v-for="(problem, at) in look.problems.value" :key="at" class="seal-text">
          {{ problem.message }}
        </li>
      </ul>
      <LookForm
        v-if="look.draft.value"
        :look="look.draft.value"
        :disabled="!mayChange"
        :users="users"
        @change="look.change"
      />
    </main>
    <aside class="bench" aria-label="Bench">
      <SiteFrame
        v-if="shown"
        ref="frame"
        :site="site"
        page="index.html"
        :look="look.draft.value"
        label="The site with this look"
      >
        <label class="with small">
          of
          <PickOne
            :chosen="shown.id"
            label="Edition that is shown"
            :options="sites.map(({ id: value, name }) => ({ value, label: name }))"
            @update:chosen="chosen = $event"
          />
        </label>
      </SiteFrame>
      <p v-else class="quiet note">
        There is no edition for a help site yet. Make one under Publish, and it is shown here with
        this look.
      </p>
    </aside>
  </div>
</template>

<style scoped>
.style {
  display: grid;
  grid-template-columns: 232px minmax(340px, 1fr) minmax(300px, 48%);
  height: 100%;
  min-height: 0;
}
.drawer {
  min-height: 0;
  overflow: auto;
  border-right: 1px solid var(--hair);
  padding: 12px 0 0;
}
.desk {
  overflow: auto;
  padding: 12px 20px 40px;
}
.problems {
  margin: 0 0 10px;
  padding-left: 18px;
}
.bench {
  border-left: 1px solid var(--hair);
  min-height: 0;
}
.with {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  margin-left: auto;
}
.note {
  padding: 8px 12px;
  margin: 0;
}
</style>
