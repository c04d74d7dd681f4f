import { fork, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { currentAsker } from '../access/asker.ts';
import { Turns } from '../access/turns.ts';

const isSource = import.meta.url.endsWith('.ts');

/**
 * What a thread or child process needs to run a file of this program, compiled or as source.
 */
export const runtimeArguments: readonly string[] = isSource
  ? ['--conditions=source', '--import', 'tsx']
  : ['--enable-source-maps'];
/** The path of a module in the folder of the caller. @param url `import.meta.url` of the caller */
export const moduleFile = (name: string, url: string): string =>
  fileURLToPath(new URL(`./${name}.${isSource ? 'ts' : 'js'}`, url));

/**
 * Starts a child process of this folder.
 * @param mostMegabytes of its heap; it ends when it needs more
 */
export function startChild(name: string, mostMegabytes?: number): ChildProcess {
  return fork(moduleFile(name, import.meta.url), {
    execArgv: [
      ...runtimeArguments,
      ...(mostMegabytes === undefined ? [] : [`--max-old-space-size=${mostMegabytes}`]),
    ],
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    serialization: 'advanced',
  });
}

type WarmReport =
  | { readonly kind: 'done'; readonly answer: unknown; readonly memory: number }
  | { readonly kind: 'failed'; readonly message: string };

/** A task took longer than allowed; its transaction is rolled back. */
export class OutOfTime extends Error {}

/** A task needed more memory than its process may use; its transaction is rolled back. */
export class OutOfMemory extends Error {}

/**
 * A child process that is kept running. It carries out one task after the other, taking turns
 * between callers, so that the server stays responsive.
 */
export interface WarmChild<Order> {
  /** Starts the child before there is a task for it. */
  start(): void;
  /**
   * Rejects when the child fails or ends; the next task starts another one.
   * @param within milliseconds after which the task is given up
   */
  ask(order: Order, within?: number): Promise<unknown>;
  /** Number of unfinished tasks. */
  readonly waiting: number;
  close(): void;
}

/**
 * @param mostMemory bytes above which the child is replaced once it has answered
 * @param mostMegabytes of its heap, above which it ends and its task fails
 */
export function warmChild<Order extends object>(
  name: string,
  mostMemory: number,
  mostMegabytes?: number,
): WarmChild<Order> {
  let child: ChildProcess | undefined;
  const turns = new Turns();
  const retire = (): void => {
    child?.kill('SIGKILL');
    child = undefined;
  };
  const running = (): ChildProcess => {
    if (child) return child;
    const started = startChild(name, mostMegabytes);
    // It can also end while it has no task.
    started.once('exit', () => {
      if (child === started) child = undefined;
    });
    return (child = started);
  };
  const put = (order: Order, within: number | undefined): Promise<unknown> =>
    new Promise((resolve, reject) => {
      const worker = running();
      const late =
        within === undefined
          ? undefined
          : setTimeout(() => {
              settle(() => reject(new OutOfTime(`“${name}” took longer than ${within} ms.`)));
              retire();
            }, within);
      const onMessage = (message: unknown): void => {
        const report = message as WarmReport;
        settle(() =>
          report.kind === 'failed' ? reject(new Error(report.message)) : resolve(report.answer),
        );
        if (report.kind === 'done' && report.memory > mostMemory) retire();
      };
      const onExit = (code: number | null, signal: NodeJS.Signals | null): void =>
        settle(() => {
          // So V8 ends a process that has reached the limit of its heap.
          const Ended = signal === 'SIGABRT' ? OutOfMemory : Error;
          reject(new Ended(`The process “${name}” ended (${signal ?? code}).`));
        });
      const settle = (act: () => void): void => {
        clearTimeout(late);
        worker.off('message', onMessage).off('exit', onExit);
        act();
      };
      worker.on('message', onMessage).on('exit', onExit);
      // A child that is ending accepts no more tasks.
      worker.send(order, (error) => {
        if (!error) return;
        settle(() => reject(error));
        retire();
      });
    });
  return {
    start: () => void running(),
    // One after the other: the second task can use what the first has cached.
    ask: (order, within) => turns.take(currentAsker(), () => put(order, within)),
    get waiting() {
      return turns.waiting;
    },
    close: retire,
  };
}

/** The side of the child: carries out tasks until the parent is gone. */
export function answerOrders(answer: (order: never) => Promise<unknown>): void {
  // Sending to a parent that is gone fails, which is ignored.
  const report = (message: WarmReport): void => void process.send?.(message, () => undefined);
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
