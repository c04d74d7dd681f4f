/** The process in which questions about whole libraries are answered. */
import { makeServices, type Settings } from '../app/services.ts';
import { analyse, newAnalysisCache, type AnalysisQuestion } from './analysis.ts';
import { answerOrders } from './warm.ts';

export interface AnalysisOrder {
  readonly settings: Settings;
  readonly project: string;
  readonly question: AnalysisQuestion;
}

const cache = newAnalysisCache();
let services: ReturnType<typeof makeServices> | undefined;
answerOrders(({ settings, project, question }: AnalysisOrder) => {
  services ??= makeServices(settings, { connections: 2 });
  return analyse({ services, project, cache }, question);
});
