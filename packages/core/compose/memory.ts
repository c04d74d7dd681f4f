import type { Element } from '../markup/index.ts';
import type { ResolvedTopic } from './resolve/resolved.ts';

/** Results kept for one text: enough for its places in ten editions. */
const mostOfOneTopic = 64;
const mostSettings = 256;

/**
 * Remembers resolved topics between compositions, so that only changed topics are resolved again.
 * The least recently used are forgotten, and all of a text that is no longer in the library.
 */
export class ComposeMemory {
  readonly #topics = new WeakMap<Element, Map<string, ResolvedTopic>>();
  readonly #settings = new Map<string, number>();
  #count = 0;

  /**
   * A short name for settings with which topics are resolved, the same for the same settings as
   * long as these are remembered.
   */
  settingsName(settings: string): number {
    return recall(this.#settings, settings, mostSettings, () => (this.#count += 1));
  }

  /**
   * @param root of the text
   * @param key of everything else that decides how it is resolved
   * @param isCurrent whether a remembered one is as it would be resolved now
   */
  topic(
    root: Element,
    key: string,
    isCurrent: (topic: ResolvedTopic) => boolean,
    resolve: () => ResolvedTopic,
  ): ResolvedTopic {
    const topics = this.#topics.get(root) ?? new Map<string, ResolvedTopic>();
    this.#topics.set(root, topics);
    const known = topics.get(key);
    if (known && !isCurrent(known)) topics.delete(key);
    return recall(topics, key, mostOfOneTopic, resolve);
  }
}

/** What is under a key, made the first time that it is asked for. */
export function once<Key, Made>(known: Map<Key, Made>, key: Key, make: () => Made): Made {
  const made = known.get(key) ?? make();
  known.set(key, made);
  return made;
}

/** What is under a key, made where there is none; the least recently used of too many goes. */
function recall<Value>(
  kept: Map<string, Value>,
  key: string,
  most: number,
  make: () => Value,
): Value {
  const value = kept.get(key) ?? make();
  kept.delete(key);
  kept.set(key, value);
  if (kept.size > most) kept.delete(kept.keys().next().value!);
  return value;
}
