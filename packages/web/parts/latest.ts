import type { ShallowRef } from 'vue';

/**
 * Runs one piece of work at a time, and after it only the newest of what was asked for meanwhile:
 * what lies between is of no use to anybody.
 * @param work what fails says so itself
 */
export function latestOnly<Order>(work: (order: Order) => Promise<void>): (order: Order) => void {
  let isRunning = false;
  let next: { readonly order: Order } | undefined;
  const run = async (order: Order): Promise<void> => {
    isRunning = true;
    await work(order);
    isRunning = false;
    const following = next;
    next = undefined;
    if (following) void run(following.order);
  };
  return (order) => {
    if (isRunning) next = { order };
    else void run(order);
  };
}

const mostReadings = 3;
/**
 * Reads into what is kept. An answer that was under way while the same was changed here does not
 * know of the change: it is asked for once more.
 * @param read what fails goes through to whoever asked
 */
export async function renew<Kept>(
  kept: ShallowRef<Kept>,
  read: () => Promise<Kept>,
): Promise<void> {
  for (let left = mostReadings; ; left -= 1) {
    const before = kept.value;
    const found = await read();
    if (kept.value !== before && left > 1) continue;
    kept.value = found;
    return;
  }
}

/**
 * Loads once: whoever asks while it is under way gets the same answer, and after a failure the next
 * one begins anew.
 */
export function loadOnce(load: () => Promise<void>): () => Promise<void> {
  let loading: Promise<void> | undefined;
  return () =>
    (loading ??= load().catch((error: unknown) => {
      loading = undefined;
      throw error;
    }));
}
