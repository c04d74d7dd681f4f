import type { Item, SaveItem } from '@ukiyo/contracts';
import type { ItemStore } from '../data/items.ts';
import type { LiveKey } from '../data/live.ts';
import type { Authority, Replaced } from './authority.ts';

/**
 * The owner of the texts of topics and maps. A text that is read contains every step that its
 * writers got an acknowledgement for; a change to it reaches the editors that have it open. The
 * store that writes a text also notifies of it (`data/notifying.ts`).
 */
export interface Texts {
  /** Undefined where there is none. */
  read(key: LiveKey): Promise<Item | undefined>;
  /**
   * @param author name of the person
   * @returns undefined where there is no such topic or map; `conflict` when `change.version` is not
   * the version that is stored
   */
  write(key: LiveKey, change: SaveItem, author: string): Promise<Replaced>;
  /** Writes all acknowledged steps of a project into the texts, before many of them are read. */
  flushAll(project: string): Promise<void>;
}

export function textService(items: ItemStore, authority: Authority): Texts {
  return {
    async read(key) {
      await authority.flush(key);
      return items.find(key.project, key.item);
    },
    async write(key, change, author) {
      const outcome = await items.save(key.project, key.item, change, author);
      return outcome && 'live' in outcome
        ? authority.replace(key, change, { client: 'text', name: author })
        : outcome;
    },
    flushAll: authority.flushAll,
  };
}
