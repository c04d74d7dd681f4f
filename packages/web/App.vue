<script setup lang="ts">
import { usePreferredDark, useStorage } from '@vueuse/core';
import { darkTheme } from 'naive-ui';
import { computed, provide, watchEffect } from 'vue';
import { applyTokens, themeOverrides } from './theme/tokens.ts';
import { themeKey, type ThemeChoice } from './theme/choice.ts';

const choice = useStorage<ThemeChoice>('ukiyo-theme', 'system');
const prefersDark = usePreferredDark();
const dark = computed(
  () => choice.value === 'dark' || (choice.value === 'system' && prefersDark.value),
);
provide(themeKey, { choice, dark });
watchEffect(() => applyTokens(dark.value));
const overrides = computed(() => themeOverrides(dark.value));
</script>

<template>
  <n-config-provider class="fill" :theme="dark ? darkTheme : null" :theme-overrides="overrides">
    <n-message-provider><router-view /></n-message-provider>
  </n-config-provider>
</template>

<style>
.fill {
  height: 100%;
}
</style>
