import { fork, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { currentAsker } from '../access/asker.ts';
import { Turns } from '../access/turns.ts';

const isSource = import.meta.url.endsWith('.ts');

/**
 * What a thread or process of this program needs to run a file of it, compiled or from its source.
 */
export const runtimeArguments: readonly string[] = isSource
  ? ['--conditions=source', '--import', 'tsx']
  : ['--enable-source-maps'];
/** The file of a module beside the one that asks. @param url `import.meta.url` of that one */
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

/** An order took longer than it may; what it had begun in the database is taken back. */
export class OutOfTime extends Error {}

/** An order needed more memory than its process may have; what it had begun is taken back, too. */
export class OutOfMemory extends Error {}

/**
 * A warm child process that answers one order after the other, in turns between those who ask, so
 * that the server goes on answering.
 */
export interface WarmChild<Order> {
  /**
   * Rejects when the child fails or ends; the next order starts another one.
   * @param within milliseconds after which it is given up
   */
  ask(order: Order, within?: number): Promise<unknown>;
  /** Orders that are not answered yet. */
  readonly waiting: number;
  close(): void;
}

/**
 * @param mostMemory bytes above which the child is replaced once it has answered
 * @param mostMegabytes of its heap, above which it ends and what was asked for fails
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
    // It can also end while it is not asked for anything.
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
      // One that is ending takes nothing any more.
      worker.send(order, (error) => {
        if (!error) return;
        settle(() => reject(error));
        retire();
      });
    });
  return {
    // One after the other: the second finds what the first has made.
    ask: (order, within) => turns.take(currentAsker(), () => put(order, within)),
    get waiting() {
      return turns.waiting;
    },
    close: retire,
  };
}

/** The other side: answers orders until the parent is gone. */
export function answerOrders(answer: (order: never) => Promise<unknown>): void {
  // A parent that is gone hears nothing any more.
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
