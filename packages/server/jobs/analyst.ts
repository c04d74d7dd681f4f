import type { Settings } from '../app/services.ts';
import type { Texts } from '../live/texts.ts';
import type { AnalysisAnswers, AnalysisQuestion } from './analysis.ts';
import type { AnalysisOrder } from './analystChild.ts';
import { warmChild } from './warm.ts';

/** Above this the child is replaced. What it keeps of 10,000 topics takes some 900 MB. */
const mostMemory = 1800 * 1024 * 1024;

/** A warm child process that is asked about whole libraries. */
export interface Analyst {
  ask<Kind extends AnalysisQuestion['kind']>(
    project: string,
    question: AnalysisQuestion & { readonly kind: Kind },
  ): Promise<AnalysisAnswers[Kind]>;
  close(): void;
}

/** @param flushAll writes acknowledged steps into the texts of a project */
export function createAnalyst(settings: Settings, flushAll: Texts['flushAll']): Analyst {
  const child = warmChild<AnalysisOrder>('analystChild', mostMemory);
  return {
    async ask<Kind extends AnalysisQuestion['kind']>(
      project: string,
      question: AnalysisQuestion & { readonly kind: Kind },
    ) {
      await flushAll(project);
      return child.ask({ settings, project, question }) as Promise<AnalysisAnswers[Kind]>;
    },
    close: child.close,
  };
}
