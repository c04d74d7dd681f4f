import { createHash, randomBytes, randomUUID } from 'node:crypto';
import type { CreatedToken, NewToken, Token, TokenAccess } from '@ukiyo/contracts';
import { Op } from 'sequelize';
import type { Database } from '../data/database.ts';
import type { TokenRow } from '../data/models.ts';

/**
 * What programs show instead of a password: each belongs to a person, and may do no more than that
 * person. The server keeps only hashes.
 */
export interface Tokens {
  list(person: string): Promise<Token[]>;
  create(person: string, input: NewToken): Promise<CreatedToken>;
  revoke(person: string, id: string): Promise<boolean>;
  /** The token that a secret belongs to, until it expires. */
  find(secret: string): Promise<FoundToken | undefined>;
  /** Those of a list that have not expired. */
  lasting(ids: readonly string[]): Promise<Map<string, FoundToken>>;
}

interface FoundToken {
  readonly id: string;
  readonly person: string;
  readonly access: TokenAccess;
}

/** Secrets of Ukiyo begin with this, so that scanners for leaked secrets can recognise them. */
const prefix = 'ukiyo_';
const hashOf = (secret: string): string => createHash('sha256').update(secret).digest('hex');
const tokenOf = ({ id, name, access, createdAt, usedAt, expiresAt }: TokenRow): Token => ({
  id,
  name,
  access,
  createdAt: createdAt.toISOString(),
  usedAt: usedAt?.toISOString() ?? null,
  expiresAt: expiresAt.toISOString(),
});
const found = ({ id, personId, access }: TokenRow): FoundToken => ({
  id,
  person: personId,
  access,
});

export function tokenStore({ models }: Database): Tokens {
  const { tokens } = models;
  const lasts = () => ({ expiresAt: { [Op.gt]: new Date() } });
  return {
    async list(person) {
      const rows = await tokens.findAll({
        where: { personId: person },
        order: [['createdAt', 'DESC']],
      });
      return rows.map((row) => tokenOf(row.get()));
    },
    async create(person, { name, access, days }) {
      const secret = `${prefix}${randomBytes(32).toString('base64url')}`;
      const now = Date.now();
      const row = await tokens.create({
        id: randomUUID(),
        personId: person,
        name,
        access,
        hash: hashOf(secret),
        createdAt: new Date(now),
        usedAt: null,
        expiresAt: new Date(now + days * 86_400_000),
      });
      return { ...tokenOf(row.get()), secret };
    },
    revoke: async (person, id) => (await tokens.destroy({ where: { personId: person, id } })) > 0,
    async find(secret) {
      if (!secret.startsWith(prefix)) return undefined;
      const row = (await tokens.findOne({ where: { hash: hashOf(secret), ...lasts() } }))?.get();
      if (row) await tokens.update({ usedAt: new Date() }, { where: { id: row.id } });
      return row && found(row);
    },
    async lasting(ids) {
      if (ids.length === 0) return new Map();
      const rows = await tokens.findAll({ where: { id: [...ids], ...lasts() } });
      return new Map(rows.map((row) => [row.get().id, found(row.get())]));
    },
  };
}
