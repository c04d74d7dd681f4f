/** A running private cluster. */
export interface Cluster {
  /** Where a database of it is reached. */
  url(database: string): string;
  /** Of the process that takes connections. */
  readonly pid: number;
  /** Resolves when that process has ended, for whatever reason. */
  readonly exited: Promise<unknown>;
  stop(): Promise<void>;
}

export declare function startPostgres(options: {
  /** The folder with PostgreSQL's programs. */
  readonly bin: string;
  readonly dataFolder: string;
  readonly log: (line: string) => void;
}): Promise<Cluster>;
