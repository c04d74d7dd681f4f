import type { Item, SaveItem } from '@ukiyo/contracts';
import type { ItemStore } from '../data/items.ts';
import type { LiveKey } from '../data/live.ts';
import type { Authority, Replaced } from './authority.ts';

/**
 * The owner of the texts of topics and maps: whoever reads one gets all that was acknowledged to
 * those who write it, and whoever changes one changes it for them as well. That a text has changed
 * is told by what writes it (`data/notifying.ts`).
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
  /** Brings all texts of a project up to date, before something reads many of them. */
  flush(project: string): Promise<void>;
}

export function textsOf(items: ItemStore, authority: Authority): Texts {
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
    flush: authority.flushAll,
  };
}
