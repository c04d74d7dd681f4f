import type { Problem } from '@ukiyo/core/problems';
import { useDebounceFn } from '@vueuse/core';
import { wrap } from 'comlink';
import type { Node } from 'prosemirror-model';
import type { Step } from 'prosemirror-transform';
import { onScopeDispose, ref, shallowRef } from 'vue';
import type { Checker, CheckingContext } from './checking.worker.ts';

/** While keys come one after the other, the processor is theirs. */
const settles = 50;
const longest = 400;

/** A checker in a worker. */
interface Elsewhere {
  readonly open: (json: unknown, about: CheckingContext) => Promise<void>;
  readonly check: (
    steps: readonly unknown[],
    missing: readonly string[],
  ) => Promise<ReturnType<Checker['check']>>;
  readonly end: () => void;
}
/** @param failed called when the worker ends by itself: pending questions get no answer then */
function startWorker(failed: () => void): Elsewhere {
  const worker = new Worker(new URL('./checking.worker.ts', import.meta.url), { type: 'module' });
  const { open, check } = wrap<Checker>(worker);
  worker.onerror = failed;
  return { open, check, end: () => worker.terminate() };
}

/** What the open topic refers to, and which of it the library has not. */
class References {
  /** Missing, as far as is known. */
  missing: readonly string[] = [];
  /** What the last check found, and what it took as missing. */
  #found: readonly string[] = [];
  #assumed: readonly string[] = [];
  readonly #isMissing: (id: string) => Promise<boolean>;

  constructor(isMissing: (id: string) => Promise<boolean>) {
    this.#isMissing = isMissing;
  }
  note(found: readonly string[], assumed: readonly string[]): void {
    this.#found = found;
    this.#assumed = assumed;
  }
  /**
   * Asks what is missing now.
   * @returns whether that differs from what the last check took as missing; false where something
   * newer was noted meanwhile
   */
  async lookAgain(): Promise<boolean> {
    const asked = this.#found;
    const answers = await Promise.all(asked.map((id) => this.#isMissing(id)));
    if (asked !== this.#found) return false;
    this.missing = asked.filter((_, at) => answers[at]);
    return this.missing.join() !== this.#assumed.join();
  }
}

/**
 * Problems and words of the open topic, found in a worker that follows it step by step. After a
 * failure the next change begins anew with the document as it stands.
 * @param isMissing whether the library has nothing of an ID that the topic refers to
 */
export function useChecking(isMissing: (id: string) => Promise<boolean>, start = startWorker) {
  const problems = shallowRef<readonly Problem[]>([]);
  const words = ref(0);
  /** Counts the documents that were opened: an answer about an earlier one says nothing. */
  let opened = 0;
  let current: (() => Node) | undefined;
  let known: CheckingContext = { self: '', facets: [], rules: [] };
  const references = new References(isMissing);
  let waiting: unknown[] = [];
  let isBusy = false;
  let checker: Elsewhere | undefined;

  function giveUp(): void {
    checker?.end();
    checker = undefined;
    isBusy = false;
    waiting = [];
  }
  async function run(): Promise<void> {
    if (isBusy || !current) return;
    if (!checker) return open(current, known);
    isBusy = true;
    const about = opened;
    const steps = waiting;
    const against = references.missing;
    waiting = [];
    let report;
    try {
      report = await checker.check(steps, against);
    } catch {
      return giveUp();
    }
    isBusy = false;
    if (about !== opened) return run();
    if (report) {
      problems.value = report.problems;
      words.value = report.words;
      references.note(report.references, against);
      void lookAgain();
    } else if (current) return open(current, known);
    if (waiting.length > 0) return runSoon();
  }
  /** Checks once more where the library has less, or more, than the last check assumed. */
  async function lookAgain(): Promise<void> {
    const about = opened;
    try {
      if ((await references.lookAgain()) && about === opened) await run();
    } catch {
      // Without an answer they count as present; the next check asks again.
    }
  }
  const runSoon = useDebounceFn(run, settles, { maxWait: longest });
  /** @param document gives the document as it stands on the page */
  async function open(document: () => Node, about: CheckingContext): Promise<void> {
    opened += 1;
    current = document;
    if (about.self !== known.self) references.missing = [];
    known = about;
    waiting = [];
    checker ??= start(giveUp);
    checker.open(document().toJSON(), about).catch(giveUp);
    await run();
  }
  function follow(steps: readonly Step[]): void {
    waiting.push(...steps.map((step) => step.toJSON() as unknown));
    void runSoon();
  }
  function close(): void {
    opened += 1;
    current = undefined;
    waiting = [];
    problems.value = [];
    words.value = 0;
  }
  onScopeDispose(() => checker?.end());
  return { problems, words, open, follow, lookAgain, close };
}
