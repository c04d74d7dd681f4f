import { createHash, randomBytes, randomUUID } from 'node:crypto';
import type { MadeToken, Person, Token } from '@ukiyo/contracts';
import type { Database } from '../data/database.ts';
import type { TokenRow } from '../data/models.ts';
import { may } from './roles.ts';

/** What programs show instead of a password: each belongs to a person, and may do no more than that person. The server keeps only hashes. */
export interface Tokens {
  list(person: string): Promise<Token[]>;
  create(person: string, input: Pick<Token, 'name' | 'access'>): Promise<MadeToken>;
  remove(person: string, id: string): Promise<boolean>;
  /** The person as whom a token acts, with what it may do. */
  personBy(secret: string): Promise<Person | undefined>;
}

/** A secret of ours is known by how it begins, wherever somebody finds it. */
const beginning = 'ukiyo_';
const hashOf = (secret: string): string => createHash('sha256').update(secret).digest('hex');
const tokenOf = ({ id, name, access, createdAt, usedAt }: TokenRow): Token => ({
  id,
  name,
  access,
  createdAt: createdAt.toISOString(),
  usedAt: usedAt?.toISOString() ?? null,
});

export function tokenStore({ models }: Database): Tokens {
  const { tokens, people } = models;
  return {
    list: async (person) =>
      (await tokens.findAll({ where: { personId: person }, order: [['createdAt', 'DESC']] })).map(
        (row) => tokenOf(row.get()),
      ),
    async create(person, { name, access }) {
      const secret = `${beginning}${randomBytes(32).toString('base64url')}`;
      const row = await tokens.create({
        id: randomUUID(),
        personId: person,
        name,
        access,
        hash: hashOf(secret),
        createdAt: new Date(),
        usedAt: null,
      });
      return { ...tokenOf(row.get()), secret };
    },
    remove: async (person, id) => (await tokens.destroy({ where: { personId: person, id } })) > 0,
    async personBy(secret) {
      const token = secret.startsWith(beginning)
        ? (await tokens.findOne({ where: { hash: hashOf(secret) } }))?.get()
        : undefined;
      const row =
        token && (await people.findOne({ where: { id: token.personId, active: true } }))?.get();
      if (!token || !row) return undefined;
      await tokens.update({ usedAt: new Date() }, { where: { id: token.id } });
      const role = token.access === 'publish' && may(row.role, 'publish') ? 'publisher' : 'reader';
      return { id: row.id, name: row.name, email: row.email, role };
    },
  };
}
