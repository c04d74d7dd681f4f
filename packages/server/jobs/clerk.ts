import type { Services, Settings } from '../app/services.ts';
import type { Texts } from '../live/texts.ts';
import { warmChild, type WarmChild } from './warm.ts';
import { works, type Works } from './works.ts';

type Tail<List extends readonly unknown[]> = List extends readonly [unknown, ...infer Rest]
  ? Rest
  : never;
type Given<Name extends keyof Works> = Tail<Parameters<Works[Name]>>;
type Answer<Name extends keyof Works> = Awaited<ReturnType<Works[Name]>>;

/** What a clerk is asked to do; `given` is what the work of that name takes. */
export interface Errand {
  readonly settings: Settings;
  readonly name: keyof Works;
  readonly given: readonly unknown[];
}

/** Does the works that the thread that answers must not do itself. */
export interface Clerk {
  /** Gets ready for the first work, so that nobody has to wait for a process to start. */
  start(): void;
  do<Name extends keyof Works>(name: Name, ...given: Given<Name>): Promise<Answer<Name>>;
  close(): void;
}

/** Works on whole libraries, for which others must not wait. */
const bulky: ReadonlySet<keyof Works> = new Set([
  'importPackage',
  'exportPackage',
  'recount',
  'readSource',
  'lookAtSource',
]);
const bulkyWithin = 15 * 60_000;
const quickWithin = 2 * 60_000;
const quickChildren = 2;
/** Above this a child is replaced once it has answered, in bytes. */
const mostMemory = 500 * 1024 * 1024;
/** And so large its heap may become: the texts of the largest package, and what is made of them. */
const mostMegabytes = 1500;

/**
 * Clerks in processes of their own: one for what is bulky, and for the rest as many as there are
 * processors here.
 */
export function createClerk(settings: Settings): Clerk {
  const bulk = warmChild<Errand>('clerkChild', mostMemory, mostMegabytes);
  const quick = Array.from({ length: quickChildren }, () =>
    warmChild<Errand>('clerkChild', mostMemory, mostMegabytes),
  );
  /** The least busy one; of idle ones always the first, so that the others need not start. */
  const free = (): WarmChild<Errand> =>
    quick.reduce((best, one) => (one.waiting < best.waiting ? one : best));
  return {
    start: () => free().start(),
    do: <Name extends keyof Works>(name: Name, ...given: Given<Name>) => {
      const isBulky = bulky.has(name);
      const errand: Errand = { settings, name, given };
      const answer = (isBulky ? bulk : free()).ask(errand, isBulky ? bulkyWithin : quickWithin);
      return answer as Promise<Answer<Name>>;
    },
    close() {
      for (const child of [bulk, ...quick]) child.close();
    },
  };
}

/** Does one errand with the services of this process. */
export function runErrand(services: Services, { name, given }: Omit<Errand, 'settings'>): unknown {
  const work = works[name] as (services: Services, ...given: readonly unknown[]) => unknown;
  return work(services, ...given);
}

/** A clerk in this process, for tests and child processes. */
const localClerk = (services: Services): Clerk => ({
  start: () => undefined,
  do: (async (name: keyof Works, ...given: readonly unknown[]) =>
    runErrand(services, { name, given })) as Clerk['do'],
  close: () => undefined,
});

/** Works that do not read the current texts. */
const textless: ReadonlySet<keyof Works> = new Set(['compareImpressions', 'importPackage']);

/**
 * A clerk whose works read texts with every acknowledged step.
 * @param flushAll writes acknowledged steps into the texts of a project
 */
export const withCurrentTexts = (clerk: Clerk, flushAll: Texts['flushAll']): Clerk => ({
  ...clerk,
  async do<Name extends keyof Works>(name: Name, ...given: Given<Name>): Promise<Answer<Name>> {
    if (!textless.has(name)) await flushAll(given[0]);
    return clerk.do(name, ...given);
  },
});

/** Services with a clerk. */
export interface Equipped extends Services {
  readonly clerk: Clerk;
}

/** @param clerk this process itself where there is none */
export const equip = (services: Services, clerk: Clerk = localClerk(services)): Equipped => ({
  ...services,
  clerk,
});
