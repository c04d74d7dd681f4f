import { defineStore } from 'pinia';
import { ref } from 'vue';

/** What the lines at top and foot say: set by the stage that is open. */
export const usePlace = defineStore('place', () => {
  /** From the project inward. */
  const trail = ref<readonly string[]>([]);
  const saved = ref('');
  const words = ref<number>();
  const problems = ref<number>();
  function clear(): void {
    trail.value = [];
    saved.value = '';
    words.value = undefined;
    problems.value = undefined;
  }
  return { trail, saved, words, problems, clear };
});
