import { Piscina } from 'piscina';
import { settleText, type Settle, type Settled, type Unsettled } from '../data/settling.ts';
import { moduleFile, runtimeArguments } from '../jobs/warm.ts';
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
/** What takes longer than this is given up, in milliseconds. */
const longestTask = 30_000;
const mostMegabytes = 512;

const isShort = ({ source, agreed }: Unsettled): boolean =>
  source.length * (1 + (agreed.rules?.length ?? 0) / rulesPerReading) < shortText;

/**
 * Threads that start when there is something for them, and end when there is nothing for a while.
 */
export function openThreads(): Threads {
  let pool: Piscina | undefined;
  const run = (task: Task): Promise<unknown> => {
    pool ??= new Piscina({
      filename: moduleFile('worker', import.meta.url),
      execArgv: [...runtimeArguments],
      minThreads: 0,
      maxThreads: 2,
      idleTimeout: 60_000,
      resourceLimits: { maxOldGenerationSizeMb: mostMegabytes },
    });
    return pool.run(task, { signal: AbortSignal.timeout(longestTask) });
  };
  const draft = async <Name extends keyof Drafting>(
    name: Name,
    ...given: Parameters<Drafting[Name]>
  ): Promise<Awaited<ReturnType<Drafting[Name]>>> => {
    const direct = directDrafting[name] as (...given: string[]) => ReturnType<Drafting[Name]>;
    const isShortDraft = given.reduce((sum, { length }) => sum + length, 0) < shortText;
    return (await (isShortDraft
      ? direct(...given)
      : run({ kind: 'drafting', name, given }))) as Awaited<ReturnType<Drafting[Name]>>;
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
        : ((await run({ kind: 'text', unsettled })) as Settled),
    settleImage: async (bytes, claimed) =>
      bytes.byteLength < smallDrawing
        ? settleImage(bytes, claimed)
        : ((await run({ kind: 'image', bytes, claimed })) as Awaited<ReturnType<ImageSettling>>),
    close: async () => pool?.destroy(),
  };
}
