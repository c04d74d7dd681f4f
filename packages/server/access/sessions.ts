import { createHash, randomBytes } from 'node:crypto';
import type { OwnSession } from '@ukiyo/contracts';
import { Op } from 'sequelize';
import type { Database } from '../data/database.ts';
import type { SessionRow } from '../data/models.ts';

/**
 * Where people are signed in. A session is a random token in the browser; the server keeps only its
 * hash.
 */
export interface Sessions {
  /** @returns the token for the browser; every sign-in has a new one */
  create(person: string, agent: string): Promise<string>;
  /** The session that a token belongs to, while it lasts; finding it records its use. */
  find(token: string): Promise<{ readonly id: string; readonly person: string } | undefined>;
  /** Records that the session is in use. */
  touch(id: string): Promise<void>;
  /** Those of a list that last, with their people. */
  lasting(ids: readonly string[]): Promise<Map<string, string>>;
  list(person: string): Promise<OwnSession[]>;
  end(person: string, id: string): Promise<boolean>;
  endByToken(token: string): Promise<void>;
  /** Ends every session of a person. */
  endAll(person: string): Promise<number>;
}

/** A session ends so long after it began, used or not. */
export const sessionDays = 14;
/**
 * And this long after its last use. OWASP ASVS 4.0, 3.3.2 asks for 30 minutes at level 2; writers
 * leave their desk for longer.
 */
const idleHours = 24;
/** Using a session is noted at most so often, in milliseconds. */
const noteEvery = 60_000;

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

export function sessionStore({ models }: Database): Sessions {
  const { sessions } = models;
  const lasts = () => ({
    expiresAt: { [Op.gt]: new Date() },
    usedAt: { [Op.gt]: new Date(Date.now() - idleHours * 3_600_000) },
  });
  const note = async (id: string): Promise<void> =>
    void (await sessions.update({ usedAt: new Date() }, { where: { id } }));
  const shown = ({ id, createdAt, usedAt, agent }: SessionRow): OwnSession => ({
    id,
    createdAt: createdAt.toISOString(),
    usedAt: usedAt.toISOString(),
    agent,
  });
  return {
    async create(personId, agent) {
      const token = randomBytes(32).toString('base64url');
      const now = new Date();
      const old = [
        { expiresAt: { [Op.lt]: now } },
        { usedAt: { [Op.lt]: new Date(now.getTime() - idleHours * 3_600_000) } },
      ];
      await sessions.destroy({ where: { [Op.or]: old } });
      await sessions.create({
        id: hashOf(token),
        personId,
        expiresAt: new Date(now.getTime() + sessionDays * 86_400_000),
        createdAt: now,
        usedAt: now,
        agent: agent.slice(0, 300),
      });
      return token;
    },
    async find(token) {
      const id = hashOf(token);
      const row = (await sessions.findOne({ where: { id, ...lasts() } }))?.get();
      if (row && row.usedAt.getTime() < Date.now() - noteEvery) await note(id);
      return row && { id, person: row.personId };
    },
    touch: note,
    async lasting(ids) {
      if (ids.length === 0) return new Map();
      const rows = await sessions.findAll({ where: { id: [...ids], ...lasts() } });
      return new Map(rows.map((row) => [row.get().id, row.get().personId]));
    },
    async list(person) {
      const rows = await sessions.findAll({
        where: { personId: person, ...lasts() },
        order: [['usedAt', 'DESC']],
      });
      return rows.map((row) => shown(row.get()));
    },
    end: async (person, id) => (await sessions.destroy({ where: { id, personId: person } })) > 0,
    endByToken: async (token) => void (await sessions.destroy({ where: { id: hashOf(token) } })),
    endAll: (person) => sessions.destroy({ where: { personId: person } }),
  };
}
