import { templatesFolder, type Role } from '@ukiyo/contracts';

/** What a person may do, in the words of the work. Every route names one of these. */
export type Permission = 'read' | 'review' | 'translate' | 'write' | 'publish' | 'administer';

const granted: Record<Role, readonly Permission[]> = {
  administrator: ['read', 'review', 'translate', 'write', 'publish', 'administer'],
  publisher: ['read', 'review', 'translate', 'write', 'publish'],
  writer: ['read', 'review', 'translate', 'write'],
  translator: ['read', 'translate'],
  reviewer: ['read', 'review'],
  reader: ['read'],
};

export function may(role: Role, permission: Permission): boolean {
  return granted[role].includes(permission);
}

/** Whether a person may change what lies in a folder: what others begin as is for administrators. */
export function mayChange(role: Role, folder: string): boolean {
  return may(
    role,
    folder === templatesFolder || folder.startsWith(`${templatesFolder}/`) ? 'administer' : 'write',
  );
}
