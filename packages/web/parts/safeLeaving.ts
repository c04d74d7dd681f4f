import { until, useEventListener } from '@vueuse/core';
import { useMessage } from 'naive-ui';
import type { Ref } from 'vue';
import { onBeforeRouteLeave, onBeforeRouteUpdate } from 'vue-router';

/** The longest wait for automatic saving, in milliseconds. */
const longestWait = 3000;
async function waitFor(isSafe: Ref<boolean>): Promise<boolean> {
  await until(isSafe).toBe(true, { timeout: longestWait });
  return isSafe.value;
}

/**
 * Keeps a screen open until its changes are saved.
 * @param isSafe whether everything is saved
 * @param makeSafe saves the rest and returns whether everything is saved; by default, waits for
 * automatic saving
 */
export function useSafeLeaving(
  isSafe: Ref<boolean>,
  makeSafe: () => Promise<boolean> = () => waitFor(isSafe),
): void {
  const message = useMessage();
  async function leave(): Promise<boolean> {
    if (isSafe.value || (await makeSafe())) return true;
    message.warning('This is not saved yet, so it stays open.');
    return false;
  }
  onBeforeRouteUpdate(leave);
  onBeforeRouteLeave(leave);
  useEventListener(window, 'beforeunload', (event) => {
    if (!isSafe.value) event.preventDefault();
  });
}
