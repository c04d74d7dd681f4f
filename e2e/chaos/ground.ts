import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { startPostgres, type Cluster } from '../../scripts/postgres.mjs';
import { serve, type Served } from '../serving.ts';
import { rest } from './person.ts';

/** What is killed. */
export const victims = ['server', 'builder', 'proofer', 'analyst', 'clerk', 'database'] as const;
export type Victim = (typeof victims)[number];

interface Running {
  readonly pid: number;
  readonly parent: number;
  readonly command: string;
}
/** Every process that runs. */
const running = (): Running[] =>
  readdirSync('/proc')
    .filter((name) => /^\d+$/u.test(name))
    .flatMap((pid) => {
      try {
        const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
        // The program's name is in brackets and may hold spaces; state and parent follow.
        const [state, parent] = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
        const command = readFileSync(`/proc/${pid}/cmdline`, 'utf8');
        return state === 'Z' ? [] : [{ pid: Number(pid), parent: Number(parent), command }];
      } catch {
        return []; // it is gone
      }
    });
const childrenOf = (parent: number): Running[] => running().filter((one) => one.parent === parent);

/** A server over a database cluster of its own; all of it can be killed and is started again. */
export class Ground {
  #cluster: Cluster;
  #server: Served;

  private constructor(
    private readonly postgres: string,
    readonly dataFolder: string,
    private readonly port: number,
    started: { readonly cluster: Cluster; readonly server: Served },
  ) {
    this.#cluster = started.cluster;
    this.#server = started.server;
  }

  /** @param postgres the folder with PostgreSQL's programs */
  static async start(postgres: string, dataFolder: string, port: number): Promise<Ground> {
    const cluster = await startPostgres({ bin: postgres, dataFolder, log: () => undefined });
    const server = await Ground.#serve(cluster, dataFolder, port);
    return new Ground(postgres, dataFolder, port, { cluster, server });
  }
  static #serve(cluster: Cluster, dataFolder: string, port: number): Promise<Served> {
    const ground = { databaseUrl: cluster.url('postgres'), dataFolder };
    // That requests fail while something is killed is what is wanted.
    const settings = { DEMO_FOLDER: join(process.cwd(), 'demo'), LOG_LEVEL: 'fatal' };
    return serve(ground, port, settings);
  }

  get origin(): string {
    return `http://127.0.0.1:${this.port}`;
  }
  /** Whether the server runs; it must not end because something else did. */
  get isServed(): boolean {
    const { exitCode, signalCode } = this.#server.process;
    return exitCode === null && signalCode === null;
  }

  /**
   * Kills one without a warning, and starts again what does not start by itself.
   * @returns false where none was running
   */
  async kill(victim: Victim): Promise<boolean> {
    if (victim === 'database') {
      process.kill(this.#cluster.pid, 'SIGKILL');
      await this.#cluster.exited;
      const { postgres: bin, dataFolder } = this;
      this.#cluster = await startPostgres({ bin, dataFolder, log: () => undefined });
      return true;
    }
    const { process: server } = this.#server;
    if (victim !== 'server') {
      const found = childrenOf(server.pid!).filter((one) =>
        one.command.includes(`/${victim}Child.js`),
      );
      for (const { pid } of found) process.kill(pid, 'SIGKILL');
      return found.length > 0;
    }
    const exited = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGKILL');
    await exited;
    await this.serveAgain();
    return true;
  }

  async serveAgain(): Promise<void> {
    this.#server = await Ground.#serve(this.#cluster, this.dataFolder, this.port);
  }
  /** Stops the server in good order, and waits until what it has started has ended as well. */
  async stopServer(): Promise<void> {
    const children = childrenOf(this.#server.process.pid!).map(({ pid }) => pid);
    await this.#server.stop();
    while (running().some(({ pid }) => children.includes(pid))) await rest(50);
  }
  async stop(): Promise<void> {
    await this.#server.stop();
    await this.#cluster.stop();
  }
}
