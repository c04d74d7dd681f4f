import { defineStore } from 'pinia';
import type { LivePerson } from '@ukiyo/contracts';
import { ref, shallowRef } from 'vue';

/** What the lines at top and foot say: set by the stage that is open. */
export const usePlace = defineStore('place', () => {
  /** From the project inward. */
  const trail = ref<readonly string[]>([]);
  /** The other people in the topic. */
  const people = shallowRef<readonly LivePerson[]>([]);
  const saved = ref('');
  const words = ref<number>();
  const problems = ref<number>();
  function clear(): void {
    trail.value = [];
    people.value = [];
    saved.value = '';
    words.value = undefined;
    problems.value = undefined;
  }
  return { trail, people, saved, words, problems, clear };
});
