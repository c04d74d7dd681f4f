import type { Access, Grant, Grants } from './grants.ts';

/** A connection that stays open: an editor's line, or a stream of events. */
interface Line {
  readonly access: Access;
  readonly person: string;
  readonly role: string;
  /** From where it comes. */
  readonly address: string;
  /** What it leads to: a topic, or the events of a project. */
  readonly place: string;
  /** Closes the connection. */
  readonly end: () => void;
}

/**
 * How many may be open at once. A person has some windows with some topics each; an office shares
 * an address; and few topics are edited by more than some dozens of people at once.
 */
export const lineLimits = {
  perPerson: 60,
  perPersonAndPlace: 20,
  perAddress: 400,
  perPlace: 500,
} as const;

/**
 * Interval between checks of all lines, in milliseconds: a session that expires announces nothing.
 */
const checkEvery = 15_000;

/** The open lines of this process: counted against limits, and closed when their session ends. */
export interface OpenLines {
  /** @returns what is called when it has closed; undefined when there are too many already */
  open(line: Line): (() => void) | undefined;
  /** Closes the lines of a person whose session, token or role has changed. */
  recheck(person: string): Promise<void>;
  /** Closes all lines; browsers reconnect and load what they have missed. */
  endAll(): void;
  close(): void;
}

export function openLines(grants: Grants, failed: (error: unknown) => void): OpenLines {
  const lines = new Set<Line>();
  const countOf = (matches: (line: Line) => boolean): number =>
    [...lines].reduce((count, line) => count + Number(matches(line)), 0);
  const holds = (line: Line, grant: Grant | undefined): boolean =>
    grant !== undefined && grant.person.role === line.role;
  const check = async (asked: readonly Line[]): Promise<void> => {
    if (asked.length === 0) return;
    const accesses = [...new Map(asked.map(({ access }) => [access.id, access])).values()];
    const standing = await grants.standing(accesses);
    for (const line of asked) if (!holds(line, standing.get(line.access.id))) line.end();
  };
  const checking = setInterval(() => void check([...lines]).catch(failed), checkEvery);
  checking.unref();
  return {
    open(line) {
      const isOwn = ({ person }: Line): boolean => person === line.person;
      const isThere = ({ place }: Line): boolean => place === line.place;
      const isFull =
        countOf(isOwn) >= lineLimits.perPerson ||
        countOf((one) => isOwn(one) && isThere(one)) >= lineLimits.perPersonAndPlace ||
        countOf(({ address }) => address === line.address) >= lineLimits.perAddress ||
        countOf(isThere) >= lineLimits.perPlace;
      if (isFull) return undefined;
      lines.add(line);
      return () => void lines.delete(line);
    },
    recheck: (person) => check([...lines].filter((line) => line.person === person)),
    endAll() {
      for (const line of lines) line.end();
    },
    close: () => clearInterval(checking),
  };
}
