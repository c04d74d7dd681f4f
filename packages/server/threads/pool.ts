import { Piscina } from 'piscina';
import { settleText, type Settle, type Settled, type Unsettled } from '../data/settling.ts';
import { moduleFile, runtimeArguments, warmChild } from '../jobs/warm.ts';
import { directDrafting, type Drafting } from '../live/drafting.ts';
import { settleImage, type ImageSettling } from '../media/image.ts';
import type { Task } from './worker.ts';

/** Works on single texts, documents and drawings that would keep the thread that answers. */
export interface Threads {
  readonly settleText: Settle;
  readonly settleImage: ImageSettling;
  readonly drafting: Drafting;
  close(): Promise<void>;
}

/** Characters that are looked at without another thread, which costs some milliseconds itself. */
const shortText = 60_000;
const smallDrawing = 60_000;
/** Rules that make checking a text take as long again as reading it. */
const rulesPerReading = 25;
/** What is this long goes to a process of its own. */
const longText = 1_000_000;
/** What takes longer than this is given up, in milliseconds. */
const longestTask = 30_000;
const mostMegabytes = 512;
/** A process that has become larger ends when it has answered, in bytes. */
const mostMemoryAfterwards = 300 * 1024 * 1024;

const isShort = ({ source, agreed }: Unsettled): boolean =>
  source.length * (1 + (agreed.rules?.length ?? 0) / rulesPerReading) < shortText;

/**
 * Threads that start when there is something for them, and end when there is nothing for a while.
 * What is very long goes to a process of its own, whose memory is not that of the server.
 */
export function openThreads(): Threads {
  let pool: Piscina | undefined;
  const long = warmChild<Task>('textChild', mostMemoryAfterwards, mostMegabytes);
  const runInThread = (task: Task): Promise<unknown> => {
    pool ??= new Piscina({
      filename: moduleFile('worker', import.meta.url),
      execArgv: [...runtimeArguments],
      minThreads: 0,
      maxThreads: 2,
      idleTimeout: 15_000,
      resourceLimits: { maxOldGenerationSizeMb: mostMegabytes },
    });
    return pool.run(task, { signal: AbortSignal.timeout(longestTask) });
  };
  /** @param length of what it is about, in characters or bytes */
  const run = (task: Task, length: number): Promise<unknown> =>
    task.kind === 'drafting' || length < longText ? runInThread(task) : long.ask(task, longestTask);
  const draft = async <Name extends keyof Drafting>(
    name: Name,
    ...given: Parameters<Drafting[Name]>
  ): Promise<Awaited<ReturnType<Drafting[Name]>>> => {
    const direct = directDrafting[name] as (...given: string[]) => ReturnType<Drafting[Name]>;
    const length = given.reduce((sum, text) => sum + text.length, 0);
    return (await (length < shortText
      ? direct(...given)
      : run({ kind: 'drafting', name, given }, length))) as Awaited<ReturnType<Drafting[Name]>>;
  };
  return {
    drafting: {
      begin: (text) => draft('begin', text),
      draft: (document) => draft('draft', document),
      difference: (document, text) => draft('difference', document, text),
    },
    settleText: async (unsettled) =>
      isShort(unsettled)
        ? settleText(unsettled)
        : ((await run({ kind: 'text', unsettled }, unsettled.source.length)) as Settled),
    settleImage: async (bytes, claimed) =>
      bytes.byteLength < smallDrawing
        ? settleImage(bytes, claimed)
        : ((await run({ kind: 'image', bytes, claimed }, bytes.byteLength)) as Awaited<
            ReturnType<ImageSettling>
          >),
    close: async () => {
      long.close();
      await pool?.destroy();
    },
  };
}
