<script setup lang="ts">
import { tinykeys } from 'tinykeys';
import { computed, inject, onMounted, onUnmounted, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useSession } from '../parts/session.ts';
import { themeKey } from '../theme/choice.ts';
import { pigmentOf } from '../theme/tokens.ts';
import CommandPalette from './CommandPalette.vue';
import LensChoice from './LensChoice.vue';
import { usePlace } from './place.ts';
import ShortcutList from './ShortcutList.vue';
import { stages } from './stages.ts';

const session = useSession();
const router = useRouter();
const route = useRoute();
/** The stage that is open. */
const here = computed(() => route.meta.stage ?? route.name);
const place = usePlace();
const theme = inject(themeKey);
const finding = ref(false);
const listing = ref(false);
const initialsOf = (name: string): string =>
  name
    .split(' ')
    .map((part) => part[0])
    .join('');
const initials = computed(() => initialsOf(session.person?.name ?? ''));

function switchTheme(): void {
  if (theme) theme.choice.value = theme.dark.value ? 'light' : 'dark';
}
async function signOut(): Promise<void> {
  await session.signOut();
  window.location.assign('/sign-in');
}

const isTyping = (): boolean =>
  document.activeElement?.matches('input, textarea, [contenteditable="true"]') ?? false;
let release: (() => void) | undefined;
onMounted(() => {
  const unlessTyping = (act: () => void) => (event: KeyboardEvent) => {
    if (isTyping()) return;
    event.preventDefault();
    act();
  };
  release = tinykeys(window, {
    '$mod+KeyK': (event) => {
      event.preventDefault();
      finding.value = true;
    },
    'Shift+?': unlessTyping(() => (listing.value = true)),
    ...Object.fromEntries(
      stages.map((stage) => [
        stage.keys,
        unlessTyping(() => void router.push({ name: stage.name })),
      ]),
    ),
  });
});
onUnmounted(() => release?.());
</script>

<template>
  <div class="workshop">
    <header class="top">
      <img src="/seal.svg" alt="" width="30" height="30" class="mark" />
      <span class="name">Ukiyo</span>
      <nav class="trail" aria-label="Where you are">
        <span>{{ session.project?.name }}</span>
        <template v-for="(part, index) in place.trail" :key="index">
          {{ ' ' }}
          <span aria-hidden="true">›</span>
          {{ ' ' }}
          <span :class="{ last: index === place.trail.length - 1 }">{{ part }}</span>
        </template>
      </nav>
      <span class="gap" />
      <ul v-if="place.people.length > 0" class="others" aria-label="Also here">
        <li
          v-for="person in place.people"
          :key="person.client"
          class="face"
          :style="{ background: pigmentOf(person.place) }"
          :title="person.name"
        >
          <span aria-hidden="true">{{ initialsOf(person.name) }}</span>
          <span class="visually-hidden">{{ person.name }}</span>
        </li>
      </ul>
      <LensChoice />
      <button type="button" class="chip" @click="finding = true">
        <span class="quiet">Find or do</span>
        <kbd>Ctrl K</kbd>
      </button>
      <n-popover trigger="click" placement="bottom-end">
        <template #trigger>
          <button
            type="button"
            class="face"
            :aria-label="`${session.person?.name}, ${session.person?.role}`"
          >
            {{ initials }}
          </button>
        </template>
        <div class="person">
          <strong>{{ session.person?.name }}</strong>
          <span class="quiet small">{{ session.person?.role }}</span>
          <n-button size="small" quaternary @click="switchTheme">
            {{ theme?.dark.value ? 'Light' : 'Dark' }} workshop
          </n-button>
          <n-button tag="a" size="small" quaternary href="/notices.txt" target="_blank">
            Licences
          </n-button>
          <n-button size="small" quaternary @click="signOut">Sign out</n-button>
        </div>
      </n-popover>
    </header>
    <nav class="rail" aria-label="Stages">
      <router-link
        v-for="stage in stages"
        :key="stage.name"
        :to="{ name: stage.name }"
        :class="{ on: here === stage.name }"
        :aria-current="here === stage.name ? 'page' : undefined"
      >
        <component :is="stage.icon" :size="22" :stroke-width="1.5" aria-hidden="true" />
        {{ stage.label }}
      </router-link>
    </nav>
    <div class="stage"><router-view /></div>
    <footer class="foot">
      <div id="foot-path" class="path" />
      <span class="gap" />
      <span v-if="place.words !== undefined">{{ place.words }} words</span>
      <span v-if="place.words !== undefined" title="Time to read it, at 200 words a minute">
        {{ Math.max(1, Math.round(place.words / 200)) }} min
      </span>
      <span v-if="place.problems !== undefined" :class="{ 'seal-text': place.problems > 0 }">
        {{ place.problems }} {{ place.problems === 1 ? 'problem' : 'problems' }}
      </span>
      <span v-if="place.saved" role="status">{{ place.saved }}</span>
    </footer>
    <CommandPalette
      v-model:open="finding"
      @theme="switchTheme"
      @sign-out="signOut"
      @shortcuts="listing = true"
    />
    <ShortcutList v-model:open="listing" />
  </div>
</template>

<style scoped>
.workshop {
  height: 100%;
  display: grid;
  grid-template: 46px minmax(0, 1fr) 28px / 72px minmax(0, 1fr);
}
.top {
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 0 14px;
  border-bottom: 1px solid var(--hair);
  background:
    linear-gradient(
      90deg,
      var(--deep) 0,
      color-mix(in srgb, var(--deep) 88%, var(--prussian)) 200px,
      color-mix(in srgb, var(--deep) 55%, var(--paper)) 560px,
      transparent 860px
    ),
    var(--paper);
}
.mark {
  margin-left: 7px;
}
.name {
  font: 500 20px var(--font-title);
  color: var(--on-deep);
}
.trail {
  color: var(--on-deep);
  font-size: 13px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  max-width: 460px;
}
.trail .last {
  font-weight: 600;
}
.gap {
  flex: 1;
}
.chip {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  height: 28px;
  padding: 0 10px;
  border: 1px solid var(--hair);
  border-radius: 4px;
  background: var(--sheet);
  font-size: 13px;
  cursor: pointer;
}
.others {
  display: flex;
  gap: 4px;
  margin: 0;
  padding: 0;
  list-style: none;
}
.others .face {
  cursor: default;
  display: grid;
  place-items: center;
}
.face {
  width: 28px;
  height: 28px;
  border: 0;
  border-radius: 50%;
  background: var(--pine);
  color: var(--sheet);
  font: 600 12px var(--font-text);
  cursor: pointer;
}
.person {
  display: grid;
  gap: 4px;
  min-width: 160px;
}
.rail {
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 2px;
  padding-top: 8px;
  border-right: 1px solid var(--hair);
}
.rail a {
  width: 62px;
  padding: 7px 0 5px;
  display: grid;
  justify-items: center;
  gap: 2px;
  border-radius: 4px;
  color: var(--soft);
  font-size: 13px;
  text-decoration: none;
}
.rail a.on {
  background: var(--deep);
  color: var(--on-deep);
}
.rail a:hover:not(.on) {
  background: var(--paper-deep);
}
.stage {
  min-width: 0;
  min-height: 0;
  overflow: hidden;
}
.foot {
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 0 16px;
  border-top: 1px solid var(--hair);
  background: var(--paper-deep);
  color: var(--soft);
  font-size: 13px;
  white-space: nowrap;
  overflow: hidden;
}
.path {
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
