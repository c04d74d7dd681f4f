import { Piscina } from 'piscina';
import {
  prepareText,
  type PrepareText,
  type PreparedText,
  type SubmittedText,
} from '../data/preparing.ts';
import { moduleFile, runtimeArguments, warmChild } from '../jobs/warm.ts';
import { drafting, type Difference, type Draft, type Drafting } from '../live/drafting.ts';
import { sanitiseImage, type ImageSanitising } from '../media/image.ts';
import type { Task } from './worker.ts';

/** Works on single texts, documents and drawings that would keep the thread that answers. */
export interface Threads {
  readonly prepareText: PrepareText;
  readonly sanitiseImage: ImageSanitising;
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

const isShort = ({ source, agreed }: SubmittedText): boolean =>
  source.length * (1 + (agreed.rules?.length ?? 0) / rulesPerReading) < shortText;

/**
 * Threads that start when there is something for them, and end when there is nothing for a while.
 * What is very long goes to a process of its own, whose memory is not that of the server.
 */
export function openThreads(): Threads {
  let pool: Piscina | undefined;
  const long = warmChild<Task>('textChild', mostMemoryAfterwards, mostMegabytes);
  const inThread = <Made>(task: Task): Promise<Made> => {
    pool ??= new Piscina({
      filename: moduleFile('worker', import.meta.url),
      execArgv: [...runtimeArguments],
      minThreads: 0,
      maxThreads: 2,
      idleTimeout: 15_000,
      resourceLimits: { maxOldGenerationSizeMb: mostMegabytes },
    });
    return pool.run(task, { signal: AbortSignal.timeout(longestTask) }) as Promise<Made>;
  };
  /** @param length of what it is about, in characters or bytes */
  const elsewhere = <Made>(task: Task, length: number): Promise<Made> =>
    length < longText ? inThread(task) : (long.ask(task, longestTask) as Promise<Made>);
  return {
    prepareText: (submitted) =>
      isShort(submitted)
        ? prepareText(submitted)
        : elsewhere<PreparedText>({ kind: 'text', submitted }, submitted.source.length),
    sanitiseImage: async (bytes, claimed) =>
      bytes.byteLength < smallDrawing
        ? sanitiseImage(bytes, claimed)
        : elsewhere<Awaited<ReturnType<ImageSanitising>>>(
            { kind: 'image', bytes, claimed },
            bytes.byteLength,
          ),
    // Not larger than what is edited on the page.
    drafting: {
      begin: (text) =>
        text.length < shortText ? drafting.begin(text) : inThread({ kind: 'begin', text }),
      draft: (document) =>
        document.length < shortText
          ? drafting.draft(document)
          : inThread<Draft>({ kind: 'draft', document }),
      difference: (document, text) =>
        document.length + text.length < shortText
          ? drafting.difference(document, text)
          : inThread<Difference | undefined>({ kind: 'difference', document, text }),
    },
    close: async () => {
      long.close();
      await pool?.destroy();
    },
  };
}
