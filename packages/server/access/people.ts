import { randomUUID } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import type { Person, Role } from '@ukiyo/contracts';
import { Turns } from './turns.ts';
import type { Database } from '../data/database.ts';
import type { PersonRow } from '../data/models.ts';

/** The people of an installation and their passwords. */
export interface People {
  create(person: { name: string; email: string; password: string; role: Role }): Promise<Person>;
  count(): Promise<number>;
  /** The person with this address and password; undefined, in the same time, if one is wrong. */
  verified(email: string, password: string): Promise<Person | undefined>;
  /** Those of a list who are active. */
  active(ids: readonly string[]): Promise<Map<string, Person>>;
}

const personOf = ({ id, name, email, role }: PersonRow): Person => ({ id, name, email, role });

export function people({ models }: Database): People {
  /** Verified when no person has the address, so that the time of an answer does not tell. */
  const decoy = hash(randomUUID());
  /**
   * One at a time, in turns between accounts: each takes a processor for a while, and others want
   * to work.
   */
  const turns = new Turns();
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
    async verified(email, password) {
      const where = { email: email.toLowerCase(), active: true };
      const row = (await models.people.findOne({ where }))?.get();
      const known = row?.passwordHash ?? (await decoy);
      const matches = await turns.take(where.email, () => verify(known, password));
      return row && matches ? personOf(row) : undefined;
    },
    async active(ids) {
      const rows = await models.people.findAll({ where: { id: [...ids], active: true } });
      return new Map(rows.map((row) => [row.get().id, personOf(row.get())]));
    },
  };
}
