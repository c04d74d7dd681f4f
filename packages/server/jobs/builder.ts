import type { ChildProcess } from 'node:child_process';
import { constants, setPriority } from 'node:os';
import type { Progress } from '@ukiyo/contracts';
import type { BuildOutcome } from './build.ts';
import type { BuildOrder, BuildReport } from './builderChild.ts';
import { startChild } from './warm.ts';

/**
 * Above this a builder is replaced after its order is done: the page engine never gives memory
 * back.
 */
const mostMemory = 900 * 1024 * 1024;

export class Cancelled extends Error {}

/**
 * The longest known manual takes a minute on a slow machine; what takes this long, in milliseconds,
 * does not end.
 */
const longestBuild = 20 * 60_000;

/**
 * Starts a builder with a low priority, so that writing does not wait for builds. The priority is
 * set while the child has only its first thread: on Linux a priority belongs to a thread, and only
 * threads started later inherit it (setpriority(2), “C library/kernel differences”).
 */
function startGivingWay(): ChildProcess {
  const child = startChild('builderChild');
  if (child.pid !== undefined) setPriority(child.pid, constants.priority.PRIORITY_LOW);
  return child;
}

/** One warm child process that builds; the next order waits until it is free. */
export interface Builder {
  build(order: BuildOrder, onProgress: (progress: Progress) => void): Promise<BuildOutcome>;
  /** Kills the build of an impression, if it runs here. */
  cancel(impression: string): boolean;
  close(): void;
}

/** @param within milliseconds after which a build is given up */
export function createBuilder(within = longestBuild): Builder {
  let child: ChildProcess | undefined;
  let current: string | undefined;
  let cancelled = false;

  const retire = (): void => {
    child?.kill('SIGKILL');
    child = undefined;
  };

  return {
    build(order, onProgress) {
      current = order.impression;
      cancelled = false;
      const worker = (child ??= startGivingWay());
      return new Promise<BuildOutcome>((resolve, reject) => {
        const late = setTimeout(() => {
          settle(() =>
            reject(
              new Error(
                `It took longer than ${Math.round(within / 60_000)} minutes, so it was ` +
                  'stopped. Build parts of the map to find the topic that does not end.',
              ),
            ),
          );
          retire();
        }, within);
        const settle = (act: () => void): void => {
          clearTimeout(late);
          worker.removeAllListeners('message').removeAllListeners('exit');
          current = undefined;
          act();
        };
        worker.on('message', (message) => {
          const report = message as BuildReport;
          if (report.kind === 'progress') onProgress(report.progress);
          else if (report.kind === 'failed') settle(() => reject(new Error(report.message)));
          else {
            settle(() => resolve(report.outcome));
            if (report.memory > mostMemory) retire();
          }
        });
        worker.on('exit', (code, signal) => {
          child = undefined;
          settle(() =>
            reject(
              cancelled ? new Cancelled() : new Error(`The builder ended (${signal ?? code}).`),
            ),
          );
        });
        // One that is ending takes nothing any more.
        worker.send(order, (error) => {
          if (!error) return;
          settle(() => reject(error));
          retire();
        });
      });
    },
    cancel(impression) {
      if (current !== impression || !child) return false;
      cancelled = true;
      child.kill('SIGKILL');
      return true;
    },
    close: retire,
  };
}
