import {
  Item,
  ItemId,
  ListedItem,
  templatesFolder,
  type ItemSummary,
  type NewItem,
} from '@ukiyo/contracts';
import { useDebounceFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { shallowRef, watch, type ShallowRef } from 'vue';
import { z } from 'zod';
import { ask } from './api.ts';
import { useEvents, type Heard } from './events.ts';
import { useSession } from './session.ts';

/** Whether an item is a template. */
export const isTemplate = (item: Pick<ItemSummary, 'folder'> | undefined): boolean =>
  item !== undefined && `${item.folder}/`.startsWith(`${templatesFolder}/`);

/** Summaries of one request; the server takes no more. */
const mostSummaries = 2_000;
/** Milliseconds for which changes of others are collected, and the longest wait of one of them. */
const collecting = 400;
const longestWait = 2_000;

/** `null`: the library has no such item. `undefined`: the server has not answered yet. */
type Known = ListedItem | null | undefined;

/** Whether a change of an item can move it to other lists, or within one. */
const isListedOtherwise = (a: Known, b: Known): boolean =>
  !a ||
  !b ||
  a.title !== b.title ||
  a.type !== b.type ||
  a.folder !== b.folder ||
  a.alternateOf !== b.alternateOf ||
  JSON.stringify(a.conditions) !== JSON.stringify(b.conditions);

/**
 * Requests summaries: those that are needed at the same moment share one request.
 * @param answered receives an answer of the server, with the IDs of the request
 */
class SummaryRequests {
  /** IDs of the next request. */
  readonly #wanted = new Set<string>();
  #request: Promise<void> | undefined;
  /** IDs of requests that are not answered yet. */
  readonly #underWay = new Map<string, Promise<void>>();
  readonly #base: () => string;
  readonly #answered: (found: readonly ListedItem[], asked: readonly string[]) => void;
  readonly #done: () => void;

  constructor(
    base: () => string,
    answered: (found: readonly ListedItem[], asked: readonly string[]) => void,
    done: () => void,
  ) {
    this.#base = base;
    this.#answered = answered;
    this.#done = done;
  }

  underWay(id: string): Promise<void> | undefined {
    return this.#underWay.get(id);
  }

  /** Collects what is needed in the same moment into one request. */
  fetch(id: string): Promise<void> {
    // The server would refuse the whole request.
    if (!ItemId.safeParse(id).success) return Promise.resolve();
    this.#wanted.add(id);
    this.#request ??= Promise.resolve().then(() => this.#fetchWanted());
    this.#underWay.set(id, this.#request);
    return this.#request;
  }

  clear(): void {
    this.#wanted.clear();
    this.#underWay.clear();
  }

  /** @throws ApiError; the IDs then go into the next request */
  async #fetchWanted(): Promise<void> {
    this.#request = undefined;
    const base = this.#base();
    const ids = [...this.#wanted];
    this.#wanted.clear();
    const own = ids.map((id) => this.#underWay.get(id));
    try {
      await this.#fetchAll(base, ids);
    } finally {
      // An ID that was requested again in the meantime is still unanswered.
      ids.forEach((id, at) => this.#underWay.get(id) === own[at] && this.#underWay.delete(id));
    }
    if (base === this.#base()) this.#done();
  }

  async #fetchAll(base: string, ids: readonly string[]): Promise<void> {
    for (let at = 0; at < ids.length; at += mostSummaries) {
      const part = ids.slice(at, at + mostSummaries);
      try {
        const order = { method: 'POST', body: { ids: part } } as const;
        const found = await ask(`${base}/summaries`, z.array(ListedItem), order);
        if (base !== this.#base()) return;
        this.#answered(found, part);
      } catch (error) {
        ids.slice(at).forEach((id) => this.#wanted.add(id));
        throw error;
      }
    }
  }
}

/** Known summaries by ID, each reactive by itself. */
function useKnownItems(base: () => string) {
  const known = new Map<string, ShallowRef<Known>>();
  /** Counts changes that can alter the rows of lists. */
  const listings = shallowRef(0);
  /** Counts the answers about single items. */
  const arrivals = shallowRef(0);
  const requests = new SummaryRequests(base, storeAnswer, () => void (arrivals.value += 1));

  function entryOf(id: string): ShallowRef<Known> {
    const found = known.get(id);
    if (found) return found;
    const entry = shallowRef<Known>(ItemId.safeParse(id).success ? undefined : null);
    known.set(id, entry);
    return entry;
  }
  function storeAnswer(found: readonly ListedItem[], asked: readonly string[]): void {
    take(found);
    const answered = new Set(found.map((item) => item.id));
    asked.filter((id) => !answered.has(id)).forEach(forget);
  }
  /**
   * Stores summaries from the server, except those that are older than a change made on this page.
   */
  function take(items: readonly ListedItem[]): void {
    for (const item of items) {
      const entry = entryOf(item.id);
      const before = entry.value;
      if (before && before.version > item.version) continue;
      entry.value = item;
      if (!before) continue;
      if (isListedOtherwise(before, item)) listings.value += 1;
      countAlternatesAgain(before.alternateOf, item.alternateOf);
    }
  }
  function forget(id: string): void {
    const entry = entryOf(id);
    const before = entry.value;
    entry.value = null;
    if (!before) return;
    listings.value += 1;
    countAlternatesAgain(before.alternateOf, null);
  }
  function countAlternatesAgain(before: string | null, now: string | null): void {
    if (before === now) return;
    for (const id of [before, now]) if (id !== null) fetchKnown([id]);
  }
  /** Requests summaries again that were needed before. */
  function fetchKnown(ids: Iterable<string>): void {
    for (const id of ids) if (known.has(id)) void requests.fetch(id).catch(() => undefined);
  }
  /** Stores the summary of an item that this page has just saved. */
  function keep(item: ItemSummary): void {
    const before = known.get(item.id)?.value;
    take([{ ...item, alternates: before?.alternates ?? 0 }]);
    if (before) return;
    listings.value += 1;
    countAlternatesAgain(null, item.alternateOf);
  }
  function clear(): void {
    known.clear();
    requests.clear();
    listings.value += 1;
  }
  return { known, listings, arrivals, requests, entryOf, take, forget, fetchKnown, keep, clear };
}

/** Follows the changes of others; changes close together share one request. */
function followChanges({ known, listings, forget, fetchKnown }: ReturnType<typeof useKnownItems>) {
  const changed = new Set<string>();
  const fetchChanged = useDebounceFn(
    () => {
      const ids = [...changed];
      changed.clear();
      if (ids.some((id) => !known.get(id)?.value)) listings.value += 1;
      fetchKnown(ids);
    },
    collecting,
    { maxWait: longestWait },
  );
  return (event: Heard): void => {
    if (event.kind === 'missed' || event.kind === 'many-items') {
      listings.value += 1;
      fetchKnown(known.keys());
    } else if (event.kind === 'item-gone') forget(event.id);
    else if (event.kind === 'item') {
      if ((known.get(event.id)?.value?.version ?? 0) >= event.version) return;
      changed.add(event.id);
      void fetchChanged();
    }
  };
}

/**
 * Topics and maps by ID. A summary is requested when it is first needed, together with all others
 * needed at that moment, and again after another person has changed the item. The cost does not
 * depend on the size of the library.
 */
export const useItems = defineStore('items', () => {
  const session = useSession();
  const store = useKnownItems(() => session.base);
  const { listings, arrivals, requests, entryOf, take, keep } = store;
  const address = (id: string): string => `${session.base}/items/${encodeURIComponent(id)}`;
  useEvents().listen(followChanges(store));
  watch(() => session.base, store.clear);

  /** The summary of an item; undefined if there is none, or none has arrived yet. */
  function find(id: string): ListedItem | undefined {
    const entry = entryOf(id);
    if (entry.value === undefined && !requests.underWay(id))
      void requests.fetch(id).catch(() => undefined);
    return entry.value ?? undefined;
  }
  /** Whether the library is known to have no such item. */
  const isMissing = (id: string): boolean => (find(id), entryOf(id).value === null);
  /** The summary of an item, once the server has answered; undefined if there is none. */
  async function load(id: string): Promise<ListedItem | undefined> {
    if (entryOf(id).value === undefined) await (requests.underWay(id) ?? requests.fetch(id));
    return entryOf(id).value ?? undefined;
  }
  const read = (id: string): Promise<Item> => ask(address(id), Item);
  async function create(input: NewItem): Promise<Item> {
    const item = await ask(`${session.base}/items`, Item, { method: 'POST', body: input });
    keep(item);
    return item;
  }
  async function save(id: string, text: string, version: number, note = ''): Promise<Item> {
    const item = await ask(address(id), Item, { method: 'PUT', body: { text, version, note } });
    keep(item);
    return item;
  }
  return { listings, arrivals, find, isMissing, load, take, keep, read, create, save };
});
