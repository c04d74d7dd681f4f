import { templatesFolder, type Role, type TokenAccess } from '@ukiyo/contracts';

/** What a person or a program may do, in the words of the work. Every route names one of these. */
export type Permission =
  'read' | 'review' | 'translate' | 'write' | 'build' | 'publish' | 'administer';

const byRole: Readonly<Record<Role, readonly Permission[]>> = {
  administrator: ['read', 'review', 'translate', 'write', 'build', 'publish', 'administer'],
  publisher: ['read', 'review', 'translate', 'write', 'build', 'publish'],
  writer: ['read', 'review', 'translate', 'write'],
  translator: ['read', 'translate'],
  reviewer: ['read', 'review'],
  reader: ['read'],
};

/**
 * Programs read and build. They change no text, sign nothing off and make no tokens, even with the
 * token of an administrator.
 */
const byToken: Readonly<Record<TokenAccess, readonly Permission[]>> = {
  read: ['read'],
  build: ['read', 'build'],
};

export const permissionsOf = (role: Role): ReadonlySet<Permission> => new Set(byRole[role]);

/** What a token allows: never more than its maker may do now. */
export const permissionsOfToken = (role: Role, access: TokenAccess): ReadonlySet<Permission> =>
  new Set(byToken[access].filter((permission) => byRole[role].includes(permission)));

/**
 * What a change in a folder needs: templates, as which new topics begin, are for administrators.
 */
export const permissionToChange = (folder: string): Permission =>
  folder === templatesFolder || folder.startsWith(`${templatesFolder}/`) ? 'administer' : 'write';
