<script setup lang="ts">
import { ElementUses } from '@ukiyo/contracts';
import type { OpenElement } from '@ukiyo/core/editing';
import type { Path } from '@ukiyo/core/problems';
import { ref, shallowRef, watch } from 'vue';
import { ask } from '../parts/api.ts';
import { useFailure } from '../parts/attempts.ts';
import { useSession } from '../parts/session.ts';

/** What each edition makes of the element, asked for when it is opened. */
const { topic, target, pathTo } = defineProps<{
  topic: string;
  target: OpenElement;
  /** Where it is in the text. */ pathTo: (target: OpenElement) => Path | undefined;
}>();
const session = useSession();
const isOpen = ref(false);
const uses = shallowRef<ElementUses>();
const { failure, attempt } = useFailure();
watch([isOpen, () => `${topic} ${target.position} ${target.element}`], async () => {
  uses.value = undefined;
  failure.value = '';
  // Finding the place takes a walk through the text: only while the answer is shown.
  const asked = isOpen.value ? pathTo(target)?.join('.') : undefined;
  if (asked === undefined) return;
  await attempt(async () => {
    const found = await ask(
      `${session.base}/why?item=${encodeURIComponent(topic)}&path=${asked}`,
      ElementUses,
    );
    if (asked === pathTo(target)?.join('.')) uses.value = found;
  });
});
const words = { shown: 'is there', dropped: 'is dropped', absent: 'is not there' } as const;
</script>

<template>
  <details class="why" @toggle="isOpen = ($event.target as HTMLDetailsElement).open">
    <summary>In each edition, and why</summary>
    <p v-if="failure" class="seal-text small" role="alert">{{ failure }}</p>
    <p v-else-if="!uses" class="quiet small" role="status">Composing every edition …</p>
    <dl v-else>
      <template v-for="one in uses" :key="one.id">
        <dt>
          <router-link :to="{ name: 'publish', params: { id: one.id } }">
            {{ one.edition }}
          </router-link>
          {{ ' ' }}
          <span :class="one.how">{{ words[one.how] }}</span>
        </dt>
        <dd v-if="one.places.length > 0 || one.detail !== ''" class="small">
          {{ one.places.join('; ') }}
          <template v-if="one.detail !== ''">
            {{ one.places.length > 0 ? ' · ' : '' }}{{ one.detail }}
          </template>
        </dd>
      </template>
    </dl>
  </details>
</template>

<style scoped>
.why {
  margin-top: 12px;
}
summary {
  font: 400 15px var(--font-title);
  color: var(--prussian);
  cursor: pointer;
}
dl {
  margin: 6px 0 0;
}
dt {
  margin-top: 6px;
}
dd {
  margin: 0;
  color: var(--soft);
  overflow-wrap: anywhere;
}
a {
  color: var(--ink);
}
.shown {
  color: var(--pine);
}
.dropped {
  color: var(--seal);
}
.absent {
  color: var(--soft);
}
</style>
