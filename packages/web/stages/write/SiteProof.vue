<script setup lang="ts">
import { SiteProof, type Edition } from '@ukiyo/contracts';
import { writeXml, type Element } from '@ukiyo/core/markup';
import type { Path } from '@ukiyo/core/problems';
import { useStorage } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import SiteFrame from '../../bench/SiteFrame.vue';
import { ask, messageOf } from '../../parts/api.ts';
import { latestOnly } from '../../parts/latest.ts';
import { useSession } from '../../parts/session.ts';

/** The page of a help site on which the topic stands, renewed while it is written; its choices work, and a click leads to the place in the text. */
const { edition, topic, changes, rootOf, at } = defineProps<{ edition: Edition; topic: string; changes: number; rootOf: () => Element | undefined; at: Path | undefined }>();
const emit = defineEmits<{ go: [Path] }>();
const session = useSession();
const frame = ref<{ reload: () => void; page: () => Document | undefined }>();
const device = useStorage<'phone' | 'tablet' | 'desk'>('ukiyo-site-device', 'phone');
const proof = ref<SiteProof>();
const failure = ref('');
const milliseconds = ref(0);
const base = computed(() => `/api${session.base}/editions/${edition.id}/proof/site/${edition.look}/`);
const address = computed(() => (typeof proof.value?.path === 'string' ? `${base.value}${proof.value.path}` : ''));

/** The page as it is written takes the place of that which is stored; what is around it stays. */
function renew(page: Document): void {
  const now = proof.value;
  // Readers' links lead to other pages; those are as they are stored.
  if (!now || page.location.pathname !== address.value) return;
  const content = new DOMParser().parseFromString(now.html, 'text/html').getElementById('content');
  const before = page.getElementById('content');
  if (!content || !before) return;
  before.replaceWith(page.adoptNode(content));
  content.addEventListener('click', lead);
  mark();
}
function lead(event: MouseEvent): void {
  const hit = (event.target as HTMLElement).closest<HTMLElement>('[data-at]');
  if (!hit || (event.target as HTMLElement).closest('a[href], button, summary, select')) return;
  const path = hit.dataset['at'] ?? '';
  emit('go', path === '' ? [] : path.split('.').map(Number));
}
/** Where the caret is: the innermost element that says where it stands. */
function mark(): void {
  const page = frame.value?.page();
  if (!page) return;
  for (const one of page.querySelectorAll<HTMLElement>('[data-caret]')) delete one.dataset['caret'];
  for (let depth = at?.length ?? 0; depth > 0; depth -= 1) {
    const found = page.querySelector<HTMLElement>(`[data-at="${at!.slice(0, depth).join('.')}"]`);
    if (!found) continue;
    found.dataset['caret'] = '';
    // Within the page alone: what is around the frame stays where it is.
    const { top, bottom } = found.getBoundingClientRect();
    const room = page.defaultView?.innerHeight ?? 0;
    if (top < 0 || bottom > room) page.defaultView?.scrollBy({ top: top - room / 3 });
    return;
  }
}
let rules: CSSStyleSheet | undefined;
function loaded(page: Document): void {
  const realm = page.defaultView as (Window & { CSSStyleSheet: typeof CSSStyleSheet }) | null;
  if (realm) {
    rules = new realm.CSSStyleSheet();
    rules.replaceSync('[data-caret] { outline: 2px solid var(--accent); outline-offset: 3px; border-radius: 2px; }');
    page.adoptedStyleSheets = [...page.adoptedStyleSheets, rules];
  }
  renew(page);
}
const set = latestOnly(async ({ item, text, since }: { item: string; text: string | undefined; since: number }) => {
  try {
    const before = proof.value;
    const answer = await ask(`${session.base}/editions/${edition.id}/proof/site`, SiteProof, { method: 'POST', body: { item, ...(text === undefined ? {} : { text }) } });
    if (item !== topic) return;
    proof.value = answer;
    failure.value = '';
    milliseconds.value = Math.round(performance.now() - since);
    const page = frame.value?.page();
    if (before?.path === answer.path && before.conditions !== answer.conditions) frame.value?.reload();
    else if (page) renew(page);
  } catch (error) {
    failure.value = messageOf(error);
  }
});
watch(
  [() => topic, () => changes, () => edition],
  () =>
    // What was typed is on the screen first.
    requestAnimationFrame(() =>
      setTimeout(() => {
        const root = rootOf();
        if (topic !== '') set({ item: topic, text: root && writeXml(root), since: performance.now() });
      }),
    ),
  { immediate: true },
);
watch(() => at, mark);
</script>

<template>
  <div class="site-proof">
    <p v-if="failure" class="seal-text" role="alert">{{ failure }}</p>
    <p v-if="proof && proof.path === null" class="quiet">{{ edition.name }} does not have this topic.</p>
    <SiteFrame v-else-if="address" ref="frame" v-model:device="device" :address="address" :label="edition.name" @load="loaded"><span class="small quiet">{{ milliseconds }} ms</span></SiteFrame>
    <p v-else-if="!failure" class="quiet">Making the page …</p>
  </div>
</template>

<style scoped>
.site-proof { display: flex; flex-direction: column; min-height: 0; } .site-proof > :deep(.site) { flex: 1; } p { padding: 6px 12px; margin: 0; }
</style>
