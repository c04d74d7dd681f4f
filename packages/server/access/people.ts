import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import type { Person, Role } from '@ukiyo/contracts';
import { Op } from 'sequelize';
import type { Database } from '../data/database.ts';
import type { PersonRow } from '../data/models.ts';

/** People and their sessions. A session is a random token in the browser; the server keeps only its hash. */
export interface People {
  create(person: { name: string; email: string; password: string; role: Role }): Promise<Person>;
  count(): Promise<number>;
  /** A new session's token, or undefined when the address or the password is wrong. */
  signIn(email: string, password: string): Promise<{ token: string; person: Person } | undefined>;
  bySession(token: string): Promise<Person | undefined>;
  signOut(token: string): Promise<void>;
  /** Ends every session of a person. */
  revoke(person: string): Promise<number>;
}

export const sessionDays = 14;

const sessionId = (token: string): string => createHash('sha256').update(token).digest('hex');
const personOf = ({ id, name, email, role }: PersonRow): Person => ({ id, name, email, role });

export function people({ models }: Database): People {
  /** Verified when nobody has the address, so that an answer does not tell by its time whether somebody does. */
  const decoy = hash(randomUUID());
  return {
    async create({ name, email, password, role }) {
      const row = await models.people.create({
        id: randomUUID(),
        name,
        email: email.toLowerCase(),
        passwordHash: await hash(password),
        role,
        active: true,
      });
      return personOf(row.get());
    },
    count: () => models.people.count(),
    async signIn(email, password) {
      const row = (
        await models.people.findOne({ where: { email: email.toLowerCase(), active: true } })
      )?.get();
      const matches = await verify(row?.passwordHash ?? (await decoy), password);
      if (!row || !matches) return undefined;
      const token = randomBytes(32).toString('base64url');
      await models.sessions.destroy({ where: { expiresAt: { [Op.lt]: new Date() } } });
      await models.sessions.create({
        id: sessionId(token),
        personId: row.id,
        expiresAt: new Date(Date.now() + sessionDays * 86_400_000),
      });
      return { token, person: personOf(row) };
    },
    async bySession(token) {
      const session = (
        await models.sessions.findOne({
          where: { id: sessionId(token), expiresAt: { [Op.gt]: new Date() } },
        })
      )?.get();
      const row =
        session &&
        (await models.people.findOne({ where: { id: session.personId, active: true } }))?.get();
      return row && personOf(row);
    },
    signOut: async (token) =>
      void (await models.sessions.destroy({ where: { id: sessionId(token) } })),
    revoke: (person) => models.sessions.destroy({ where: { personId: person } }),
  };
}
