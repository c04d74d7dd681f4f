import { useMessage } from 'naive-ui';
import { computed, ref } from 'vue';
import { messageOf } from './api.ts';

/**
 * Runs acts that can fail, and shows once why they failed.
 * @param tell shows a sentence
 */
export function attempts(tell: (sentence: string) => void) {
  const running = ref(0);
  /** @returns whether it was done */
  async function attempt(act: () => Promise<unknown>): Promise<boolean> {
    running.value += 1;
    try {
      await act();
      return true;
    } catch (error) {
      tell(messageOf(error));
      return false;
    } finally {
      running.value -= 1;
    }
  }
  return {
    attempt,
    /** Whether an act is running. */
    isBusy: computed(() => running.value > 0),
  };
}

/** Attempts whose last failure is shown on the screen, until the next attempt. */
export function useFailure() {
  const failure = ref('');
  const { attempt, isBusy } = attempts((sentence) => void (failure.value = sentence));
  return {
    failure,
    isBusy,
    attempt(act: () => Promise<unknown>): Promise<boolean> {
      failure.value = '';
      return attempt(act);
    },
  };
}

/**
 * Loads that nobody asked for, repeated when something changes: their failure is shown until one
 * succeeds.
 */
export function useLoads() {
  const failure = ref('');
  const { attempt, isBusy } = attempts((sentence) => void (failure.value = sentence));
  return {
    failure,
    isBusy,
    async load(read: () => Promise<unknown>): Promise<boolean> {
      const isLoaded = await attempt(read);
      if (isLoaded) failure.value = '';
      return isLoaded;
    },
  };
}

/** Attempts whose failures are shown at the top of the screen until they are closed. */
export function useAttempts() {
  const message = useMessage();
  return attempts((sentence) => void message.error(sentence, { duration: 8000, closable: true }));
}
