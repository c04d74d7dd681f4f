import type { Person, TokenAccess } from '@ukiyo/contracts';
import type { People } from './people.ts';
import { permissionsOf, permissionsOfToken, type Permission } from './roles.ts';
import type { Sessions } from './sessions.ts';
import type { Tokens } from './tokens.ts';

/** What authenticates a request: a session of a browser, or a token of a program. */
export interface Access {
  readonly kind: 'session' | 'token';
  readonly id: string;
}

/** The person who sends a request, and their permissions. */
export interface Grant {
  readonly access: Access;
  readonly person: Person;
  readonly permissions: ReadonlySet<Permission>;
}

/** An access that lasts, and the id of the person it belongs to. */
interface Owned {
  readonly access: Access;
  readonly owner: string;
  /** What a token allows; a session allows all that its person may do. */
  readonly token?: TokenAccess;
}

/** Finds the person and the permissions behind a session or a token. */
export interface Grants {
  bySession(token: string): Promise<Grant | undefined>;
  byToken(secret: string): Promise<Grant | undefined>;
  /** Grants that are still valid, by the id of their access. */
  standing(accesses: readonly Access[]): Promise<Map<string, Grant>>;
}

export function grantsOf(people: People, sessions: Sessions, tokens: Tokens): Grants {
  /** What people may do by these accesses, where they are active. */
  const granted = async (owned: readonly Owned[]): Promise<Map<string, Grant>> => {
    const active = await people.active([...new Set(owned.map(({ owner }) => owner))]);
    return new Map(
      owned.flatMap(({ access, owner, token }): [string, Grant][] => {
        const person = active.get(owner);
        if (!person) return [];
        const permissions =
          token === undefined ? permissionsOf(person.role) : permissionsOfToken(person.role, token);
        return [[access.id, { access, person, permissions }]];
      }),
    );
  };
  const one = async (owned: Owned | undefined): Promise<Grant | undefined> =>
    owned && (await granted([owned])).get(owned.access.id);
  return {
    async bySession(text) {
      const found = await sessions.find(text);
      return one(found && { access: { kind: 'session', id: found.id }, owner: found.person });
    },
    async byToken(secret) {
      const found = await tokens.find(secret);
      return one(
        found && {
          access: { kind: 'token', id: found.id },
          owner: found.person,
          token: found.access,
        },
      );
    },
    async standing(accesses) {
      const idsOf = (kind: Access['kind']): string[] =>
        accesses.flatMap((access) => (access.kind === kind ? [access.id] : []));
      const [bySession, byToken] = await Promise.all([
        sessions.lasting(idsOf('session')),
        tokens.lasting(idsOf('token')),
      ]);
      return granted(
        accesses.flatMap((access): Owned[] => {
          const token = byToken.get(access.id);
          const owner = token?.person ?? bySession.get(access.id);
          if (owner === undefined) return [];
          return [{ access, owner, ...(token ? { token: token.access } : {}) }];
        }),
      );
    },
  };
}
