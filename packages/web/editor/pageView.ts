import { useStorage } from '@vueuse/core';
import { computed } from 'vue';
import type { Signs } from './signs.ts';

/** The ways to look at a topic while writing, each one key away. */
export const pageViews = [
  { value: 'plain', label: 'Plain', help: 'The page as it reads', keys: 'Alt 1' },
  { value: 'ladder', label: 'Ladder', help: 'Open elements beside the page', keys: 'Alt 2' },
  { value: 'framed', label: 'Frames', help: 'A hairline around every element', keys: 'Alt 3' },
  {
    value: 'labelled',
    label: 'Labels',
    help: 'Where every element starts and ends',
    keys: 'Alt 4',
  },
] as const;
export type PageView = (typeof pageViews)[number]['value'];

/** The view that the person has chosen; kept in this browser. */
export function usePageView() {
  const view = useStorage<PageView>('ukiyo-page-view', 'ladder');
  const marks = useStorage('ukiyo-page-marks', false);
  /** Whether the facet values of content are shown beside it. */
  const tags = useStorage('ukiyo-page-tags', true);
  const enterAsks = useStorage('ukiyo-enter-asks', false);
  const signs = computed<Signs>(() => ({ labels: view.value === 'labelled', marks: marks.value }));
  return { view, marks, tags, enterAsks, signs };
}
