<script setup lang="ts">
import { ReaderCheck } from '@ukiyo/contracts';
import { shallowRef, watch } from 'vue';
import { ask } from '../../parts/api.ts';
import { useFailure } from '../../parts/attempts.ts';
import { useItems } from '../../parts/items.ts';
import { useProblemPlace } from '../../parts/problemPlace.ts';
import { useSession } from '../../parts/session.ts';

/** Looks through every lens at once: what would be unfit for some reader of the edition. */
const { edition } = defineProps<{ edition: string }>();
const session = useSession();
const items = useItems();
const result = shallowRef<ReaderCheck>();
const { failure, attempt, isBusy: isChecking } = useFailure();
watch(
  () => edition,
  () => ((result.value = undefined), (failure.value = '')),
);
async function check(): Promise<void> {
  const asked = edition;
  await attempt(async () => {
    const found = await ask(`${session.base}/editions/${edition}/readers`, ReaderCheck);
    if (edition === asked) result.value = found;
  });
}
const placeOf = useProblemPlace();
</script>

<template>
  <section class="readers" aria-labelledby="readers-head">
    <header>
      <h2 id="readers-head">Every reader</h2>
      <n-button size="small" :loading="isChecking" @click="check">Check for every reader</n-button>
    </header>
    <p v-if="!result && failure === ''" class="quiet">
      For every combination of facet values that this edition keeps: steps left empty, links to what
      is not there, headings with nothing under them, rows and sentences that lack something.
    </p>
    <p v-if="failure" class="seal-text" role="alert">{{ failure }}</p>
    <div v-if="result" role="status">
      <p v-if="result.problems.length === 0" class="quiet">Fit for every reader.</p>
      <ul v-else>
        <li v-for="(problem, index) in result.problems" :key="index">
          <span>{{ problem.message }}</span>
          {{ ' ' }}
          <router-link v-if="problem.where.item" :to="placeOf(problem)">
            {{ items.find(problem.where.item)?.title ?? problem.where.item }}
          </router-link>
        </li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
.readers {
  margin-top: 24px;
  padding-top: 14px;
  border-top: 1px solid var(--hair);
}
header {
  display: flex;
  align-items: center;
  gap: 14px;
}
h2 {
  font: 600 15px var(--font-text);
}
p {
  margin: 6px 0 0;
  max-width: 640px;
}
ul {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}
li {
  padding: 4px 0;
}
</style>
