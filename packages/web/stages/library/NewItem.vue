<script setup lang="ts">
import { templatesFolder } from '@ukiyo/contracts';
import { ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useAttempts } from '../../parts/attempts.ts';
import { newKinds } from '../../parts/kinds.ts';
import { useAllItems } from '../../parts/itemList.ts';
import { useItems } from '../../parts/items.ts';

const { folder } = defineProps<{ folder: string }>();
const items = useItems();
const router = useRouter();
const { attempt } = useAttempts();
const open = ref(false);
const type = ref<(typeof newKinds)[number]['value']>('task');
const title = ref('');
/** The id of a topic of the team, when the new one begins as it. */
const template = ref('');
function choose(kind: (typeof newKinds)[number]['value']): void {
  type.value = kind;
  template.value = '';
}
const templates = useAllItems(() => ({ kind: 'topic', folder: templatesFolder }));

const form = ref<HTMLFormElement>();
const route = useRoute();
// The command to make one leads here from every screen.
watch(
  () => route.query['new'],
  (asked) => {
    if (asked === undefined) return;
    open.value = true;
    void router.replace({ name: 'library' });
  },
  { immediate: true },
);
/**
 * The hands stay on the keys: the kind first, then the title. With the frame after it is laid out
 * it can be focused.
 */
watch(
  form,
  (shown) =>
    shown &&
    requestAnimationFrame(() =>
      requestAnimationFrame(() => shown.querySelector<HTMLInputElement>('input:checked')?.focus()),
    ),
);

const create = (): Promise<boolean> =>
  attempt(async () => {
    const item = await items.create({
      type: type.value,
      title: title.value.trim(),
      folder,
      ...(template.value === '' ? {} : { template: template.value }),
    });
    open.value = false;
    title.value = '';
    await router.push({ name: item.kind === 'map' ? 'arrange' : 'write', params: { id: item.id } });
  });
</script>

<template>
  <n-popover v-model:show="open" trigger="click" placement="bottom-end">
    <template #trigger><n-button type="primary">New topic</n-button></template>
    <form ref="form" class="new" @submit.prevent="create" @keydown.esc="open = false">
      <fieldset>
        <legend class="small quiet">Kind</legend>
        <n-radio
          v-for="kind in newKinds"
          :key="kind.value"
          name="kind"
          size="small"
          :value="kind.value"
          :checked="template === '' && type === kind.value"
          @update:checked="choose(kind.value)"
        >
          {{ kind.label }}
        </n-radio>
      </fieldset>
      <fieldset v-if="templates.length > 0">
        <legend class="small quiet">Or as the team begins them</legend>
        <n-radio
          v-for="one in templates"
          :key="one.id"
          name="kind"
          size="small"
          :value="one.id"
          :checked="template === one.id"
          @update:checked="template = one.id"
        >
          {{ one.title }}
        </n-radio>
      </fieldset>
      <label class="small quiet" for="new-title">Title</label>
      <n-input
        v-model:value="title"
        :input-props="{ id: 'new-title' }"
        placeholder="Fit the bracket"
      />
      <p class="small quiet">
        {{ folder === '' ? 'Goes into the top folder.' : `Goes into ${folder}.` }}
      </p>
      <n-button type="primary" attr-type="submit" :disabled="title.trim() === ''">Create</n-button>
    </form>
  </n-popover>
</template>

<style scoped>
.new {
  display: grid;
  gap: 8px;
  width: 280px;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px;
}
p {
  margin: 0;
}
</style>
