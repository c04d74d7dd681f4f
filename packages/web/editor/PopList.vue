<script setup lang="ts">
import { nextTick, onMounted, ref, useId, watch } from 'vue';
import { useOnceCurrent } from '../parts/onceCurrent.ts';
import type { PopItem, PopPlace } from './popList.ts';

/** A list at the caret that narrows while one types; the arrows and Enter choose. */
const { label, items, place, empty, keepsPlace, isLoading } = defineProps<{
  label: string;
  items: readonly PopItem[];
  place: PopPlace;
  empty: string;
  /** Stays at the chosen one when only what is said of the items changes. */
  keepsPlace?: boolean;
  /** The items are still those of an earlier query. */
  isLoading?: boolean;
}>();
const emit = defineEmits<{ choose: [PopItem]; into: [PopItem]; close: [] }>();
const query = defineModel<string>('query', { required: true });
const chosen = ref(0);
const field = ref<HTMLInputElement>();
const id = useId();
const px = (value: number | undefined): string => (value === undefined ? 'auto' : `${value}px`);

watch(
  () => items,
  (now, before) => {
    if (!keepsPlace || now.length !== before.length) chosen.value = 0;
  },
);
onMounted(() => field.value?.focus());
const once = useOnceCurrent(() => !isLoading);

function onKey(event: KeyboardEvent): void {
  if (once.hold(event)) return;
  const count = items.length;
  const item = items[chosen.value];
  const choose = (): void => {
    const now = items[chosen.value];
    if (now) emit('choose', now);
  };
  const goInto = (): void => {
    const now = items[chosen.value];
    if (now?.hasMore === true) emit('into', now);
  };
  if (event.key === 'ArrowDown') chosen.value = (chosen.value + 1) % Math.max(1, count);
  else if (event.key === 'ArrowUp') chosen.value = (chosen.value + count - 1) % Math.max(1, count);
  else if (event.key === 'Enter' && (item || isLoading)) once.act(choose);
  else if (event.key === 'Tab' && (item?.hasMore === true || isLoading)) once.act(goInto);
  else if (event.key === 'Escape') emit('close');
  else return;
  event.preventDefault();
  // Around it Esc may close something else.
  event.stopPropagation();
  void nextTick(() =>
    document.getElementById(`${id}-${chosen.value}`)?.scrollIntoView({ block: 'nearest' }),
  );
}
</script>

<template>
  <div
    class="pop"
    role="dialog"
    :aria-label="label"
    :style="{ left: px(place.left), top: px(place.top), bottom: px(place.bottom) }"
  >
    <input
      ref="field"
      v-model="query"
      type="text"
      role="combobox"
      aria-expanded="true"
      :aria-controls="id"
      :aria-activedescendant="`${id}-${chosen}`"
      :aria-label="label"
      :placeholder="label"
      @keydown="onKey"
      @blur="once.isWaiting() || emit('close')"
    />
    <ul :id="id" role="listbox" :aria-label="label" :aria-busy="isLoading">
      <template v-for="(item, index) in items" :key="item.key">
        <li
          v-if="item.head !== undefined && item.head !== items[index - 1]?.head"
          class="head"
          role="presentation"
        >
          {{ item.head }}
        </li>
        <li
          :id="`${id}-${index}`"
          role="option"
          :aria-label="
            [item.head === undefined ? item.label : `${item.head}: ${item.label}`, item.aside]
              .filter(Boolean)
              .join(' ')
          "
          :aria-selected="index === chosen"
          @mousemove="chosen = index"
          @mousedown.prevent="emit('choose', item)"
        >
          <span class="label">
            <img v-if="item.image" :src="item.image" alt="" />
            {{ item.label }}
          </span>
          <span class="quiet small">
            {{ item.aside }}
            <kbd v-if="item.hasMore && index === chosen">Tab</kbd>
          </span>
          <span v-if="item.help" class="quiet small help">{{ item.help }}</span>
        </li>
      </template>
      <li v-if="items.length === 0 && !isLoading" class="quiet">{{ empty }}</li>
    </ul>
  </div>
</template>

<style scoped>
.pop {
  position: fixed;
  z-index: 50;
  width: 380px;
  background: var(--sheet);
  border: 1px solid var(--hair);
  border-radius: 4px;
  box-shadow: 0 8px 28px rgb(20 26 40 / 24%);
}
input {
  width: 100%;
  border: 0;
  border-bottom: 1px solid var(--hair);
  padding: 8px 12px;
  background: none;
  color: var(--ink);
  font: 400 15px var(--font-text);
  outline: none;
}
ul {
  list-style: none;
  margin: 0;
  padding: 4px 0;
  max-height: 320px;
  overflow: auto;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 12px;
  padding: 5px 12px;
  cursor: pointer;
}
li[aria-selected='true'] {
  background: var(--wash);
}
.label {
  font-weight: 600;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
img {
  width: 44px;
  height: 30px;
  object-fit: contain;
  vertical-align: middle;
  margin-right: 10px;
  background: var(--paper);
}
.help {
  grid-column: 1 / -1;
}
kbd {
  margin-left: 6px;
}
.head {
  padding: 8px 12px 2px;
  font: 400 13px var(--font-title);
  color: var(--prussian);
  cursor: default;
}
</style>
