import type { ComputedRef, InjectionKey, Ref } from 'vue';

export type ThemeChoice = 'system' | 'light' | 'dark';

export const themeKey: InjectionKey<{ choice: Ref<ThemeChoice>; dark: ComputedRef<boolean> }> =
  Symbol('theme');
