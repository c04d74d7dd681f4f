import type { Settings } from '../app/services.ts';
import type { Texts } from '../live/texts.ts';
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

/**
 * Whether a proof reads stored texts; the text that is being written comes with the question. Pages
 * of a site show the current texts, and their other files were made together with the page.
 */
function readsTexts(question: ProofQuestion): boolean {
  if (question.kind === 'specimen') return false;
  if (question.kind === 'site') return question.path === '' || question.path.endsWith('.html');
  return question.kind === 'whole' || question.text === undefined;
}

/** @param flushAll writes acknowledged steps into the texts of a project */
export function createProofer(settings: Settings, flushAll: Texts['flushAll']): Proofer {
  const quick = warmChild<ProofCommand>('prooferChild', mostMemory);
  // A whole manual takes seconds: writers must not wait for it.
  const whole = warmChild<ProofCommand>('prooferChild', mostMemoryOfWholes);
  return {
    async ask<Kind extends ProofQuestion['kind']>(
      project: string,
      question: ProofQuestion & { readonly kind: Kind },
    ) {
      if (readsTexts(question)) await flushAll(project);
      const child = question.kind === 'whole' ? whole : quick;
      return child.ask({ settings, project, question }) as Promise<ProofAnswers[Kind]>;
    },
    close() {
      quick.close();
      whole.close();
    },
  };
}
