import type { Person } from '@ukiyo/contracts';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import type { People } from '../access/people.ts';
import type { Tokens } from '../access/tokens.ts';
import { may, type Permission } from '../access/roles.ts';

export const sessionCookie = 'ukiyo_session';

declare module 'fastify' {
  interface FastifyRequest {
    person: Person | null;
    /** Whether a program asks, by a token of that person. */
    isProgram: boolean;
  }
  interface FastifyContextConfig {
    /** What the person must be allowed; `anyone` needs no session. Every route has one. */
    permission?: Permission | 'anyone';
  }
}

/** A refusal that a person sees: a code, one sentence, and the status of HTTP. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

export const notFound = (what: string): Refused =>
  new Refused(404, 'not-found', `There is no such ${what}.`);

export function personOf(request: FastifyRequest): Person {
  if (!request.person) throw new Refused(401, 'signed-out', 'Please sign in.');
  return request.person;
}

const isApi = (url: string): boolean => url.startsWith('/api/');

/** Asks for each request who it is from and whether they may do it; a route of the API without a permission does not start. */
export function guard(app: FastifyInstance, people: People, tokens: Tokens): void {
  app.decorateRequest('person', null);
  app.decorateRequest('isProgram', false);
  app.addHook('onRoute', (route) => {
    if (isApi(route.url) && route.config?.permission === undefined && route.method !== 'HEAD')
      throw new Error(`The route ${route.url} does not say who may use it`);
  });
  app.addHook('onRequest', async (request: FastifyRequest, _reply: FastifyReply) => {
    // The files of the interface itself are for anyone; they hold nothing of the library.
    const { permission = isApi(request.url) ? ('administer' as const) : ('anyone' as const) } =
      request.routeOptions.config;
    const { origin } = request.headers;
    // A line for live editing begins as a GET.
    const changes =
      (request.method !== 'GET' && request.method !== 'HEAD') ||
      request.headers.upgrade !== undefined;
    if (
      changes &&
      origin !== undefined &&
      (!URL.canParse(origin) || new URL(origin).host !== request.headers.host)
    )
      throw new Refused(403, 'foreign-origin', 'This request comes from another site.');
    const secret = /^Bearer (\S+)$/iu.exec(request.headers.authorization ?? '')?.[1];
    request.isProgram = secret !== undefined;
    const session = request.cookies[sessionCookie];
    request.person =
      (secret !== undefined
        ? await tokens.personBy(secret)
        : session === undefined
          ? undefined
          : await people.bySession(session)) ?? null;
    if (permission === 'anyone' || request.is404) return;
    if (!may(personOf(request).role, permission))
      throw new Refused(403, 'not-allowed', 'Your role does not allow this.');
  });
}
