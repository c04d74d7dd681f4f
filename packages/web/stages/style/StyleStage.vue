<script setup lang="ts">
import { Edition, type PagePlan, type StyleSheet, type StyleUses } from '@ukiyo/contracts';
import {
  familyOf,
  roleOf,
  styleRoles,
  shippedPlans,
  shippedSheets,
  withStyle,
} from '@ukiyo/core/styles';
import { freeId } from '@ukiyo/core/library';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { z } from 'zod';
import ProofPages from '../../bench/ProofPages.vue';
import { ask } from '../../parts/api.ts';
import { useFailure } from '../../parts/attempts.ts';
import ConflictNotice from '../../parts/ConflictNotice.vue';
import { useDesigns } from '../../parts/designs.ts';
import { useLibrary } from '../../parts/library.ts';
import PickOne from '../../parts/PickOne.vue';
import { useSession } from '../../parts/session.ts';
import { usePlace } from '../../shell/place.ts';
import NoteMarks from './NoteMarks.vue';
import NumberingForm from './NumberingForm.vue';
import PlanForm from './PlanForm.vue';
import DesignActs from './DesignActs.vue';
import DesignLists from './DesignLists.vue';
import SheetBasics from './SheetBasics.vue';
import { designKinds, useDesignActs } from './useDesignActs.ts';
import StyleForm from './StyleForm.vue';
import StyleList from './StyleList.vue';
import { usePlanDraft, useSheetDraft } from './useSheet.ts';
import StyleUsesOf from './StyleUses.vue';
import UnstyledLooks from './UnstyledLooks.vue';
import { useUndoKeys } from './useUndoKeys.ts';
import { useSpecimen } from './useSpecimen.ts';
import { useStyleUses } from './useStyleUses.ts';
import { useVariables } from '../../parts/variables.ts';
import CheckBox from '../../parts/CheckBox.vue';

const route = useRoute();
const router = useRouter();
const designs = useDesigns();
const library = useLibrary();
const session = useSession();
const variables = useVariables();
const place = usePlace();
const editions = shallowRef<readonly Edition[]>([]);
const { failure, attempt } = useFailure();

const kind = computed<'sheets' | 'plans'>(() =>
  route.params['kind'] === 'plans' ? 'plans' : 'sheets',
);
const id = computed(() => (typeof route.params['id'] === 'string' ? route.params['id'] : ''));
/** Which of the two is not being changed is what the other one is shown with. */
const beside = ref('');
const sheetId = computed(() => (kind.value === 'sheets' ? id.value : beside.value));
const planId = computed(() => (kind.value === 'plans' ? id.value : beside.value));
const sheet = useSheetDraft(sheetId);
const plan = usePlanDraft(planId);
const current = computed(() => (kind.value === 'sheets' ? sheet : plan));
const chosen = computed(() =>
  typeof route.query['style'] === 'string' ? route.query['style'] : '',
);
const mayChange = computed(() => session.may('publish'));
const locale = computed(() => session.project?.locale ?? 'en');
/** The cover is shown where it is what one looks at. */
const withCover = ref(false);
const showsCover = computed(
  () =>
    withCover.value ||
    (kind.value === 'sheets'
      ? roleOf(chosen.value)?.group === 'Front'
      : plan.draft.value?.cover === 'own'),
);
const specimenPlan = computed(
  () =>
    plan.draft.value &&
    (showsCover.value
      ? plan.draft.value
      : { ...plan.draft.value, cover: 'none' as const, titlePage: false, back: 'none' as const }),
);
const specimen = useSpecimen(
  () => sheet.draft.value,
  () => specimenPlan.value,
);
const users = computed(() =>
  editions.value
    .filter((edition) => (kind.value === 'sheets' ? edition.sheet : edition.plan) === id.value)
    .map(({ name }) => name),
);
const acts = useDesignActs(
  kind,
  id,
  () => current.value.draft.value,
  (content) => {
    if (kind.value === 'sheets') sheet.show(content as StyleSheet);
    else plan.show(content as PagePlan);
  },
);
const { kept } = acts;
const { uses, failure: usesFailure } = useStyleUses(
  () => (kind.value === 'sheets' ? id.value : ''),
  () => kept.value?.version,
);
const others = computed(() =>
  designs.list[kind.value === 'sheets' ? 'plans' : 'sheets'].map((one) => ({
    value: one.id,
    label: one.content.name,
  })),
);

onMounted(async () => {
  place.clear();
  await attempt(() =>
    Promise.all([
      library.ensure(),
      designs.load(),
      variables.ensure(),
      ask(`${session.base}/editions`, z.array(Edition)).then((list) => (editions.value = list)),
    ]),
  );
});
/** What an edition is made with is shown together. */
watch(
  [kind, id, editions],
  () => {
    const edition = editions.value.find(
      (one) =>
        one.output === 'print' && (kind.value === 'sheets' ? one.sheet : one.plan) === id.value,
    );
    beside.value =
      (kind.value === 'sheets' ? edition?.plan : edition?.sheet) ??
      Object.keys(kind.value === 'sheets' ? shippedPlans : shippedSheets)[0]!;
  },
  { immediate: true },
);
watch(
  () => kept.value?.content.name,
  (name) => (place.trail = ['Style', ...(name === undefined ? [] : [name])]),
  { immediate: true },
);

const choose = (style: string): void =>
  void router.replace({ ...route, query: style === '' ? {} : { style } });
function addStyle(): void {
  if (!sheet.draft.value) return;
  const fresh = freeId('own style', new Set(Object.keys(sheet.draft.value.styles)), 'style');
  sheet.change((now) =>
    withStyle(now, fresh, {
      label: 'New style',
      family: 'block',
      base: 'paragraph',
      appliesTo: { outputclass: fresh },
    }),
  );
  choose(fresh);
}
function makeStyle({ outputclass, element, base }: StyleUses['unstyled'][number]): void {
  if (!sheet.draft.value) return;
  const fresh = freeId(
    outputclass,
    new Set([...Object.keys(sheet.draft.value.styles), ...styleRoles.map((role) => role.id)]),
    'style',
  );
  sheet.change((now) =>
    withStyle(now, fresh, {
      label: outputclass,
      family: familyOf(now, base),
      base,
      appliesTo: { element, outputclass },
    }),
  );
  choose(fresh);
}
function removeStyle(): void {
  sheet.change((now) => withStyle(now, chosen.value, undefined));
  choose('');
}

useUndoKeys(
  () => current.value.undo(),
  () => current.value.redo(),
);
</script>

<template>
  <div class="style">
    <aside class="drawer" aria-label="Style sheets, page plans and site looks">
      <DesignLists :id="id" :kind="kind" />
      <StyleList
        v-if="kind === 'sheets' && sheet.draft.value"
        :sheet="sheet.draft.value"
        :chosen="chosen"
        :unstyled="uses?.unstyled.length ?? 0"
        :may-change="mayChange"
        class="list"
        @choose="choose"
        @add="addStyle"
      />
    </aside>
    <main class="desk">
      <p
        v-if="failure || acts.failure.value || current.failure.value || usesFailure"
        class="seal-text"
        role="alert"
      >
        {{ failure || acts.failure.value || current.failure.value || usesFailure }}
      </p>
      <ConflictNotice
        v-if="current.isConflict.value"
        @mine="current.keepMine()"
        @theirs="current.showTheirs()"
      >
        Another person saved this {{ designKinds[kind].one }} after you opened it. Your version is
        still on the page.
      </ConflictNotice>
      <DesignActs
        :acts="acts"
        :can-undo="current.canUndo.value"
        :may-change="mayChange"
        @undo="current.undo()"
      />
      <div v-if="current.problems.value.length > 0" role="alert">
        <ul class="problems">
          <li v-for="(problem, at) in current.problems.value" :key="at" class="seal-text">
            {{ problem.message }}
          </li>
        </ul>
      </div>
      <template v-if="kind === 'sheets' && sheet.draft.value">
        <NoteMarks
          v-if="chosen === 'marks'"
          :sheet="sheet.draft.value"
          :locale="locale"
          :disabled="!mayChange"
          @change="sheet.change"
        />
        <NumberingForm
          v-else-if="chosen === 'numbering'"
          :numbering="sheet.draft.value.numbering"
          :locale="locale"
          :disabled="!mayChange"
          @change="sheet.change"
        />
        <SheetBasics
          v-else-if="chosen === ''"
          :sheet="sheet.draft.value"
          :disabled="!mayChange"
          :users="users"
          @change="sheet.change"
        />
        <UnstyledLooks
          v-else-if="chosen === 'unstyled'"
          :uses="uses"
          :sheet="sheet.draft.value"
          :disabled="!mayChange"
          @make="makeStyle"
        />
        <StyleForm
          v-else
          :id="chosen"
          :sheet="sheet.draft.value"
          :locale="locale"
          :disabled="!mayChange"
          @change="sheet.change"
          @remove="removeStyle"
        >
          <StyleUsesOf :id="chosen" :uses="uses" />
        </StyleForm>
      </template>
      <PlanForm
        v-else-if="kind === 'plans' && plan.draft.value"
        :plan="plan.draft.value"
        :sheet="sheet.draft.value"
        :disabled="!mayChange"
        :users="users"
        @change="plan.change"
      />
    </main>
    <aside class="bench" aria-label="Bench">
      <p v-if="specimen.failure.value" class="seal-text note" role="alert">
        {{ specimen.failure.value }}
      </p>
      <ul v-if="specimen.proof.value?.pages.length === 0" class="problems" role="alert">
        <li v-for="(problem, at) in specimen.proof.value.problems" :key="at" class="seal-text">
          {{ problem.message }}
        </li>
      </ul>
      <p
        v-else-if="!specimen.proof.value && !specimen.failure.value"
        class="quiet note"
        role="status"
      >
        Setting the specimen …
      </p>
      <ProofPages
        v-if="specimen.proof.value"
        :proof="specimen.proof.value"
        label="Specimen"
        :busy="specimen.busy.value"
      >
        <label class="with">
          with
          <PickOne
            v-model:chosen="beside"
            :label="kind === 'sheets' ? 'Page plan of the specimen' : 'Style sheet of the specimen'"
            :options="others"
          />
        </label>
        <CheckBox v-model:checked="withCover" class="with">cover</CheckBox>
        <span class="small">
          {{ specimen.busy.value ? 'setting …' : `${specimen.proof.value.milliseconds} ms` }}
        </span>
      </ProofPages>
    </aside>
  </div>
</template>

<style scoped>
.style {
  display: grid;
  grid-template-columns: 232px minmax(380px, 1fr) minmax(300px, 40%);
  height: 100%;
  min-height: 0;
}
.drawer {
  display: flex;
  flex-direction: column;
  min-height: 0;
  border-right: 1px solid var(--hair);
  padding: 12px 0 0;
}
.list {
  flex: 1;
  min-height: 0;
  margin-top: 12px;
  padding-top: 8px;
  border-top: 1px solid var(--hair);
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
  display: flex;
  flex-direction: column;
}
.bench > :deep(.proof) {
  flex: 1;
}
.with {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
.note {
  padding: 8px 12px;
  margin: 0;
}
</style>
