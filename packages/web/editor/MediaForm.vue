<script setup lang="ts">
import type { Element } from '@ukiyo/core/markup';
import { readMedia, writeMedia } from '@ukiyo/core/media';
import { useFileDialog } from '@vueuse/core';
import { computed, onMounted, reactive, ref } from 'vue';
import AssetSelect from '../parts/AssetSelect.vue';
import { useAssets } from '../parts/assets.ts';
import PopFrame from './PopFrame.vue';
import type { PopPlace } from './popList.ts';

/**
 * Asks what is played: a file of the library or of this computer, or an address of the web; with
 * words and a poster.
 */
const { place, before, upload } = defineProps<{
  place: PopPlace;
  before?: Element;
  upload: (file: File) => Promise<string | undefined>;
}>();
const emit = defineEmits<{ choose: [Element]; close: [] }>();
const assets = useAssets();
const was = before && readMedia(before);
const isFile = (reference: string): boolean => reference.startsWith('asset:');
const form = reactive({
  file: was && isFile(was.source) ? was.source : '',
  address: was && !isFile(was.source) ? was.source : '',
  description: was?.description ?? '',
  poster: was?.poster ?? '',
});
const first = ref<HTMLInputElement>();
onMounted(() => first.value?.focus());

const source = computed(() => form.file || form.address.trim());
const refusal = computed(() =>
  source.value === '' || isFile(source.value) || /^https?:\/\/\S+$/iu.test(source.value)
    ? undefined
    : 'An address begins with https://.',
);
/** The media type of a file of the library. */
const typeOf = async (reference: string): Promise<string | undefined> =>
  isFile(reference) ? (await assets.load(reference.slice('asset:'.length)))?.mediaType : undefined;

const dialog = useFileDialog({
  accept: 'video/mp4,video/webm,audio/mpeg',
  multiple: false,
  reset: true,
});
dialog.onChange(async (chosen) => {
  const reference = chosen?.[0] && (await upload(chosen[0]));
  if (reference !== undefined) form.file = reference;
});
async function put(): Promise<void> {
  if (source.value === '' || refusal.value !== undefined) return;
  const type = await typeOf(source.value).catch(() => undefined);
  emit(
    'choose',
    writeMedia(
      {
        source: source.value,
        description: form.description.trim(),
        poster: form.poster,
        kind: 'video',
      },
      type,
      before,
    ),
  );
}
</script>

<template>
  <PopFrame label="Video or sound" :place="place" @close="emit('close')">
    <form class="media-form" @submit.prevent="put">
      <label>
        What it shows or says
        <input ref="first" v-model="form.description" type="text" />
      </label>
      <!-- No labels around the two lists: a click on an option would reach the field again. -->
      <div class="field">
        File
        <span class="beside">
          <AssetSelect
            v-model:chosen="form.file"
            label="File"
            :among="{ media: 'played' }"
            none="none: at an address"
            :to="false"
          />
          <button type="button" class="plain" @click="dialog.open()">From this computer …</button>
        </span>
      </div>
      <label v-if="form.file === ''">
        Address
        <input v-model="form.address" type="text" inputmode="url" placeholder="https://" />
      </label>
      <div class="field">
        Poster
        <AssetSelect
          v-model:chosen="form.poster"
          label="Poster"
          :among="{ media: 'image' }"
          none="none"
          :to="false"
        />
      </div>
      <p v-if="refusal" class="seal-text small" role="alert">{{ refusal }}</p>
      <button type="submit" class="go" :disabled="source === '' || refusal !== undefined">
        {{ before ? 'Keep it' : 'Put it in' }}
        <kbd>Enter</kbd>
      </button>
    </form>
  </PopFrame>
</template>

<style scoped>
.media-form {
  display: grid;
  gap: 8px;
}
label,
.field {
  display: grid;
  gap: 3px;
  font: 400 13px var(--font-text);
  color: var(--soft);
}
.beside {
  display: flex;
  gap: 10px;
  align-items: center;
}
.beside > :first-child {
  flex: 1;
}
p {
  margin: 0;
}
input {
  height: 28px;
  padding: 0 8px;
  border: 1px solid var(--hair);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
  font: 400 15px var(--font-text);
  min-width: 0;
}
.go {
  justify-self: start;
  border: 0;
  border-radius: 4px;
  padding: 5px 12px;
  background: var(--prussian);
  color: var(--on-deep);
  cursor: pointer;
}
.go:disabled {
  opacity: 0.5;
  cursor: default;
}
</style>
