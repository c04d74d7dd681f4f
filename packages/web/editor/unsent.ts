import { del, entries, set } from 'idb-keyval';

/** What an editor has not got acknowledged, with what is needed to go on from there. */
export interface Unsent {
  readonly client: string;
  readonly epoch: string;
  readonly version: number;
  /** The document of that version, without the steps. */
  readonly document: unknown;
  readonly steps: readonly unknown[];
}

const prefix = 'ukiyo-unsent';
const nameOf = (topic: string, client: string): string => `${prefix} ${topic} ${client}`;

/**
 * Marks an editor as alive in this browser for as long as its page is open, so that no other takes
 * its work for left behind.
 */
export function stayAlive(client: string): void {
  void navigator.locks.request(`${prefix} ${client}`, () => new Promise(() => undefined));
}

/** Keeps it in this browser, across reloads and crashes. */
export const keepUnsent = (topic: string, unsent: Unsent): Promise<void> =>
  set(nameOf(topic, unsent.client), unsent);
export const forgetUnsent = (topic: string, client: string): Promise<void> =>
  del(nameOf(topic, client));

/** What an editor of the topic left behind that is no longer there. */
export async function abandonedUnsent(topic: string): Promise<Unsent | undefined> {
  for (const [name, unsent] of await entries<string, Unsent>()) {
    if (name !== nameOf(topic, unsent.client)) continue;
    const isAbandoned = await navigator.locks.request(
      `${prefix} ${unsent.client}`,
      { ifAvailable: true },
      (lock) => lock !== null,
    );
    if (isAbandoned) return unsent;
  }
  return undefined;
}
