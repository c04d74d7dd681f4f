import { createHash } from 'node:crypto';
import { QueryTypes } from 'sequelize';
import type { Database } from '../data/database.ts';

/**
 * Counts attempts to sign in before a password is looked at, so that many at once are not all
 * tried.
 */
export interface Attempts {
  /** Counts one. @returns 0 when it may go on, else the seconds after which the next one may */
  admit(from: AttemptFrom): Promise<number>;
  /** It was the right password: nothing is held against the account. */
  succeed(from: AttemptFrom): Promise<void>;
}

interface AttemptFrom {
  readonly email: string;
  readonly address: string;
  /**
   * A browser in which this person has signed in before. It has its own count, so that attempts
   * from elsewhere do not delay its owner.
   */
  readonly device: string | undefined;
}

interface Rule {
  /** Attempts before the first wait. */
  readonly free: number;
  /** The longest wait in seconds; each attempt after the free ones doubles it. */
  readonly longest: number;
}
/**
 * Some seventy guesses an hour at an account; NIST SP 800-63B, 5.2.2 allows a hundred in a row
 * before it must be harder.
 */
const accountRule: Rule = { free: 10, longest: 60 };
/** A whole office can share an address, so more attempts are free and waits are short. */
const addressRule: Rule = { free: 50, longest: 5 };
/** A count begins anew when nothing was tried for so long. */
const restMinutes = 15;

/**
 * Counts an attempt unless it has to wait. One statement, so that of many at the same moment each
 * sees those before it; the clock is read when its turn has come, while `now()` would be that of
 * its beginning.
 */
const countAttempt = `
  INSERT INTO sign_in_attempts AS known (key, failures, last_at, next_at)
    VALUES (:key, 1, clock_timestamp(), clock_timestamp())
  ON CONFLICT (key) DO UPDATE SET
    failures = CASE WHEN known.last_at < clock_timestamp() - :rest::interval
      THEN 1 ELSE known.failures + 1 END,
    last_at = clock_timestamp(),
    next_at = CASE
      WHEN known.last_at < clock_timestamp() - :rest::interval OR known.failures + 1 < :free
        THEN clock_timestamp()
      ELSE clock_timestamp()
        + make_interval(secs => least(:longest, power(2, known.failures + 1 - :free))) END
  WHERE known.next_at <= clock_timestamp()
  RETURNING failures`;

export function signInAttempts({ sequelize }: Database): Attempts {
  /** Keys are hashed, so that the table holds no e-mail addresses. */
  const keyOf = (kind: string, value: string): string =>
    createHash('sha256').update(`${kind}:${value}`).digest('hex');
  const keysOf = ({ email, address, device }: AttemptFrom): [string, Rule][] =>
    device === undefined
      ? [
          [keyOf('account', email), accountRule],
          [keyOf('address', address), addressRule],
        ]
      : [[keyOf('device', `${device}:${email}`), accountRule]];

  const count = async (key: string, { free, longest }: Rule): Promise<number> => {
    const counted = await sequelize.query(countAttempt, {
      replacements: { key, free, longest, rest: `${restMinutes} minutes` },
      type: QueryTypes.SELECT,
    });
    if (counted.length > 0) return 0;
    const [waiting] = await sequelize.query<{ seconds: number }>(
      `SELECT ceil(extract(epoch FROM next_at - clock_timestamp()))::int AS seconds
       FROM sign_in_attempts WHERE key = :key`,
      { replacements: { key }, type: QueryTypes.SELECT },
    );
    return Math.max(1, waiting?.seconds ?? 1);
  };
  return {
    async admit(from) {
      for (const [key, rule] of keysOf(from)) {
        const wait = await count(key, rule);
        if (wait > 0) return wait;
      }
      return 0;
    },
    async succeed(from) {
      const [own, shared] = keysOf(from);
      await sequelize.query(
        `DELETE FROM sign_in_attempts
         WHERE key = :own OR last_at < clock_timestamp() - interval '1 day'`,
        { replacements: { own: own![0] } },
      );
      if (shared)
        await sequelize.query(
          'UPDATE sign_in_attempts SET failures = greatest(0, failures - 1) WHERE key = :key',
          { replacements: { key: shared[0] } },
        );
    },
  };
}
