/** The process in which questions about whole libraries are answered. */
import { makeServices, type Settings } from '../app/services.ts';
import { analyse, analysisBench, type Question } from './analysis.ts';

export interface AnalysisOrder {
  readonly settings: Settings;
  readonly project: string;
  readonly question: Question;
}
export type AnalysisReport = { readonly kind: 'done'; readonly answer: unknown; readonly memory: number } | { readonly kind: 'failed'; readonly message: string };

const bench = analysisBench();
let services: ReturnType<typeof makeServices> | undefined;
const report = (message: AnalysisReport): void => void process.send?.(message);

async function answer({ settings, project, question }: AnalysisOrder): Promise<void> {
  services ??= makeServices(settings, 2);
  try {
    report({ kind: 'done', answer: await analyse(services, project, question, bench), memory: process.memoryUsage.rss() });
  } catch (error) {
    report({ kind: 'failed', message: error instanceof Error ? (error.stack ?? error.message) : String(error) });
  }
}

process.on('message', (order) => void answer(order as AnalysisOrder));
process.on('disconnect', () => process.exit(0));
