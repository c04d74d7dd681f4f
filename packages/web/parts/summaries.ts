import { ItemId } from '@ukiyo/contracts';
import { shallowRef, type ShallowRef } from 'vue';
import { z, type ZodType } from 'zod';
import { ask } from './api.ts';

/** Summaries of one request; the server takes no more. */
const mostSummaries = 2_000;

/** Where summaries are requested. */
interface Address<Summary> {
  /** The project that is open, as a path. */
  readonly base: () => string;
  /** The path of the requests below it. */
  readonly path: string;
  readonly schema: ZodType<Summary>;
}

/** Where summaries are requested, and what becomes of them. */
interface Source<Summary> extends Address<Summary> {
  /** Receives an answer of the server, with the IDs of the request. */
  readonly answered: (found: readonly Summary[], asked: readonly string[]) => void;
  readonly done: () => void;
}

/** Requests summaries by ID: those that are needed at the same moment share one request. */
class SummaryRequests<Summary> {
  /** IDs of the next request. */
  readonly #wanted = new Set<string>();
  #request: Promise<void> | undefined;
  /** IDs of requests that are not answered yet. */
  readonly #underWay = new Map<string, Promise<void>>();
  readonly #source: Source<Summary>;

  constructor(source: Source<Summary>) {
    this.#source = source;
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
    const base = this.#source.base();
    const ids = [...this.#wanted];
    this.#wanted.clear();
    const own = ids.map((id) => this.#underWay.get(id));
    try {
      await this.#fetchAll(base, ids);
    } finally {
      // An ID that was requested again in the meantime is still unanswered.
      ids.forEach((id, at) => this.#underWay.get(id) === own[at] && this.#underWay.delete(id));
    }
    if (base === this.#source.base()) this.#source.done();
  }

  async #fetchAll(base: string, ids: readonly string[]): Promise<void> {
    const { path, schema, answered } = this.#source;
    for (let at = 0; at < ids.length; at += mostSummaries) {
      const part = ids.slice(at, at + mostSummaries);
      try {
        const order = { method: 'POST', body: { ids: part } } as const;
        const found = await ask(base + path, z.array(schema), order);
        if (base !== this.#source.base()) return;
        answered(found, part);
      } catch (error) {
        ids.slice(at).forEach((id) => this.#wanted.add(id));
        throw error;
      }
    }
  }
}

/** `null`: the library has none with this ID. `undefined`: the server has not answered yet. */
type Known<Summary> = Summary | null | undefined;

interface Kind<Summary> extends Address<Summary> {
  /** Whether a summary is older than the one that is known. */
  readonly isOlder?: (summary: Summary, known: Summary) => boolean;
  /** Is called after a summary was stored or forgotten. */
  readonly changed: (before: Known<Summary>, now: Summary | null) => void;
}

/**
 * Summaries of one kind by ID, each reactive by itself. One is requested when it is first needed,
 * together with all others needed at that moment.
 */
export function useSummaries<Summary extends { readonly id: string }>(kind: Kind<Summary>) {
  const known = new Map<string, ShallowRef<Known<Summary>>>();
  /** Counts the answers of the server. */
  const arrivals = shallowRef(0);
  const requests = new SummaryRequests<Summary>({
    ...kind,
    answered: storeAnswer,
    done: () => void (arrivals.value += 1),
  });

  function entryOf(id: string): ShallowRef<Known<Summary>> {
    const found = known.get(id);
    if (found) return found;
    const first: Known<Summary> = ItemId.safeParse(id).success ? undefined : null;
    const entry = shallowRef(first) as ShallowRef<Known<Summary>>;
    known.set(id, entry);
    return entry;
  }
  function storeAnswer(found: readonly Summary[], asked: readonly string[]): void {
    take(found);
    const answered = new Set(found.map(({ id }) => id));
    asked.filter((id) => !answered.has(id)).forEach(forget);
  }
  /**
   * Stores summaries from the server, except those that are older than a change made on this page.
   */
  function take(summaries: readonly Summary[]): void {
    for (const summary of summaries) {
      const entry = entryOf(summary.id);
      const before = entry.value;
      if (before && kind.isOlder?.(summary, before)) continue;
      entry.value = summary;
      kind.changed(before, summary);
    }
  }
  function forget(id: string): void {
    const entry = entryOf(id);
    const before = entry.value;
    entry.value = null;
    kind.changed(before, null);
  }
  /** What is known of an ID, without a request. */
  const peek = (id: string): Known<Summary> => known.get(id)?.value;
  /** The summary of an ID; undefined if there is none, or none has arrived yet. */
  function find(id: string): Summary | undefined {
    const entry = entryOf(id);
    if (entry.value === undefined && !requests.underWay(id))
      void requests.fetch(id).catch(() => undefined);
    return entry.value ?? undefined;
  }
  /** Whether the library is known to have none with this ID. */
  const isMissing = (id: string): boolean => (find(id), entryOf(id).value === null);
  /** The summary of an ID, once the server has answered; undefined if there is none. */
  async function load(id: string): Promise<Summary | undefined> {
    if (entryOf(id).value === undefined) await (requests.underWay(id) ?? requests.fetch(id));
    return entryOf(id).value ?? undefined;
  }
  /** Requests summaries again that were needed before. @param ids all of them by default */
  function fetchKnown(ids: Iterable<string> = known.keys()): void {
    for (const id of ids) if (known.has(id)) void requests.fetch(id).catch(() => undefined);
  }
  function clear(): void {
    known.clear();
    requests.clear();
  }
  return { arrivals, peek, find, isMissing, load, take, forget, fetchKnown, clear };
}
