/**
 * The process in which editions are built: takes one order after the other from its parent, and can
 * be killed at any time.
 */
import type { Edition, Progress } from '@ukiyo/contracts';
import { makeServices, type Settings } from '../app/services.ts';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { buildEdition, inputsFile, type BuildOutcome } from './build.ts';
import { newBuildCache, type BuildCache } from './composing.ts';
import { gatherInputs, recordedInputs } from './inputs.ts';
import { whyNotWritten } from './folders.ts';

export interface BuildOrder {
  readonly settings: Settings;
  readonly impression: string;
  readonly project: string;
  readonly edition: Edition;
  /** The impression from whose inputs it is built; from what is stored now where there is none. */
  readonly again: string | null;
}

export type BuildReport =
  | { readonly kind: 'progress'; readonly progress: Progress }
  | { readonly kind: 'done'; readonly outcome: BuildOutcome; readonly memory: number }
  | { readonly kind: 'failed'; readonly message: string };

const cache = newBuildCache();
let services: ReturnType<typeof makeServices> | undefined;
// A parent that is gone hears nothing any more.
const report = (message: BuildReport): void => void process.send?.(message, () => undefined);

async function build({ settings, impression, project, edition, again }: BuildOrder): Promise<void> {
  services ??= makeServices(settings, { connections: 2 });
  try {
    const onProgress = (progress: Progress): void => report({ kind: 'progress', progress });
    onProgress({ step: 'Reading the library', done: 0, total: 0 });
    const inputs = await (again === null
      ? gatherInputs(services, project, edition)
      : recordedInputs(join(services.impressionFolder(again), inputsFile)));
    // What was stored then must not stay in the cache as if it were stored now.
    const fresh = (): BuildCache => ({
      ...newBuildCache(),
      ...(cache.engine ? { engine: cache.engine } : {}),
    });
    const outcome = await buildEdition({
      services,
      project,
      cache: again === null ? cache : fresh(),
      inputs,
      folder: services.impressionFolder(impression),
      onProgress,
    });
    report({ kind: 'done', outcome, memory: process.memoryUsage.rss() });
  } catch (error) {
    await rm(services.impressionFolder(impression), { recursive: true, force: true }).catch(
      () => undefined,
    );
    report({
      kind: 'failed',
      message:
        whyNotWritten(error) ??
        (error instanceof Error ? (error.stack ?? error.message) : String(error)),
    });
  }
}

process.on('message', (order) => void build(order as BuildOrder));
process.on('disconnect', () => process.exit(0));
