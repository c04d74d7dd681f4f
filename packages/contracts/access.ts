import { z } from 'zod';

export const roles = [
  'administrator',
  'publisher',
  'writer',
  'reviewer',
  'translator',
  'reader',
] as const;
export const Role = z.enum(roles);
export type Role = z.infer<typeof Role>;

export const SignIn = z.object({
  email: z.string().trim().toLowerCase().max(200),
  password: z.string().min(1).max(200),
});
export type SignIn = z.infer<typeof SignIn>;

export const Person = z.object({ id: z.uuid(), name: z.string(), email: z.string(), role: Role });
export type Person = z.infer<typeof Person>;

export const Project = z.object({ id: z.uuid(), name: z.string(), locale: z.string() });
export type Project = z.infer<typeof Project>;

export const Session = z.object({ person: Person, projects: z.array(Project) });
export type Session = z.infer<typeof Session>;

/** What the server answers when it refuses or fails: one plain sentence, with a stable code. */
export const Refusal = z.object({ code: z.string(), message: z.string() });
export type Refusal = z.infer<typeof Refusal>;

/** One of a person's own sign-ins. `agent` is what the browser says of itself. */
export const OwnSession = z.object({
  id: z.string().regex(/^[0-9a-f]{64}$/u),
  createdAt: z.string(),
  usedAt: z.string(),
  agent: z.string(),
});
export type OwnSession = z.infer<typeof OwnSession>;
/** Every sign-in of a person, and which of them asks. */
export const OwnSessions = z.object({
  current: OwnSession.shape.id,
  sessions: z.array(OwnSession),
});
export type OwnSessions = z.infer<typeof OwnSessions>;
