/** The process in which proofs are set. */
import { makeServices, type Settings } from '../app/services.ts';
import { proof, newProofCache, type ProofQuestion } from './proofing.ts';
import { answerOrders } from './warm.ts';

export interface ProofCommand {
  readonly settings: Settings;
  readonly project: string;
  readonly question: ProofQuestion;
}

const cache = newProofCache();
let services: ReturnType<typeof makeServices> | undefined;
answerOrders(({ settings, project, question }: ProofCommand) => {
  services ??= makeServices(settings, { connections: 2 });
  return proof({ services, project, cache }, question);
});
