import { useEventListener } from '@vueuse/core';
import { pageViews, usePageView } from '../editor/pageView.ts';

/**
 * Alt and a number change how the page is looked at.
 * @param others what further numbers do
 * @param mayLook whether the page can be shown now
 */
export function usePageKeys(
  others: Readonly<Record<string, () => void>> = {},
  mayLook: () => boolean = () => true,
): void {
  const { view, marks, tags } = usePageView();
  const all: Readonly<Record<string, () => void>> = {
    8: () => (tags.value = !tags.value),
    ...others,
  };
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (!event.altKey || event.ctrlKey || event.metaKey || event.shiftKey) return;
    const number = /^Digit([1-9])$/u.exec(event.code)?.[1];
    if (number === undefined || (Number(number) > pageViews.length + 1 && !all[number])) return;
    event.preventDefault();
    if (all[number]) return all[number]();
    if (!mayLook()) return;
    const chosen = pageViews[Number(number) - 1];
    if (chosen) view.value = chosen.value;
    else marks.value = !marks.value;
  });
}
