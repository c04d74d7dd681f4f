<script setup lang="ts">
import type { Element } from '@ukiyo/core/markup';
import { readMedia, writeMedia } from '@ukiyo/core/media';
import { useFileDialog } from '@vueuse/core';
import { computed, onMounted, reactive, ref } from 'vue';
import PickOne from '../parts/PickOne.vue';
import { useLibrary } from '../parts/library.ts';
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
const library = useLibrary();
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

const named = (test: RegExp, none: string): { value: string; label: string }[] => [
  { value: '', label: none },
  ...library.assets
    .filter(({ mediaType }) => test.test(mediaType))
    .map(({ id, name }) => ({ value: `asset:${id}`, label: name })),
];
const files = computed(() => named(/^(video|audio)\//u, 'none: at an address'));
const posters = computed(() => named(/^image\//u, 'none'));
const source = computed(() => form.file || form.address.trim());
const refusal = computed(() =>
  source.value === '' || isFile(source.value) || /^https?:\/\/\S+$/iu.test(source.value)
    ? undefined
    : 'An address begins with https://.',
);
const typeOf = (reference: string): string | undefined =>
  library.assets.find(({ id }) => `asset:${id}` === reference)?.mediaType;

const dialog = useFileDialog({
  accept: 'video/mp4,video/webm,audio/mpeg',
  multiple: false,
  reset: true,
});
dialog.onChange(async (chosen) => {
  const reference = chosen?.[0] && (await upload(chosen[0]));
  if (reference !== undefined) form.file = reference;
});
function put(): void {
  if (source.value === '' || refusal.value !== undefined) return;
  emit(
    'choose',
    writeMedia(
      {
        source: source.value,
        description: form.description.trim(),
        poster: form.poster,
        kind: 'video',
      },
      typeOf(source.value),
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
      <label>
        File
        <span class="beside">
          <PickOne v-model:chosen="form.file" label="File" :options="files" />
          <button type="button" class="plain" @click="dialog.open()">From this computer …</button>
        </span>
      </label>
      <label v-if="form.file === ''">
        Address
        <input v-model="form.address" type="text" inputmode="url" placeholder="https://" />
      </label>
      <label>
        Poster
        <PickOne v-model:chosen="form.poster" label="Poster" :options="posters" />
      </label>
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
label {
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
