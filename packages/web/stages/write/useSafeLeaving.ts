import { until, useEventListener } from '@vueuse/core';
import { useMessage } from 'naive-ui';
import type { Ref } from 'vue';
import { onBeforeRouteLeave, onBeforeRouteUpdate } from 'vue-router';

const longestWait = 3000;

/**
 * Nobody leaves a text that is not safe: the page waits a moment for it, and otherwise stays open.
 */
export function useSafeLeaving(isSafe: Ref<boolean>): void {
  const message = useMessage();
  async function waitForSafety(): Promise<boolean> {
    await until(isSafe).toBe(true, { timeout: longestWait });
    if (!isSafe.value) message.warning('This is not saved yet, so it stays open.');
    return isSafe.value;
  }
  onBeforeRouteUpdate(waitForSafety);
  onBeforeRouteLeave(waitForSafety);
  useEventListener(window, 'beforeunload', (event) => {
    if (!isSafe.value) event.preventDefault();
  });
}
