/** The process in which editions are built: takes one order after the other from its parent, and can be killed at any time. */
import type { Edition, Progress } from '@ukiyo/contracts';
import { makeServices, type Settings } from '../app/services.ts';
import { buildEdition, workbench, type BuildOutcome } from './build.ts';

export interface BuildOrder {
  readonly settings: Settings;
  readonly impression: string;
  readonly project: string;
  readonly edition: Edition;
}

export type BuildReport =
  | { readonly kind: 'progress'; readonly progress: Progress }
  | { readonly kind: 'done'; readonly outcome: BuildOutcome; readonly memory: number }
  | { readonly kind: 'failed'; readonly message: string };

const bench = workbench();
let services: ReturnType<typeof makeServices> | undefined;
const report = (message: BuildReport): void => void process.send?.(message);

async function build({ settings, impression, project, edition }: BuildOrder): Promise<void> {
  services ??= makeServices(settings, 2);
  try {
    const outcome = await buildEdition(services, project, edition, services.impressionFolder(impression), bench, (progress) => report({ kind: 'progress', progress }));
    report({ kind: 'done', outcome, memory: process.memoryUsage.rss() });
  } catch (error) {
    report({ kind: 'failed', message: error instanceof Error ? (error.stack ?? error.message) : String(error) });
  }
}

process.on('message', (order) => void build(order as BuildOrder));
process.on('disconnect', () => process.exit(0));
