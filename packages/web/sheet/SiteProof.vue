<script setup lang="ts">
import { SiteProof, type Edition, type FrameOrder } from '@ukiyo/contracts';
import { writeXml, type Element } from '@ukiyo/core/markup';
import type { Path } from '@ukiyo/core/problems';
import { useStorage } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import SiteFrame from '../bench/SiteFrame.vue';
import { ask } from '../parts/api.ts';
import { useLoads } from '../parts/attempts.ts';
import { latestOnly } from '../parts/latest.ts';
import { useSession } from '../parts/session.ts';

/**
 * The page of a help site on which the topic stands, renewed while it is written; its choices work,
 * and a click leads to the place in the text.
 */
const { edition, topic, changes, rootOf, at } = defineProps<{
  edition: Edition;
  topic: string;
  changes: number;
  rootOf: () => Element | undefined;
  at: Path | undefined;
}>();
const emit = defineEmits<{ go: [Path] }>();
const session = useSession();
const frame = ref<{ reload: () => void; order: (message: FrameOrder) => void }>();
/** The page of the site that is in the frame; readers' links lead to other ones. */
const shown = ref<string>();
const device = useStorage<'phone' | 'tablet' | 'desk'>('ukiyo-site-device', 'phone');
const proof = ref<SiteProof>();
const { failure, load } = useLoads();
const milliseconds = ref(0);
const site = computed(
  () => `/api${session.base}/editions/${edition.id}/proof/site/${edition.look}/`,
);

/** A path in the site as addresses write it. */
const pathIn = (path: string): string =>
  URL.canParse(path, 'http://site/') ? new URL(path, 'http://site/').pathname : '';
const caretRules =
  '[data-caret] { outline: 2px solid var(--accent); outline-offset: 3px; border-radius: 2px; }';
const mark = (): void => frame.value?.order({ kind: 'mark', at });
/** The page as it is written takes the place of that which is stored. */
function renew(): void {
  const now = proof.value;
  if (!now || now.path === null || shown.value !== pathIn(now.path)) return;
  frame.value?.order({ kind: 'content', html: now.html });
  mark();
}
function ready(page: string): void {
  shown.value = pathIn(page);
  frame.value?.order({ kind: 'rules', name: 'caret', css: caretRules });
  renew();
}
const set = latestOnly(
  async ({ item, text, since }: { item: string; text: string | undefined; since: number }) => {
    await load(async () => {
      const before = proof.value;
      const answer = await ask(`${session.base}/editions/${edition.id}/proof/site`, SiteProof, {
        method: 'POST',
        body: { item, ...(text === undefined ? {} : { text }) },
      });
      if (item !== topic) return;
      proof.value = answer;
      milliseconds.value = Math.round(performance.now() - since);
      if (before?.path === answer.path && before.conditions !== answer.conditions)
        frame.value?.reload();
      else renew();
    });
  },
);
watch(
  [() => topic, () => changes, () => edition],
  () =>
    // What was typed is on the screen first.
    requestAnimationFrame(() =>
      setTimeout(() => {
        const root = rootOf();
        if (topic !== '')
          set({ item: topic, text: root && writeXml(root), since: performance.now() });
      }),
    ),
  { immediate: true },
);
watch(() => at, mark);
</script>

<template>
  <div class="site-proof">
    <p v-if="failure" class="seal-text" role="alert">{{ failure }}</p>
    <p v-if="proof && proof.path === null" class="quiet">
      {{ edition.name }} does not have this topic.
    </p>
    <SiteFrame
      v-else-if="proof && proof.path !== null"
      ref="frame"
      v-model:device="device"
      :site="site"
      :page="proof.path"
      :label="edition.name"
      @ready="ready"
      @go="emit('go', $event)"
    >
      <span class="small quiet">{{ milliseconds }} ms</span>
    </SiteFrame>
    <p v-else-if="!failure" class="quiet">Making the page …</p>
  </div>
</template>

<style scoped>
.site-proof {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
.site-proof > :deep(.site) {
  flex: 1;
}
p {
  padding: 6px 12px;
  margin: 0;
}
</style>
