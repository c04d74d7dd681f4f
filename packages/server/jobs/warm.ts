import { fork, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';

const isSource = import.meta.url.endsWith('.ts');

/** Starts a child process of this folder, compiled or from its source. */
export function startChild(name: string): ChildProcess {
  const file = fileURLToPath(new URL(`./${name}.${isSource ? 'ts' : 'js'}`, import.meta.url));
  return fork(file, {
    execArgv: isSource ? ['--conditions=source', '--import', 'tsx'] : ['--enable-source-maps'],
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    serialization: 'advanced',
  });
}

type WarmReport =
  | { readonly kind: 'done'; readonly answer: unknown; readonly memory: number }
  | { readonly kind: 'failed'; readonly message: string };

/** A warm child process that answers one order after the other, so that the server goes on answering meanwhile. */
export interface WarmChild<Order> {
  /** Rejects when the child fails or ends; the next order starts another one. */
  ask(order: Order): Promise<unknown>;
  close(): void;
}

/** @param mostMemory bytes above which the child is replaced once it has answered */
export function warmChild<Order extends object>(
  name: string,
  mostMemory: number,
): WarmChild<Order> {
  let child: ChildProcess | undefined;
  let last: Promise<unknown> = Promise.resolve();
  const retire = (): void => {
    child?.kill('SIGKILL');
    child = undefined;
  };
  const running = (): ChildProcess => {
    if (child) return child;
    const started = startChild(name);
    // It can also end while it is not asked for anything.
    started.once('exit', () => {
      if (child === started) child = undefined;
    });
    return (child = started);
  };
  const put = (order: Order): Promise<unknown> =>
    new Promise((resolve, reject) => {
      const worker = running();
      const onMessage = (message: unknown): void => {
        const report = message as WarmReport;
        settle(() =>
          report.kind === 'failed' ? reject(new Error(report.message)) : resolve(report.answer),
        );
        if (report.kind === 'done' && report.memory > mostMemory) retire();
      };
      const onExit = (code: number | null, signal: NodeJS.Signals | null): void =>
        settle(() => reject(new Error(`The process “${name}” ended (${signal ?? code}).`)));
      const settle = (act: () => void): void => {
        worker.off('message', onMessage).off('exit', onExit);
        act();
      };
      worker.on('message', onMessage).on('exit', onExit);
      worker.send(order);
    });
  return {
    ask(order) {
      // One after the other: the second finds what the first has made.
      const answer = last.then(() => put(order));
      last = answer.catch(() => undefined);
      return answer;
    },
    close: retire,
  };
}

/** The other side: answers orders until the parent is gone. */
export function answerOrders(answer: (order: never) => Promise<unknown>): void {
  const report = (message: WarmReport): void => void process.send?.(message);
  const take = async (order: unknown): Promise<void> => {
    try {
      report({
        kind: 'done',
        answer: await answer(order as never),
        memory: process.memoryUsage.rss(),
      });
    } catch (error) {
      report({
        kind: 'failed',
        message: error instanceof Error ? (error.stack ?? error.message) : String(error),
      });
    }
  };
  process.on('message', (order) => void take(order));
  process.on('disconnect', () => process.exit(0));
}
