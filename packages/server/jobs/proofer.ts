import type { Settings } from '../app/services.ts';
import type { ProofAnswers, ProofQuestion } from './proofing.ts';
import type { ProofCommand } from './prooferChild.ts';
import { warmChild } from './warm.ts';

/** Above this the child is replaced: the page engine never gives memory back. */
const mostMemory = 900 * 1024 * 1024;
const mostMemoryOfWholes = 1600 * 1024 * 1024;

/** A warm child process that sets pages to look at; builds have one of their own. */
export interface Proofer {
  ask<Kind extends ProofQuestion['kind']>(
    project: string,
    question: ProofQuestion & { readonly kind: Kind },
  ): Promise<ProofAnswers[Kind]>;
  close(): void;
}

export function createProofer(settings: Settings): Proofer {
  const quick = warmChild<ProofCommand>('prooferChild', mostMemory);
  // Whole manuals take seconds: nobody who writes waits for them.
  const whole = warmChild<ProofCommand>('prooferChild', mostMemoryOfWholes);
  return {
    ask: <Kind extends ProofQuestion['kind']>(
      project: string,
      question: ProofQuestion & { readonly kind: Kind },
    ) =>
      (question.kind === 'whole' ? whole : quick).ask({ settings, project, question }) as Promise<
        ProofAnswers[Kind]
      >,
    close() {
      quick.close();
      whole.close();
    },
  };
}
