<script setup lang="ts">
import { Reach, type ListedAsset } from '@ukiyo/contracts';
import { tagsOf } from '@ukiyo/core/facets';
import { computed, ref, shallowRef } from 'vue';
import { ask } from '../../parts/api.ts';
import { useAssets } from '../../parts/assets.ts';
import AssetSelect from '../../parts/AssetSelect.vue';
import { useAttempts } from '../../parts/attempts.ts';
import FacetBadge from '../../parts/FacetBadge.vue';
import { useLibrary } from '../../parts/library.ts';
import OnlyFor from '../../parts/OnlyFor.vue';
import { useSession } from '../../parts/session.ts';

/** One image: how it looks, where it is used, and for which other it stands in. */
const { asset } = defineProps<{ asset: ListedAsset }>();
const assets = useAssets();
const library = useLibrary();
const session = useSession();
const { attempt } = useAttempts();
const isOpen = ref(false);
const reach = shallowRef<Reach>();
const scheme = 'asset:';
/** The reference of an image, which AssetSelect takes; `''` for none. */
const referenceOf = (id: string | null): string => (id === null ? '' : scheme + id);
const base = ref(referenceOf(asset.alternateOf));
const conditions = shallowRef<Readonly<Record<string, string>>>(asset.conditions);

async function open(): Promise<void> {
  isOpen.value = !isOpen.value;
  if (isOpen.value)
    reach.value = await ask(`${session.base}/uses?id=${encodeURIComponent(asset.id)}`, Reach);
}
const keep = (): Promise<boolean> =>
  attempt(() =>
    assets.setAlternate(asset.id, {
      of: base.value === '' ? null : base.value.slice(scheme.length),
      conditions: { ...conditions.value },
    }),
  );
const remove = (): Promise<boolean> => attempt(() => assets.remove(asset.id));
const isChanged = computed(
  () =>
    base.value !== referenceOf(asset.alternateOf) ||
    JSON.stringify(conditions.value) !== JSON.stringify(asset.conditions),
);
const mayKeep = computed(
  () => isChanged.value && (base.value === '' || Object.keys(conditions.value).length > 0),
);
</script>

<template>
  <li>
    <button
      type="button"
      class="plain picture"
      :aria-expanded="isOpen"
      :aria-label="`About ${asset.name}`"
      @click="open"
    >
      <img
        v-if="asset.mediaType.startsWith('image/')"
        :src="assets.fileAddress(asset.id)"
        alt=""
        loading="lazy"
      />
    </button>
    <span>
      {{ asset.name }}
      <FacetBadge
        v-for="tag in tagsOf(asset.conditions, library.facets)"
        :key="`${tag.facet} ${tag.value}`"
        :tag="tag"
      />
    </span>
    <span class="quiet small">
      {{
        asset.width
          ? `${Math.round(asset.width)} × ${Math.round(asset.height ?? 0)}`
          : asset.mediaType
      }}
      <template v-if="asset.alternateOf">
        · for {{ assets.find(asset.alternateOf)?.name ?? asset.alternateOf }}
      </template>
      <template v-else-if="asset.alternates.length > 0">
        · {{ asset.alternates.length }}
        {{ asset.alternates.length === 1 ? 'alternate' : 'alternates' }}
      </template>
    </span>
    <div v-if="isOpen" class="about" role="region" :aria-label="`About ${asset.name}`">
      <span v-if="reach" class="small">
        {{ reach.uses.length === 0 ? 'Shown nowhere by this name.' : 'Shown in ' }}
        <template v-for="(use, index) in reach.uses" :key="use.item.id">
          {{ index > 0 ? ', ' : '' }}
          <router-link :to="{ name: 'write', params: { id: use.item.id } }">
            {{ use.item.title }}
          </router-link>
        </template>
      </span>
      <template v-if="session.may('write') && asset.alternates.length === 0">
        <label class="small">
          Stands in for
          <AssetSelect
            v-model:chosen="base"
            class="base"
            label="Stands in for"
            :among="{ media: 'image', alternates: false }"
            :except="asset.id"
            none="no other image"
          />
        </label>
        <OnlyFor v-if="base !== ''" v-model:conditions="conditions" label="This image" />
        <n-button size="tiny" type="primary" :disabled="!mayKeep" @click="keep">Save</n-button>
      </template>
      <n-popconfirm
        v-if="session.may('write')"
        positive-text="Delete image"
        negative-text="Cancel"
        :positive-button-props="{ type: 'error' }"
        @positive-click="remove"
      >
        <template #trigger>
          <n-button size="tiny" quaternary type="error">Delete image</n-button>
        </template>
        Delete “{{ asset.name }}”? This cannot be undone.
      </n-popconfirm>
    </div>
  </li>
</template>

<style scoped>
li {
  display: grid;
  gap: 2px;
  align-content: start;
}
.picture {
  height: 130px;
  background: #fffdf8;
  border: 1px solid var(--hair);
  border-radius: 4px;
  display: grid;
  place-items: center;
  overflow: hidden;
  padding: 0;
}
.picture img {
  max-width: 100%;
  max-height: 128px;
}
.about {
  display: grid;
  gap: 6px;
  justify-items: start;
  padding: 8px 10px;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 4px;
}
label {
  display: grid;
  gap: 2px;
  color: var(--soft);
}
.base {
  width: 170px;
}
</style>
