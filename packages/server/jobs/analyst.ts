import type { ChildProcess } from 'node:child_process';
import type { Settings } from '../app/services.ts';
import type { Answers, Question } from './analysis.ts';
import type { AnalysisOrder, AnalysisReport } from './analystChild.ts';
import { startChild } from './warm.ts';

/** Above this the child is replaced. What it keeps of 10,000 topics takes some 900 MB. */
const mostMemory = 1800 * 1024 * 1024;

/** A warm child process that is asked about whole libraries, so that the server goes on answering meanwhile. */
export interface Analyst {
  ask<Kind extends Question['kind']>(project: string, question: Question & { readonly kind: Kind }): Promise<Answers[Kind]>;
  close(): void;
}

export function createAnalyst(settings: Settings): Analyst {
  let child: ChildProcess | undefined;
  let last: Promise<unknown> = Promise.resolve();
  const retire = (): void => {
    child?.kill('SIGKILL');
    child = undefined;
  };
  const put = (order: AnalysisOrder): Promise<unknown> =>
    new Promise((resolve, reject) => {
      const worker = (child ??= startChild('analystChild'));
      const settle = (act: () => void): void => {
        worker.removeAllListeners('message').removeAllListeners('exit');
        act();
      };
      worker.on('message', (message) => {
        const report = message as AnalysisReport;
        settle(() => (report.kind === 'failed' ? reject(new Error(report.message)) : resolve(report.answer)));
        if (report.kind === 'done' && report.memory > mostMemory) retire();
      });
      worker.on('exit', (code, signal) => {
        child = undefined;
        settle(() => reject(new Error(`The analyst ended (${signal ?? code}).`)));
      });
      worker.send(order);
    });
  return {
    ask<Kind extends Question['kind']>(project: string, question: Question & { readonly kind: Kind }) {
      // One after the other: the second finds what the first has composed.
      const answer = last.then(() => put({ settings, project, question })) as Promise<Answers[Kind]>;
      last = answer.catch(() => undefined);
      return answer;
    },
    close: retire,
  };
}
