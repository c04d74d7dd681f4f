<script setup lang="ts">
import { tagsOf } from '@ukiyo/core/facets';
import { ref, shallowRef, watch } from 'vue';
import FacetBadge from '../../parts/FacetBadge.vue';
import OnlyFor from '../../parts/OnlyFor.vue';
import { useLens } from '../../parts/lens.ts';
import { useLibrary } from '../../parts/library.ts';
import TopicDifference from '../../sheet/TopicDifference.vue';
import { useAlternates } from './useAlternates.ts';

/**
 * Above the page: the topic itself and what stands in for it, which one is looked at, and which one
 * readers get.
 */
const { topic, editable } = defineProps<{ topic: string; editable: boolean }>();
const library = useLibrary();
const looking = useLens();
const { own, base, alternates, shown, state, make, lookedAt, release, textOf } = useAlternates(
  () => topic,
);
const conditions = shallowRef<Readonly<Record<string, string>>>({});
const difference = ref<'base' | 'change' | ''>('');
watch(
  () => topic,
  () => {
    difference.value = '';
    conditions.value = {};
  },
);
const toggleDifference = (which: 'base' | 'change'): void =>
  void (difference.value = difference.value === which ? '' : which);
</script>

<template>
  <section v-if="own && base" class="alternates" aria-label="Alternates">
    <div class="row">
      <router-link
        v-if="alternates.length > 0"
        :to="{ name: 'write', params: { id: base.id } }"
        :class="{ on: own.id === base.id }"
        :aria-current="own.id === base.id ? 'page' : undefined"
      >
        for everybody
        <span v-if="looking.lens && shown?.id === base.id" class="quiet">
          · shown through the lens
        </span>
      </router-link>
      <router-link
        v-for="one in alternates"
        :key="one.id"
        :to="{ name: 'write', params: { id: one.id } }"
        :class="{ on: own.id === one.id }"
        :aria-current="own.id === one.id ? 'page' : undefined"
      >
        <FacetBadge
          v-for="tag in tagsOf(one.conditions, library.facets)"
          :key="`${tag.facet} ${tag.value}`"
          :tag="tag"
        />
        {{ ' ' }}
        <span
          v-for="tag in tagsOf(one.conditions, library.facets)"
          :key="`${tag.facet} ${tag.value}`"
        >
          {{ tag.label }}
        </span>
        <span v-if="looking.lens && shown?.id === one.id" class="quiet">
          · shown through the lens
        </span>
      </router-link>
      <OnlyFor
        v-if="editable && own.kind === 'topic'"
        v-model:conditions="conditions"
        label="Another one"
        words="For others …"
      />
      <template v-if="Object.keys(conditions).length > 0">
        <n-button size="tiny" type="primary" @click="make(conditions)">Begin with a copy</n-button>
        <n-button size="tiny" quaternary aria-label="No other one" @click="conditions = {}">
          ×
        </n-button>
      </template>
      <span v-if="own.alternateOf" class="acts">
        <button
          type="button"
          class="plain"
          :aria-expanded="difference === 'base'"
          @click="toggleDifference('base')"
        >
          What differs
        </button>
        <button v-if="editable" type="button" class="plain" @click="release">
          Make it a topic of its own
        </button>
      </span>
    </div>
    <p v-if="state?.isBehind" class="behind" role="status">
      The topic that it stands in for has changed since.
      <button
        v-if="state.basedOn !== null"
        type="button"
        class="plain door"
        :aria-expanded="difference === 'change'"
        @click="toggleDifference('change')"
      >
        Show the change
      </button>
      <button v-if="editable" type="button" class="plain door" @click="lookedAt">
        I have looked at it
      </button>
    </p>
    <TopicDifference
      v-if="difference === 'base'"
      :key="`base ${topic}`"
      label="What differs from the topic that it stands in for"
      :before="() => textOf(base!.id)"
      :after="() => textOf(topic)"
    />
    <TopicDifference
      v-else-if="difference === 'change' && state?.basedOn"
      :key="`change ${topic}`"
      label="What has changed since"
      :before="() => textOf(base!.id, state!.basedOn!)"
      :after="() => textOf(base!.id)"
    />
  </section>
  <!-- Holds the place, so that the page below stays where it is. -->
  <div v-else class="alternates"><div class="row" /></div>
</template>

<style scoped>
.alternates {
  max-width: 656px;
  margin: 0 auto 6px;
  font-size: 14px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 6px;
  align-items: center;
  min-height: 22px;
}
.row a {
  padding: 3px 8px;
  border-radius: 4px;
  color: var(--soft);
  text-decoration: none;
}
.row a:hover {
  background: var(--paper-deep);
}
.row a.on {
  background: var(--wash);
  color: var(--ink);
}
.acts {
  margin-left: auto;
  display: flex;
  gap: 10px;
}
.acts button,
.door {
  color: var(--prussian);
  text-decoration: underline;
}
.behind {
  margin: 6px 0;
  padding: 6px 10px;
  background: var(--sheet);
  border-left: 3px solid var(--amber);
}
.door {
  margin-left: 10px;
}
</style>
