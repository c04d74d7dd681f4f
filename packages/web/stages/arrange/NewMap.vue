<script setup lang="ts">
import { mapElement } from '@ukiyo/core/arranging';
import { writeCanonical } from '@ukiyo/core/grammar';
import { ref } from 'vue';
import { useRouter } from 'vue-router';
import { useAttempts } from '../../parts/attempts.ts';
import { useItems } from '../../parts/items.ts';

/** Makes a map of topics that were found. */
const { hrefs, label, title } = defineProps<{
  hrefs: () => Promise<readonly string[]>;
  label: string;
  title: string;
}>();
const items = useItems();
const router = useRouter();
const { attempt } = useAttempts();
const isOpen = ref(false);
const name = ref('');
function begin(): void {
  name.value = title;
  isOpen.value = true;
}
const make = (): Promise<boolean> =>
  attempt(async () => {
    const { id, version } = await items.create({
      type: 'map',
      title: name.value.trim(),
      folder: '',
    });
    await items.save(id, writeCanonical(mapElement(id, name.value.trim(), await hrefs())), version);
    isOpen.value = false;
    await router.push({ name: 'arrange', params: { id } });
  });
</script>

<template>
  <form
    v-if="isOpen"
    class="new-map"
    aria-label="New map"
    @submit.prevent="make"
    @keydown.esc="isOpen = false"
  >
    <n-input
      v-model:value="name"
      size="tiny"
      autofocus
      placeholder=""
      :input-props="{ 'aria-label': 'Title of the new map' }"
    />
    <n-button size="tiny" type="primary" attr-type="submit" :disabled="name.trim() === ''">
      Make
    </n-button>
  </form>
  <button v-else type="button" class="plain" @click="begin">{{ label }}</button>
</template>

<style scoped>
.new-map {
  display: flex;
  gap: 6px;
}
button.plain {
  color: var(--prussian);
  text-decoration: underline;
}
</style>
