import { del, entries, set } from 'idb-keyval';

/** Unacknowledged steps of an editor, with all that is needed to continue from them. */
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

/** The store for unacknowledged steps. */
export interface UnsentStore {
  /**
   * Marks an editor as alive for as long as its page is open, so that no other editor takes over
   * its steps.
   */
  readonly stayAlive: (client: string) => void;
  readonly keep: (topic: string, unsent: Unsent) => Promise<void>;
  readonly forget: (topic: string, client: string) => Promise<void>;
  /** Steps left behind by an editor of the topic whose page is closed. */
  readonly abandoned: (topic: string) => Promise<Unsent | undefined>;
}

/** The store in this browser; it survives reloads and crashes. */
export const unsentStore: UnsentStore = {
  stayAlive: (client) =>
    void navigator.locks.request(`${prefix} ${client}`, () => new Promise(() => undefined)),
  keep: (topic, unsent) => set(nameOf(topic, unsent.client), unsent),
  forget: (topic, client) => del(nameOf(topic, client)),
  async abandoned(topic) {
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
  },
};
