import type { Person } from '@ukiyo/contracts';
import type { People } from './people.ts';
import { permissionsOf, permissionsOfToken, type Permission } from './roles.ts';
import type { Sessions } from './sessions.ts';
import type { Tokens } from './tokens.ts';

/** By what somebody is let in: a session in a browser, or a token of a program. */
export interface Access {
  readonly kind: 'session' | 'token';
  readonly id: string;
}

/** Who asks, and what they may do. */
export interface Grant {
  readonly access: Access;
  readonly person: Person;
  readonly permissions: ReadonlySet<Permission>;
}

/** Answers who is behind what a request shows, and whether that still holds. */
export interface Grants {
  bySession(token: string): Promise<Grant | undefined>;
  byToken(secret: string): Promise<Grant | undefined>;
  /** Those of a list that still hold, by the id of their access. */
  standing(accesses: readonly Access[]): Promise<Map<string, Grant>>;
}

export function grantsOf(people: People, sessions: Sessions, tokens: Tokens): Grants {
  const standing = async (accesses: readonly Access[]): Promise<Map<string, Grant>> => {
    const idsOf = (kind: Access['kind']): string[] =>
      accesses.flatMap((one) => (one.kind === kind ? [one.id] : []));
    const [bySession, byToken] = await Promise.all([
      sessions.lasting(idsOf('session')),
      tokens.lasting(idsOf('token')),
    ]);
    const owners = [...bySession.values(), ...[...byToken.values()].map(({ person }) => person)];
    const active = await people.active([...new Set(owners)]);
    const grants = accesses.flatMap((access): [string, Grant][] => {
      const token = byToken.get(access.id);
      const person = active.get(token?.person ?? bySession.get(access.id) ?? '');
      if (!person) return [];
      const permissions = token
        ? permissionsOfToken(person.role, token.access)
        : permissionsOf(person.role);
      return [[access.id, { access, person, permissions }]];
    });
    return new Map(grants);
  };
  return {
    standing,
    async bySession(token) {
      const id = (await sessions.find(token))?.id;
      return id === undefined ? undefined : (await standing([{ kind: 'session', id }])).get(id);
    },
    async byToken(secret) {
      const id = (await tokens.find(secret))?.id;
      return id === undefined ? undefined : (await standing([{ kind: 'token', id }])).get(id);
    },
  };
}
